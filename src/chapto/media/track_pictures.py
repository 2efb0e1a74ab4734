"""The pictures in which points are followed: grey, with their colours, a few of them kept."""

from __future__ import annotations

from collections import OrderedDict

import cv2
import numpy as np
from numpy.typing import NDArray

from chapto.media.proxy import LONG_SIDE
from chapto.media.reader import FrameReader

Grey = NDArray[np.uint8]
Points = NDArray[np.float32]
KEPT = 160
"""Pictures kept at once: 125 MB of the largest."""
BLOCK = KEPT - 20
"""Pictures decoded at once where they are wanted backwards."""
PATCH = 9
"""Pixels of the side of a patch whose colour is taken; odd."""


class TrackPictures:
    """Pictures of one file by their number, at most `LONG_SIDE` pixels long. `size` is width and height, both even."""

    def __init__(self, file: FrameReader, shape: tuple[int, int], quick: FrameReader | None = None) -> None:
        """`file` knows when its pictures begin, `quick` has the same pictures and finds them sooner. `shape` is width
        and height of the upright picture in square pixels."""
        scale = min(LONG_SIDE / max(shape), 1.0)
        self.size = (max(round(shape[0] * scale / 2) * 2, 16), max(round(shape[1] * scale / 2) * 2, 16))
        self._file, self._reader = file, quick or file
        self._kept: OrderedDict[int, NDArray[np.uint8]] = OrderedDict()

    @property
    def last(self) -> int:
        """The number of the last picture."""
        return self._file.frames - 1

    def number_at(self, seconds: float) -> int:
        """The number of the picture on show at a second of the file."""
        stamps = self._file.stamps
        tick = (seconds + float(self._file.start)) / float(stamps.base) + 1e-3
        return max(int(np.searchsorted(stamps.pts, tick, side="right")) - 1, 0)

    def seconds(self, first: int, last: int) -> NDArray[np.float64]:
        """Seconds into the file at which the pictures `first` to `last` (both included) begin."""
        stamps = self._file.stamps
        found = stamps.pts[first : last + 1] * float(stamps.base) - float(self._file.start)
        return np.asarray(found, dtype=np.float64)

    def grey(self, number: int) -> Grey:
        """A picture as (height, width) grey levels."""
        return self._planes(number)[: self.size[1]]

    def colours(self, number: int, points: Points) -> NDArray[np.float32]:
        """The mean colour of the patch round each of (n, 2) points, (n, 3) in CIE Lab."""
        height = self.size[1]
        planes = self._planes(number)
        chroma = planes[height:].reshape(2, height // 2, -1)
        half = np.asarray(points / 2, dtype=np.float32)
        found = [_means(planes[:height], points, PATCH), *(_means(c, half, PATCH // 2) for c in chroma)]
        return _lab(np.stack(found, axis=1))

    def contrast(self, number: int, size: tuple[int, int]) -> Grey:
        """A picture of `size` in which differences of colour count as much as those of light: zones of a mat often
        differ in nothing else."""
        height = self.size[1]
        planes = self._planes(number)
        blue, red = planes[height:].reshape(2, height // 2, -1)
        light = cv2.resize(planes[:height], size, interpolation=cv2.INTER_AREA)
        hue = cv2.resize(cv2.subtract(red, blue, dtype=cv2.CV_16S), size, interpolation=cv2.INTER_LINEAR)
        return np.asarray(cv2.addWeighted(light, 0.6, hue, 0.6, 40, dtype=cv2.CV_8U), dtype=np.uint8)

    def going_back(self, number: int, first: int) -> None:
        """Have the picture `number` and those before it at hand, no farther than `first`: most files can only be read
        forward."""
        if number not in self._kept:
            for k in range(max(first, number - BLOCK), number + 1):
                self._planes(k)

    def _planes(self, number: int) -> NDArray[np.uint8]:
        if number not in self._kept:
            made = self._reader.picture(number, *self.size, "yuv420p")
            self._kept[number] = np.ascontiguousarray(made.to_ndarray())
            while len(self._kept) > KEPT:
                self._kept.popitem(last=False)
        self._kept.move_to_end(number)
        return self._kept[number]


def _means(plane: NDArray[np.uint8], points: Points, side: int) -> NDArray[np.float32]:
    """The mean of a square of about `side` pixels round each point, (n,)."""
    reach = np.arange(side // 2 * 2 + 1) - side // 2
    x, y = (np.round(points[:, k, None]).astype(int) + reach for k in (0, 1))
    x, y = np.clip(x, 0, plane.shape[1] - 1), np.clip(y, 0, plane.shape[0] - 1)
    return np.asarray(plane[y[:, :, None], x[:, None, :]].mean(axis=(1, 2)), dtype=np.float32)


def _lab(yuv: NDArray[np.float32]) -> NDArray[np.float32]:
    """(n, 3) Y, Cb, Cr in video range (ITU-R BT.709) to CIE Lab."""
    y, cb, cr = (yuv[:, 0] - 16) / 219, (yuv[:, 1] - 128) / 224, (yuv[:, 2] - 128) / 224
    rgb = np.stack([y + 1.5748 * cr, y - 0.1873 * cb - 0.4681 * cr, y + 1.8556 * cb], axis=1)
    sound = np.clip(rgb, 0, 1).astype(np.float32)[None]
    return np.asarray(cv2.cvtColor(sound, cv2.COLOR_RGB2Lab)[0], dtype=np.float32)
