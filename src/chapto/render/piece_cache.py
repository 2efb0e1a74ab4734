"""Encoded pieces in the cache, by their digest."""

from __future__ import annotations

import os
from pathlib import Path

from chapto.media.cache import cache_file, is_whole, part_of, remove, seal, used_now

KIND = "pieces"


def kept(digest: str) -> Path | None:
    """The piece with that digest; None where it is not there or not whole any more."""
    place = cache_file(KIND, digest, ".mp4")
    if not is_whole(place):
        return None
    used_now(place)
    return place


def keep(digest: str, data: bytes) -> Path:
    """Put a piece into the cache: all of it or, at a kill, nothing. `OSError` where that can't be done."""
    place = cache_file(KIND, digest, ".mp4")
    place.parent.mkdir(parents=True, exist_ok=True)
    part = part_of(place)
    try:
        part.write_bytes(data)
        os.replace(part, place)
        seal(place)
    finally:
        part.unlink(missing_ok=True)
    return place


def forget(digest: str) -> None:
    """Take a piece that turned out to be bad out of the cache."""
    remove(cache_file(KIND, digest, ".mp4"))
