"""Where in the picture something moves during a stretch of a file: the box that a picture may be cropped to.

A foot that rests belongs to it too: what differs from the file's usual picture and hangs together with what moves.
"""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path

import numpy as np
from numpy.typing import NDArray

from chapto.errors import Cancelled
from chapto.media.cache import cache_file
from chapto.media.coarse_cells import APART, CoarseCells
from chapto.media.kept_arrays import keep_arrays, kept_arrays
from chapto.programme.readings import EVERYWHERE, Action

LOOKS = 16
"""Times at which it is looked, spread over the stretch, at least `CLOSEST` seconds apart."""
CLOSEST = 0.5
HELD = 0.94
"""Share of all motion that lies inside the box: the rest is the referee's, or somebody's at the wall."""
VERSION = 2
_read: dict[Path, Action] = {}


def known_action(fingerprint: str, start: float, end: float) -> Action | None:
    """What was found in that stretch before; None where nobody looked yet."""
    place = _place(fingerprint, start, end)
    if place not in _read:
        kept = kept_arrays(place, "box")
        if kept is None or kept["box"].shape != (4,):
            return None
        _read[place] = Action(*(float(v) for v in kept["box"]))
    return _read[place]


def find_action(
    path: Path, fingerprint: str, start: float, end: float, *, cancelled: Callable[[], bool] = lambda: False
) -> Action:
    """Where it moves between two seconds of the file at `path`, kept in the cache; everywhere if that can't be told.
    Raises `Cancelled` when stopped and `MediaError` when the file can't be read."""
    known = known_action(fingerprint, start, end)
    if known is not None:
        return known
    moved, there = _looked_at(path, fingerprint, start, end, cancelled)
    found = box_of(moved, there)
    _read[_place(fingerprint, start, end)] = found
    keep_arrays(_place(fingerprint, start, end), {"box": np.array([found.left, found.top, found.right, found.bottom])})
    return found


def box_of(moved: NDArray[np.float32], there: NDArray[np.bool_]) -> Action:
    """The smallest box that holds the motion, and whatever in it stands out of the usual picture, as far as it reaches.
    `moved` (rows, columns) says how much each cell moved, `there` whether something stands there. Everywhere for no
    motion."""
    from scipy.ndimage import find_objects, label

    if not moved.any():
        return EVERYWHERE
    (top, bottom), (left, right) = (_narrowest(moved.sum(axis=axis)) for axis in (1, 0))
    bodies, _ = label(there, np.ones((3, 3)))
    inside = set(np.unique(bodies[top:bottom, left:right])) - {0}
    for number, (rows, columns) in enumerate(find_objects(bodies), 1):
        if number in inside:
            top, bottom = min(top, rows.start), max(bottom, rows.stop)
            left, right = min(left, columns.start), max(right, columns.stop)
    return Action(left / moved.shape[1], top / moved.shape[0], right / moved.shape[1], bottom / moved.shape[0])


def _narrowest(profile: NDArray[np.float32]) -> tuple[int, int]:
    """The shortest range of a profile, half-open, that holds `HELD` of it."""
    sums = np.concatenate([[0.0], np.cumsum(profile, dtype=np.float64)])
    # The first end at which each start holds enough.
    ends = np.searchsorted(sums, sums[:-1] + HELD * sums[-1] - 1e-9)
    start = int(np.argmin(np.where(ends < len(sums), ends - np.arange(len(ends)), len(sums))))
    return start, int(ends[start])


def _looked_at(
    path: Path, fingerprint: str, start: float, end: float, cancelled: Callable[[], bool]
) -> tuple[NDArray[np.float32], NDArray[np.bool_]]:
    """How much each cell moved, and whether something stood there: (rows, columns) of the upright picture as it was
    filmed."""
    cells = CoarseCells(path, fingerprint)
    try:
        looks = int(np.clip((end - start) / CLOSEST, 2, LOOKS))
        total, there = np.zeros(cells.shape, np.float32), np.zeros(cells.shape, bool)
        for at in np.linspace(start, max(end - APART, start), looks):
            if cancelled():
                raise Cancelled
            found = cells.look(float(at))
            if found is not None:
                total += found[0]
                there |= found[1]
    finally:
        cells.close()
    return total, there


def _place(fingerprint: str, start: float, end: float) -> Path:
    return cache_file("tracks", f"{fingerprint}-moves-{start:.3f}-{end:.3f}-{VERSION}", ".npz")
