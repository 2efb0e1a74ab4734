"""Flashes: opposing changes of light over enough of the picture (W3C WCAG 2.x, success criterion 2.3.1)."""

from __future__ import annotations

from collections import deque

import cv2
import numpy as np
from numpy.typing import NDArray

Plane = NDArray[np.float64]
CHANGE, BRIGHT = 0.10, 0.80
"""A change of relative luminance that counts, where the darker of the two is below the other number."""
RED_CHANGE, RED_SHARE = 20.0, 0.8
"""A change of (R − G − B) · 320 that counts, and from which share of all light red is saturated."""
AREA = 0.25
"""Share of a field of view that has to change at once."""
FIELD = 3
"""A field of view of 10 degrees is a third of the picture's width and height (341 × 256 of 1024 × 768)."""


def luminance(rgb: Plane) -> Plane:
    """Relative luminance, 0…1, of sRGB values 0…1 in the last axis (W3C WCAG 2.x)."""
    linear = np.where(rgb <= 0.04045, rgb / 12.92, ((rgb + 0.055) / 1.055) ** 2.4)
    return np.asarray(linear @ np.array([0.2126, 0.7152, 0.0722]))


class Flashing:
    """Takes one picture after another at `fps`. `found` are (number of the picture, flashes in the second that ends
    there), wherever there is one."""

    def __init__(self, fps: float) -> None:
        self._light = _Changes(fps, CHANGE, BRIGHT)
        self._red = _Changes(fps, RED_CHANGE, np.inf)
        self.found: list[tuple[int, int]] = []
        self._number = 0

    def take(self, light: Plane, rgb: Plane) -> None:
        """The next picture: its luminance (rows, columns) and its sRGB values (rows, columns, 3)."""
        r, g, b = (_linear(rgb[..., i]) for i in range(3))
        total = np.maximum(r + g + b, 1e-9)
        by_light = self._light.take(light, np.ones(light.shape, bool))
        by_red = self._red.take(np.maximum(r - g - b, 0) * 320, r / total >= RED_SHARE)
        if flashes := max(by_light, by_red):
            self.found.append((self._number, flashes))
        self._number += 1


class _Changes:
    """How often the value of each cell has turned round by enough within the last second."""

    def __init__(self, fps: float, change: float, bright: float) -> None:
        self._change, self._bright = change, bright
        self._low = self._high = self._way = np.zeros((0, 0))
        self._marked = np.zeros((0, 0), bool)
        self._turned: deque[NDArray[np.bool_]] = deque(maxlen=max(round(fps), 1))
        self._count = np.zeros((0, 0), np.int32)

    def take(self, value: Plane, marked: NDArray[np.bool_]) -> int:
        """The next picture, of which only cells count that are or were `marked`: the flashes of the last second. A
        flash is a pair of changes that oppose one another, in the same cells, over enough of a field of view."""
        if not self._low.size:
            self._low, self._high, self._way = value.copy(), value.copy(), np.zeros(value.shape)
            self._marked, self._count = marked, np.zeros(value.shape, np.int32)
        either = marked | self._marked
        np.maximum(self._high, value, out=self._high, where=self._way >= 0)
        np.minimum(self._low, value, out=self._low, where=self._way <= 0)
        down = (self._way >= 0) & (self._high - value >= self._change) & (value < self._bright) & either
        up = (self._way <= 0) & (value - self._low >= self._change) & (self._low < self._bright) & either
        up &= ~down
        self._low[down], self._high[up] = value[down], value[up]
        self._way[down], self._way[up] = -1, 1
        self._marked = np.where(down | up, marked, self._marked | marked)
        if len(self._turned) == self._turned.maxlen:
            self._count -= self._turned[0]
        self._turned.append(down | up)
        self._count += self._turned[-1]
        flashes = 0
        while _most_of_a_field(self._count >= 2 * (flashes + 1)) >= AREA:
            flashes += 1
        return flashes


def _most_of_a_field(mask: NDArray[np.bool_]) -> float:
    """The largest share of any field of view that a mask covers."""
    if not mask.any():
        return 0.0
    rows, columns = mask.shape
    size = max(columns // FIELD, 1), max(rows // FIELD, 1)
    return float(cv2.blur(mask.astype(np.float32), size, borderType=cv2.BORDER_CONSTANT).max())


def _linear(v: Plane) -> Plane:
    return np.asarray(np.where(v <= 0.04045, v / 12.92, ((v + 0.055) / 1.055) ** 2.4))
