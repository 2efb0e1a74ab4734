"""Encoded pieces in the cache, by their digest."""

from __future__ import annotations

import os
from dataclasses import dataclass
from pathlib import Path

from chapto.media.cache import cache_file, is_whole, part_of, remove, seal, used_now


@dataclass(frozen=True)
class Sort:
    """Where pieces of one sort lie, and how their files end."""

    folder: str
    ending: str


PICTURES, SOUND = Sort("pieces", ".mp4"), Sort("sound-pieces", ".packets")
LOOKED, SHADES = Sort("looked", ".npz"), Sort("shades", ".msgpack")


def kept(digest: str, sort: Sort = PICTURES) -> Path | None:
    """The piece with that digest; None where it is not there or not whole any more."""
    place = cache_file(sort.folder, digest, sort.ending)
    if not is_whole(place):
        return None
    used_now(place)
    return place


def keep(digest: str, data: bytes, sort: Sort = PICTURES) -> Path:
    """Put a piece into the cache: all of it or, at a kill, nothing. `OSError` where that can't be done."""
    place = cache_file(sort.folder, digest, sort.ending)
    place.parent.mkdir(parents=True, exist_ok=True)
    part = part_of(place)
    try:
        part.write_bytes(data)
        os.replace(part, place)
        seal(place)
    finally:
        part.unlink(missing_ok=True)
    return place


def forget(digest: str, sort: Sort = PICTURES) -> None:
    """Take a piece that turned out to be bad out of the cache."""
    remove(cache_file(sort.folder, digest, sort.ending))
