"""Where boards stand in the pictures of a file: what tells the time ticks once a second, in one place, and nothing else
does. So a board in the hall is found while the camera stands, and a painted one whatever the camera does."""

from __future__ import annotations

import contextlib
from collections.abc import Callable, Iterator
from fractions import Fraction
from pathlib import Path

import numpy as np
from numpy.typing import NDArray

from chapto.errors import Cancelled
from chapto.media.cache import cache_file
from chapto.media.kept_arrays import keep_arrays, kept_arrays
from chapto.media.opening import MediaError
from chapto.media.quick_reader import QuickReader
from chapto.media.reader import FrameReader

WIDTH, HEIGHT, CELL = 640, 360, 8
"""Pixels of what is looked at, and of a cell of it."""
RATE, SECONDS, WINDOWS = 10, 8, 3
"""Pictures a second, seconds of a look, and looks spread over the file."""
CHANGED, PIXELS = 40, 3
"""Grey levels by which a digit's pixel changes at least, and how many do in a cell: more than encoding changes."""
TICKS = 0.7
"""Share of the seconds in which a clock is seen to tick: some digits differ little."""
WIDEST, HIGHEST = 0.5, 0.3
"""Shares of the picture that a board takes at most; what is larger is the ground it stands on."""
GROUND = 10
"""Grey levels by which a board's own ground varies."""
VERSION = 1
Boxes = NDArray[np.float64]
_read: dict[Path, Boxes] = {}


def find_boards(
    path: Path,
    fingerprint: str,
    *,
    progress: Callable[[float], None] = lambda share: None,
    cancelled: Callable[[], bool] = lambda: False,
) -> Boxes:
    """(boards, 4): left, top, right and foot of each, as shares of the upright picture as it was filmed; kept in the
    cache. Raises `Cancelled` when stopped and `MediaError` when the file can't be opened."""
    place = cache_file("tracks", f"{fingerprint}-boards-{VERSION}", ".npz")
    if place not in _read:
        kept = kept_arrays(place, "boxes")
        if kept is None or kept["boxes"].ndim != 2 or kept["boxes"].shape[1] != 4:
            kept = {"boxes": _looked_for(path, fingerprint, progress, cancelled)}
            keep_arrays(place, kept)
        _read[place] = kept["boxes"]
    return _read[place]


def boards_in(pictures: NDArray[np.uint8]) -> Boxes:
    """The boards in (pictures, `HEIGHT`, `WIDTH`) grey ones, `RATE` a second."""
    from scipy.ndimage import find_objects, label

    ticking = _ticking(pictures)
    parts, _ = label(ticking, np.ones((3, 3)))
    usual = np.median(pictures[::RATE], axis=0).astype(np.uint8)
    found: list[tuple[int, int, int, int]] = []
    for rows, columns in find_objects(parts):
        digits = columns.start * CELL, rows.start * CELL, columns.stop * CELL, rows.stop * CELL
        if not any(_inside(digits, board) for board in found):
            found.append(_board_round(usual, digits))
    scale = np.array([WIDTH, HEIGHT, WIDTH, HEIGHT], np.float64)
    return np.array(found, np.float64).reshape(-1, 4) / scale


def _looked_for(
    path: Path, fingerprint: str, progress: Callable[[float], None], cancelled: Callable[[], bool]
) -> Boxes:
    reader = QuickReader.of(path, fingerprint) or FrameReader(path)
    try:
        found: Boxes = np.zeros((0, 4))
        for pictures in _looks(reader, progress, cancelled):
            for box in boards_in(pictures):
                # The same board in another look.
                if not any(min(box[2:]) > 0 and np.abs(box - known).max() < 0.05 for known in found):
                    found = np.vstack([found, box])
        return found
    finally:
        reader.close()


def _looks(
    reader: QuickReader | FrameReader, progress: Callable[[float], None], cancelled: Callable[[], bool]
) -> Iterator[NDArray[np.uint8]]:
    """The pictures of each look; a file that is too short for one has none."""
    length = reader.seconds_at(reader.frames - 1) if reader.frames else Fraction(0)
    count = min(WINDOWS, int(length // (SECONDS + 1)))
    for k in range(count):
        start = (length - SECONDS) * (2 * k + 1) / (2 * count)
        some = []
        # What is damaged may be a stretch that nobody shows.
        with contextlib.suppress(MediaError):
            for i in range(SECONDS * RATE):
                if cancelled():
                    raise Cancelled
                progress((k + i / (SECONDS * RATE)) / count)
                picture = reader.picture(reader.index_at(start + Fraction(i, RATE)), WIDTH, HEIGHT, "gray")
                some.append(picture.to_ndarray()[:HEIGHT, :WIDTH])
            yield np.array(some, np.uint8)


def _ticking(pictures: NDArray[np.uint8]) -> NDArray[np.bool_]:
    """Cells (rows, columns) that change once a second, and at no other time."""
    from scipy.ndimage import maximum_filter

    seconds = (len(pictures) - 1) // RATE
    events = np.zeros((seconds * RATE, HEIGHT // CELL, WIDTH // CELL), bool)
    for i in range(len(events)):
        change = np.abs(pictures[i + 1].astype(np.int16) - pictures[i]) > CHANGED
        cells = change.reshape(HEIGHT // CELL, CELL, WIDTH // CELL, CELL).sum(axis=(1, 3))
        events[i] = cells >= PIXELS
    # A digit's strokes come and go in one cell or the next, and between two pictures or the next two.
    by_phase = maximum_filter(events.reshape(seconds, RATE, *events.shape[1:]), size=(1, 1, 3, 3))
    total = by_phase.sum(axis=(0, 1))
    ticking = np.zeros(total.shape, bool)
    for phase in range(RATE):
        pair = by_phase[:, [phase, (phase + 1) % RATE]]
        ticking |= (pair.any(axis=1).sum(axis=0) >= TICKS * seconds) & (pair.sum(axis=(0, 1)) == total)
    return ticking


def _board_round(usual: NDArray[np.uint8], digits: tuple[int, int, int, int]) -> tuple[int, int, int, int]:
    """The board that ticking `digits` stand on: as far as its ground reaches, else a digit's height round them. Boxes
    are left, top, right and foot in pixels."""
    import cv2

    left, top, right, foot = digits
    around = usual[max(top - 2, 0) : foot + 2, max(left - 2, 0) : right + 2]
    shade = int(np.bincount(around.ravel(), minlength=256).argmax())
    seeds = np.argwhere(np.abs(around.astype(np.int16) - shade) <= 1)
    y, x = seeds[0] + (max(top - 2, 0), max(left - 2, 0))
    mask = np.zeros((HEIGHT + 2, WIDTH + 2), np.uint8)
    flags = 4 | cv2.FLOODFILL_MASK_ONLY | cv2.FLOODFILL_FIXED_RANGE | (1 << 8)
    _, _, _, (bx, by, w, h) = cv2.floodFill(usual.copy(), mask, (int(x), int(y)), (0,), (GROUND,), (GROUND,), flags)
    board = bx, by, bx + w, by + h
    if w <= WIDEST * WIDTH and h <= HIGHEST * HEIGHT and _inside(digits, board):
        return board
    high = foot - top
    return max(left - high, 0), max(top - high, 0), min(right + high, WIDTH), min(foot + high, HEIGHT)


def _inside(one: tuple[int, int, int, int], other: tuple[int, int, int, int]) -> bool:
    """Whether the middle of one box lies in another."""
    x, y = (one[0] + one[2]) / 2, (one[1] + one[3]) / 2
    return other[0] <= x < other[2] and other[1] <= y < other[3]
