"""A file looked at coarsely: pictures as a few thousand cells of grey, and what its usual picture is."""

from __future__ import annotations

from fractions import Fraction
from functools import cached_property
from pathlib import Path

import numpy as np
from numpy.typing import NDArray

from chapto.media.cache import is_whole
from chapto.media.proxy import proxy_path
from chapto.media.reader import FrameReader

WIDE = 320
"""Pixels of the long side of the pictures that are compared."""
CELL = 5
"""Pixels of a cell's sides."""
APART = 0.2
"""Seconds between the two pictures of a look."""
NOISE = 6.0
"""Grey levels (of 255) that noise and compression change in a cell."""
USUAL = 9
"""Pictures spread over the file: their median is its usual picture."""
DIFFERENT = 14.0
"""Grey levels from which a cell differs from the usual picture."""
MOVED_CAMERA = 0.5
"""Where more of the cells than this change in a look, the camera moved, and the look tells nothing."""
Cells = NDArray[np.float32]


class CoarseCells:
    """The pictures of a file as (rows, columns) of grey, upright as it was filmed. Its quick pictures serve where they
    are there. `MediaError` where it can't be read."""

    def __init__(self, path: Path, fingerprint: str) -> None:
        self._file = FrameReader(path)
        self._reader = self._file
        if is_whole(proxy_path(fingerprint)):
            quick = FrameReader(proxy_path(fingerprint), threads=False)
            if quick.frames == self._file.frames:
                self._reader = quick
            else:
                quick.close()
        self._size = _size(self._file)

    @property
    def shape(self) -> tuple[int, int]:
        """Rows and columns."""
        return self._size[1] // CELL, self._size[0] // CELL

    @cached_property
    def usual(self) -> Cells:
        """The picture as it is mostly: nobody stands anywhere for long."""
        frames = self._file.frames
        spread = (self._file.seconds_at(round((k + 0.5) / USUAL * (frames - 1))) for k in range(USUAL))
        return np.asarray(np.median([self.at(float(s)) for s in spread], axis=0), dtype=np.float32)

    def at(self, seconds: float) -> Cells:
        """The picture of a second."""
        number = self._file.index_at(Fraction(seconds).limit_denominator(1000))
        rows, columns = self.shape
        grey = self._reader.picture(number, *self._size, "gray").to_ndarray()[: rows * CELL, : columns * CELL]
        cells = grey.astype(np.float32).reshape(rows, CELL, columns, CELL).mean(axis=(1, 3))
        return np.asarray(cells, dtype=np.float32)

    def look(self, seconds: float) -> tuple[Cells, NDArray[np.bool_]] | None:
        """How much each cell changes from a second on, and whether something stands there that usually does not; None
        where the camera moved. A change of the whole light is no motion."""
        one, other = self.at(seconds), self.at(seconds + APART)
        changed = np.abs((one - one.mean()) - (other - other.mean()))
        changed[changed < NOISE] = 0
        if (changed > 0).mean() >= MOVED_CAMERA:
            return None
        differs = np.abs((one - one.mean()) - (self.usual - self.usual.mean())) > DIFFERENT
        return changed, differs if differs.mean() < MOVED_CAMERA else np.zeros_like(differs)

    def close(self) -> None:
        """Give the files back."""
        self._file.close()
        if self._reader is not self._file:
            self._reader.close()


def _size(file: FrameReader) -> tuple[int, int]:
    """Width and height of the upright picture as it is compared."""
    frame = file.frame(0)
    shape = float(frame.width * file.aspect), float(frame.height)
    width, height = shape[::-1] if round(frame.rotation / 90) % 2 else shape
    by = WIDE / max(width, height)
    return max(round(width * by / 2) * 2, CELL), max(round(height * by / 2) * 2, CELL)
