"""Where derived media lives, and how its making is stopped."""

from __future__ import annotations

from pathlib import Path

from platformdirs import user_cache_path


class Cancelled(Exception):
    """Raised inside long work when it was stopped; nothing half-made is left behind."""


def cache_file(kind: str, key: str, suffix: str) -> Path:
    """The place of one derived file in the XDG cache folder; `key` is a fingerprint."""
    return user_cache_path("chapto") / kind / f"{key}{suffix}"
