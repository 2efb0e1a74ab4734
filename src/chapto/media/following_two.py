"""Where the two are in each picture of a stretch, as the box a narrow picture has to hold.

What stands out of the file's usual picture falls apart into bodies. Who of them is a referee can't be told: he often
moves most, and near a camera he is the largest. So every large or moving body is held, and one that is no longer told
from the background without having moved off is still there. Where the creator put points on the two, the bodies these
lie on are held however small and still they are.
"""

from __future__ import annotations

import hashlib
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from pathlib import Path

import numpy as np
from numpy.typing import NDArray

from chapto.errors import Cancelled
from chapto.media.cache import cache_file
from chapto.media.coarse_cells import APART, CoarseCells
from chapto.media.kept_arrays import keep_arrays, kept_arrays

EVERY = 0.2
"""Seconds from look to look."""
LEAST = 0.004
"""Share of the picture that a body takes at least."""
NEAR = 1
"""Cells between two parts that are one body all the same."""
LARGE = 0.45
"""Share of the largest body from which another is held too."""
ALSO = 0.25
"""Share of the motion in a look from which what moves is held however small it is."""
STILL_THERE = 150
"""Looks for which a body is held that nothing was seen of any more."""
LEFT = 0.12
"""Share of the motion in the place of such a body from which it has moved off."""
COVERED = 0.4
"""Share of a body's cells from which it is seen."""
ROUND_A_POINT = 2
"""Cells round a point that no body is seen at which belong to one all the same."""
VERSION = 6
Boxes = NDArray[np.float64]
Points = NDArray[np.float64]
NO_POINTS: Points = np.zeros((0, 3))


def known_follow(fingerprint: str, start: float, end: float, points: Points = NO_POINTS) -> Boxes | None:
    """What was found in that stretch before; None where nobody looked yet."""
    kept = kept_arrays(_place(fingerprint, start, end, points), "boxes")
    return kept["boxes"] if kept is not None and kept["boxes"].ndim == 2 and kept["boxes"].shape[1] == 5 else None


def follow_two(
    path: Path,
    fingerprint: str,
    start: float,
    end: float,
    points: Points = NO_POINTS,
    *,
    cancelled: Callable[[], bool] = lambda: False,
) -> Boxes:
    """(n, 5): second of the file, left, top, right, foot (0…1 of the upright picture as it was filmed), one row a look,
    kept in the cache. Where it can't be told, the whole picture. `points` (k, 3) are second, x and y of what is known
    to be on one of the two. Raises `Cancelled` and `MediaError`."""
    known = known_follow(fingerprint, start, end, points)
    if known is not None:
        return known
    cells = CoarseCells(path, fingerprint)
    times = np.arange(start, max(end, start + EVERY), EVERY)
    looks: list[tuple[NDArray[np.float32], NDArray[np.bool_]] | None] = []
    try:
        for at in times:
            if cancelled():
                raise Cancelled
            looks.append(cells.look(float(min(at, max(end - APART, start)))))
    finally:
        cells.close()
    near = [points[np.abs(points[:, 0] - at) <= EVERY / 2, 1:] for at in times]
    boxes = np.column_stack([times, boxes_of(looks, near)])
    keep_arrays(_place(fingerprint, start, end, points), {"boxes": boxes})
    return boxes


def boxes_of(
    looks: Sequence[tuple[NDArray[np.float32], NDArray[np.bool_]] | None], points: Sequence[Points] | None = None
) -> Boxes:
    """(n, 4): left, top, right, foot for each look: how much each cell moved, and whether something stands there.
    `points`, (k, 2) for each look, are on one of the two. Looked through forwards and backwards: who lies still in the
    beginning is known from later."""
    on = points or [NO_POINTS[:, 1:]] * len(looks)
    bodies = [[] if look is None else _bodies(*look, at) for look, at in zip(looks, on, strict=True)]
    onwards = _held(looks, bodies)
    back = _held(looks[::-1], bodies[::-1])[::-1]
    lows, highs = np.minimum(onwards[:, :2], back[:, :2]), np.maximum(onwards[:, 2:], back[:, 2:])
    found = np.hstack([lows, highs])
    found[[look is None or low >= high for look, low, high in zip(looks, found[:, 0], found[:, 2], strict=True)]] = (
        0.0,
        0.0,
        1.0,
        1.0,
    )
    return found


@dataclass(frozen=True, eq=False)
class _Body:
    """What hangs together in a look: its cells, its shares of the picture and of the motion, and whether it is `known`
    to be of one of the two."""

    cells: NDArray[np.bool_]
    area: float
    motion: float
    known: bool


def _bodies(moved: NDArray[np.float32], there: NDArray[np.bool_], points: Points) -> list[_Body]:
    from scipy.ndimage import binary_dilation, label

    motion = moved / max(float(moved.sum()), 1e-9)
    stands = there | (moved > 0)
    parts, count = label(binary_dilation(stands, np.ones((3, 3)), iterations=NEAR), np.ones((3, 3)))
    found, marked = [], _cells_at(points, stands.shape)
    for part in range(1, count + 1):
        reach = parts == part
        body, known = reach & stands, bool((reach & marked).any())
        if (area := float(body.mean())) >= LEAST or known:
            found.append(_Body(body, area, float(motion[reach].sum()), known))
    if (alone := binary_dilation(marked & (parts == 0), np.ones((3, 3)), iterations=ROUND_A_POINT)).any():
        found.append(_Body(alone, float(alone.mean()), 0.0, True))
    largest = max((b.area for b in found), default=0.0)
    return [b for b in found if b.known or b.area >= LARGE * largest or b.motion >= ALSO]


def _cells_at(points: Points, shape: tuple[int, ...]) -> NDArray[np.bool_]:
    """The cells in which points lie."""
    cells = np.zeros(shape, bool)
    at = np.clip((points[:, ::-1] * shape).astype(int), 0, np.array(shape) - 1)
    cells[at[:, 0], at[:, 1]] = True
    return cells


def _held(
    looks: Sequence[tuple[NDArray[np.float32], NDArray[np.bool_]] | None], bodies: Sequence[list[_Body]]
) -> Boxes:
    """(n, 4): the box round all bodies of each look and those that are still there; one inside out for none."""
    found = np.tile(np.array([1.0, 1.0, 0.0, 0.0]), (len(looks), 1))
    lost: list[tuple[NDArray[np.bool_], int]] = []
    before: list[_Body] = []
    for i, (look, here) in enumerate(zip(looks, bodies, strict=True)):
        if look is None:
            continue
        seen = np.any([b.cells for b in here], axis=0) if here else np.zeros(look[0].shape, bool)
        motion = look[0] / max(float(look[0].sum()), 1e-9)
        lost += [(b.cells, i) for b in before if _gone(b.cells, seen)]
        lost = [
            (cells, since)
            for cells, since in lost
            if i - since <= STILL_THERE and _gone(cells, seen) and float(motion[cells].sum()) < LEFT
        ]
        whole = np.any([seen, *(cells for cells, _ in lost)], axis=0)
        if whole.any():
            found[i] = _box(whole)
        before = here
    return found


def _gone(cells: NDArray[np.bool_], seen: NDArray[np.bool_]) -> bool:
    """Whether a body is not among what is seen: somebody may stand in front of a part of it."""
    return float((cells & seen).sum()) < COVERED * float(cells.sum())


def _box(body: NDArray[np.bool_]) -> tuple[float, float, float, float]:
    rows, columns = np.flatnonzero(body.any(axis=1)), np.flatnonzero(body.any(axis=0))
    high, wide = body.shape
    return (columns[0] / wide, rows[0] / high, (columns[-1] + 1) / wide, (rows[-1] + 1) / high)


def _place(fingerprint: str, start: float, end: float, points: Points) -> Path:
    on = hashlib.blake2b(np.round(points, 4).tobytes(), digest_size=6).hexdigest() if len(points) else "none"
    return cache_file("tracks", f"{fingerprint}-two-{start:.3f}-{end:.3f}-{on}-{VERSION}", ".npz")
