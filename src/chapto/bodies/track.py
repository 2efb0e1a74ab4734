"""Where a point is, picture by picture: measured, or on the straight line between its keys while it is not."""

from __future__ import annotations

from dataclasses import dataclass
from itertools import pairwise

import numpy as np
from numpy.typing import NDArray

Floats = NDArray[np.float32]
Flags = NDArray[np.bool_]


@dataclass(frozen=True)
class Place:
    """A point on a picture, 0…1 of the upright picture as it was filmed. A `hidden` one is only guessed; `doubt` says
    how unsure it is, doubtful from 1 on."""

    x: float
    y: float
    hidden: bool = False
    doubt: float = 0.0


@dataclass(frozen=True)
class Track:
    """A point over the pictures of its footage.

    `at` are the seconds into the file at which the pictures begin, (n,) float64 and rising; `x` and `y` its places
    there, 0…1; `doubt` and `hidden` as in `Place`. It is `measured`, or a straight line that stands in. From `ends` on,
    seconds into the file, nothing is known any more.
    """

    at: NDArray[np.float64]
    x: Floats
    y: Floats
    doubt: Floats
    hidden: Flags
    ends: float
    measured: bool = True

    def place(self, seconds: float) -> Place | None:
        """Where it is in the picture on show at a second of the file; None where it is not known."""
        if not len(self.at) or seconds >= self.ends:
            return None
        # A millionth of a second of slack keeps a time computed from a stamp on that stamp's picture.
        i = int(np.searchsorted(self.at, seconds + 1e-6, side="right")) - 1
        if i < 0:
            return None
        return Place(float(self.x[i]), float(self.y[i]), bool(self.hidden[i]), float(self.doubt[i]))


@dataclass(frozen=True)
class KeyPlace:
    """A key of a point: seconds into the file, place, and whether it is hidden from there on."""

    at: float
    x: float
    y: float
    seen: bool = True


STEP = 1 / 30
"""Seconds between two places of a straight line."""


def straight_line(keys: tuple[KeyPlace, ...], *, reach: float, stays: bool) -> Track:
    """What stands in while nothing is measured: a straight line from key to key, standing still before and after. A
    point that `stays` on its place is there in the whole file, any other for `reach` seconds beyond its keys."""
    first, last = keys[0], keys[-1]
    begin, end = (0.0, float("inf")) if stays else (max(first.at - reach, 0.0), last.at + reach)
    times = [begin, *(k.at for k in keys)]
    for one, other in pairwise(keys):
        times += list(np.arange(one.at, other.at, STEP))
    at = np.unique(np.array(times))
    known = np.array([k.at for k in keys])
    x = np.interp(at, known, [k.x for k in keys]).astype(np.float32)
    y = np.interp(at, known, [k.y for k in keys]).astype(np.float32)
    return Track(at, x, y, np.ones(len(at), np.float32), hidden_at(keys, at), end, measured=False)


def hidden_at(keys: tuple[KeyPlace, ...], at: NDArray[np.float64]) -> Flags:
    """Where the creator said that the point is hidden, (n,)."""
    before = np.searchsorted(np.array([k.at for k in keys]), at + 1e-6, side="right") - 1
    unseen = np.array([not k.seen for k in keys])
    return np.asarray((before >= 0) & unseen[np.maximum(before, 0)])
