"""Where derived media lives, how much room it may take, and how its making is stopped."""

from __future__ import annotations

import contextlib
import os
import shutil
import time
from pathlib import Path

from platformdirs import user_cache_path

FORGOTTEN = 7 * 86_400
"""Seconds after which half-made things of others are thrown away."""


class Cancelled(Exception):
    """Raised inside long work when it was stopped."""


def cache_file(kind: str, key: str, suffix: str) -> Path:
    """The place of one derived file in the XDG cache folder; `key` is a fingerprint."""
    return user_cache_path("chapto") / kind / f"{key}{suffix}"


def used_now(place: Path) -> None:
    """Note that a derived file was used, so that it is among the last to go."""
    with contextlib.suppress(OSError):
        os.utime(place)


def room_taken(folder: Path) -> int:
    """Bytes of all files in `folder` and below."""
    return sum(size for _, size, _ in _aged(folder))


def make_room(folder: Path, limit: int, *, keep: Path | None = None) -> tuple[Path, ...]:
    """Delete what was unused for longest until everything in `folder` takes at most `limit` bytes; `keep` stays.

    Half-made things count too, and go first once they are a week old. Returns what was deleted.
    """
    aged = sorted(_aged(folder))
    taken = sum(size for _, size, _ in aged)
    gone = []
    for when, size, place in aged:
        forgotten = place.is_dir() and time.time() - when > FORGOTTEN
        if (taken > limit or forgotten) and place != keep:
            if place.is_dir():
                shutil.rmtree(place, ignore_errors=True)
            else:
                place.unlink(missing_ok=True)
            taken -= size
            gone.append(place)
    return tuple(gone)


def _aged(folder: Path) -> list[tuple[float, int, Path]]:
    """(last used, bytes, place) of everything directly in `folder`; a folder counts as one with what is in it."""
    found = []
    with contextlib.suppress(OSError):
        for place in folder.iterdir():
            with contextlib.suppress(OSError):
                inside = [f.stat() for f in place.rglob("*")] if place.is_dir() else [place.stat()]
                when = max((s.st_mtime for s in inside), default=place.stat().st_mtime)
                found.append((when, sum(s.st_size for s in inside), place))
    return found
