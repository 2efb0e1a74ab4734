"""Where in the picture something moves during a stretch of a file: the box that a picture may be cropped to.

A foot that rests belongs to it too: what differs from the file's usual picture and hangs together with what moves.
"""

from __future__ import annotations

from collections.abc import Callable
from fractions import Fraction
from pathlib import Path

import numpy as np
from numpy.typing import NDArray

from chapto.errors import Cancelled
from chapto.media.cache import cache_file, is_whole
from chapto.media.kept_arrays import keep_arrays, kept_arrays
from chapto.media.proxy import proxy_path
from chapto.media.reader import FrameReader
from chapto.programme.readings import EVERYWHERE, Action

WIDE = 320
"""Pixels of the long side of the pictures that are compared."""
CELL = 5
"""Pixels of a cell's sides."""
LOOKS = 16
"""Times at which it is looked, spread over the stretch, at least `CLOSEST` seconds apart."""
CLOSEST = 0.5
APART = 0.2
"""Seconds between the two pictures of a look."""
NOISE = 6.0
"""Grey levels (of 255) that noise and compression change in a cell."""
MOVED_CAMERA = 0.5
"""Where more of the cells than this change in a look, the camera moved, and the look tells nothing."""
HELD = 0.94
"""Share of all motion that lies inside the box: the rest is the referee's, or somebody's at the wall."""
USUAL = 9
"""Pictures spread over the file: their median is its usual picture."""
DIFFERENT = 14.0
"""Grey levels from which a cell differs from the usual picture."""
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
    file = FrameReader(path)
    reader = file
    try:
        if is_whole(proxy_path(fingerprint)):
            quick = FrameReader(proxy_path(fingerprint), threads=False)
            if quick.frames == file.frames:
                reader = quick
            else:
                quick.close()
        looks = int(np.clip((end - start) / CLOSEST, 2, LOOKS))
        size = _size(file)
        total = np.zeros((size[1] // CELL, size[0] // CELL), np.float32)
        there = np.zeros(total.shape, bool)
        spread = (file.seconds_at(round((k + 0.5) / USUAL * (file.frames - 1))) for k in range(USUAL))
        usual = np.median([_cells(reader, file, float(at), size) for at in spread], axis=0)
        for at in np.linspace(start, max(end - APART, start), looks):
            if cancelled():
                raise Cancelled
            one, other = (_cells(reader, file, float(at) + later, size) for later in (0.0, APART))
            # A change of the whole light is no motion.
            changed = np.abs((one - one.mean()) - (other - other.mean()))
            changed[changed < NOISE] = 0
            if (changed > 0).mean() >= MOVED_CAMERA:
                continue
            total += changed
            differs = np.abs((one - one.mean()) - (usual - usual.mean())) > DIFFERENT
            if differs.mean() < MOVED_CAMERA:
                there |= differs
    finally:
        file.close()
        if reader is not file:
            reader.close()
    return total, there


def _size(file: FrameReader) -> tuple[int, int]:
    """Width and height of the upright picture as it is compared."""
    frame = file.frame(0)
    shape = float(frame.width * file.aspect), float(frame.height)
    width, height = shape[::-1] if round(frame.rotation / 90) % 2 else shape
    by = WIDE / max(width, height)
    return max(round(width * by / 2) * 2, CELL), max(round(height * by / 2) * 2, CELL)


def _cells(reader: FrameReader, timing: FrameReader, seconds: float, size: tuple[int, int]) -> NDArray[np.float32]:
    number = timing.index_at(Fraction(seconds).limit_denominator(1000))
    columns, rows = size[0] // CELL, size[1] // CELL
    grey = reader.picture(number, *size, "gray").to_ndarray()[: rows * CELL, : columns * CELL].astype(np.float32)
    return np.asarray(grey.reshape(rows, CELL, columns, CELL).mean(axis=(1, 3)), dtype=np.float32)


def _place(fingerprint: str, start: float, end: float) -> Path:
    return cache_file("tracks", f"{fingerprint}-moves-{start:.3f}-{end:.3f}-{VERSION}", ".npz")
