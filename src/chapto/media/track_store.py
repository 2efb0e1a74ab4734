"""Stretches of tracks that were followed before, by what they hang on: in memory, and in the cache."""

from __future__ import annotations

from collections import OrderedDict
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from chapto.bodies.track import Flags, Floats
from chapto.media.cache import cache_file
from chapto.media.kept_arrays import keep_arrays, kept_arrays

REMEMBERED = 4_000
"""Stretches kept in memory: some 20 MB."""
PARTS = ("at", "x", "y", "doubt", "hidden")
"""The curves of a stretch, under whose names they are kept."""


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
    parts = {name: getattr(stretch, name) for name in PARTS}
    keep_arrays(cache_file("tracks", key, ".npz"), parts | {"counts": np.array([stretch.first, stretch.end])})


def _remember(key: str, stretch: Stretch) -> None:
    _known[key] = stretch
    while len(_known) > REMEMBERED:
        _known.popitem(last=False)


def _load(key: str) -> Stretch | None:
    kept = kept_arrays(cache_file("tracks", key, ".npz"), *PARTS, "counts")
    if kept is None or kept["counts"].shape != (2,):
        return None
    first, end = (int(n) for n in kept["counts"])
    parts = {name: kept[name] for name in PARTS}
    n = len(parts["at"])
    is_sound = all(len(p) == n for p in parts.values()) and 0 <= first < end <= n
    return Stretch(**parts, first=first, end=end) if is_sound else None
