"""Stretches of tracks that were followed before, by what they hang on: in memory, and in the cache."""

from __future__ import annotations

import os
import zipfile
from collections import OrderedDict
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from chapto.bodies.track import Flags, Floats
from chapto.media.cache import cache_file, used_now

REMEMBERED = 4_000
"""Stretches kept in memory: some 20 MB."""


@dataclass(frozen=True)
class Stretch:
    """A point followed through some pictures, (n,) each: `at` the seconds into the file at which they begin, its places
    0…1, doubt and whether it is hidden. Only the pictures `first` to `end` (half-open, by place in the stretch) count:
    beyond them it was lost."""

    at: NDArray[np.float64]
    x: Floats
    y: Floats
    doubt: Floats
    hidden: Flags
    first: int
    end: int


_known: OrderedDict[str, Stretch] = OrderedDict()


def recall(key: str) -> Stretch | None:
    """A stretch that was kept under a key."""
    found = _known.get(key)
    if found is None:
        found = _load(key)
        if found is None:
            return None
        _remember(key, found)
    _known.move_to_end(key)
    return found


def keep(key: str, stretch: Stretch) -> None:
    """Keep a stretch; a full or read-only cache only costs time."""
    _remember(key, stretch)
    place = cache_file("tracks", key, ".npz")
    part = place.with_name(f".{key}.{os.getpid()}.npz")
    try:
        place.parent.mkdir(parents=True, exist_ok=True)
        s = stretch
        np.savez(part, at=s.at, x=s.x, y=s.y, doubt=s.doubt, hidden=s.hidden, counts=np.array([s.first, s.end]))
        os.replace(part, place)
    except OSError:
        part.unlink(missing_ok=True)


def _remember(key: str, stretch: Stretch) -> None:
    _known[key] = stretch
    while len(_known) > REMEMBERED:
        _known.popitem(last=False)


def _load(key: str) -> Stretch | None:
    place = cache_file("tracks", key, ".npz")
    try:
        with np.load(place) as data:
            first, end = (int(n) for n in data["counts"])
            found = Stretch(data["at"], data["x"], data["y"], data["doubt"], data["hidden"], first, end)
    except (OSError, ValueError, KeyError, EOFError, zipfile.BadZipFile):
        return None
    n = len(found.at)
    sound = (
        n and all(len(part) == n for part in (found.x, found.y, found.doubt, found.hidden)) and 0 <= first < end <= n
    )
    used_now(place)
    return found if sound else None
