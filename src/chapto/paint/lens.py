"""From a place on the footage's own picture to the programme's picture."""

from __future__ import annotations

from dataclasses import dataclass
from fractions import Fraction
from functools import lru_cache

import numpy as np
from numpy.typing import NDArray
from PyQt6.QtCore import QPointF, QRectF

from chapto.media.frame_converter import fitted_size
from chapto.paint.places import Place

Matrix = NDArray[np.float64]


@dataclass(frozen=True)
class Near:
    """The whole picture seen nearer: `zoom` times as large, with its middle at `x` and `y` (0…1 of the place it fills),
    never beyond its edge."""

    zoom: float = 1.0
    x: float = 0.5
    y: float = 0.5

    @property
    def corner(self) -> tuple[float, float]:
        """Left and upper edge of what is seen, 0…1 of the place."""
        half = 0.5 / self.zoom
        return min(max(self.x, half), 1 - half) - half, min(max(self.y, half), 1 - half) - half

    def towards(self, other: Near, share: float) -> Near:
        """A `share` (0…1) of the way to another; from the whole picture it comes nearer to one spot all the way."""
        zoom = self.zoom + (other.zoom - self.zoom) * share
        if self.zoom == 1:
            return Near(zoom, other.x, other.y)
        return Near(zoom, self.x + (other.x - self.x) * share, self.y + (other.y - self.y) * share)


@lru_cache(maxsize=256)
def _shape(aspect: float) -> Fraction:
    return Fraction(aspect).limit_denominator(4000)


@dataclass(frozen=True)
class Lens:
    """`place` is where the footage's picture lies in the programme's, black bars included; `aspect` is its width by its
    height. A `mirrored` one is shown turned back, and `steady` moves it, in shares of its height."""

    place: Place
    aspect: float
    mirrored: bool = False
    near: Near = Near()
    steady: Matrix | None = None

    @property
    def is_plain(self) -> bool:
        """Whether the picture lies as it comes from its file."""
        return self.near.zoom == 1 and self.steady is None

    def picture(self) -> QRectF:
        """Where the footage's own picture lies, without bars, as if it were not seen nearer."""
        x, y, width, height = self.place
        w, h = fitted_size(_shape(self.aspect), Fraction(1), width, height)
        return QRectF(x + (width - w) // 4 * 2, y + (height - h) // 4 * 2, w, h)

    def seen(self) -> QRectF:
        """Where the footage's own picture is seen, however near: what comes nearer fills the ground beside it too."""
        box = self.picture()
        left, top, width, height = self.place
        corner_x, corner_y = self.near.corner
        zoom = self.near.zoom
        nearer = QRectF(
            left + ((box.left() - left) / width - corner_x) * zoom * width,
            top + ((box.top() - top) / height - corner_y) * zoom * height,
            box.width() * zoom,
            box.height() * zoom,
        )
        return nearer.intersected(QRectF(left, top, width, height))

    def point(self, x: float, y: float) -> QPointF:
        """A place of the footage's picture, 0…1, in pixels of the programme's."""
        box = self.picture()
        left, top, width, height = self.place
        if self.steady is not None:
            x, y = self.steady @ (x * self.aspect, y, 1)
            x /= self.aspect
        px = box.left() + (1 - x if self.mirrored else x) * box.width()
        py = box.top() + y * box.height()
        corner_x, corner_y = self.near.corner
        return QPointF(
            left + ((px - left) / width - corner_x) * self.near.zoom * width,
            top + ((py - top) / height - corner_y) * self.near.zoom * height,
        )

    def back(self, point: QPointF) -> tuple[float, float]:
        """The place of the footage's picture, 0…1, that lies at a pixel of the programme's."""
        box = self.picture()
        left, top, width, height = self.place
        corner_x, corner_y = self.near.corner
        px = left + ((point.x() - left) / (self.near.zoom * width) + corner_x) * width
        py = top + ((point.y() - top) / (self.near.zoom * height) + corner_y) * height
        x, y = (px - box.left()) / box.width(), (py - box.top()) / box.height()
        x = 1 - x if self.mirrored else x
        if self.steady is not None:
            x, y = np.linalg.solve(self.steady[:, :2], np.array([x * self.aspect, y]) - self.steady[:, 2])
            x /= self.aspect
        return float(x), float(y)

    def matrix(self) -> Matrix:
        """From the pixels of the picture as it comes from its file, laid into the place, to those shown: (2, 3)."""
        plain = Lens(self.place, self.aspect, self.mirrored)
        spots = np.array([(0.1, 0.1), (0.9, 0.1), (0.1, 0.9)])
        one, other = ([(at.x(), at.y()) for at in (lens.point(*spot) for spot in spots)] for lens in (plain, self))
        return np.asarray(np.linalg.solve(np.column_stack([one, np.ones(3)]), np.array(other)).T)

    def length(self, share: float) -> float:
        """A share of the footage's height in pixels of the programme's."""
        size = 1.0 if self.steady is None else float(np.sqrt(abs(np.linalg.det(self.steady[:, :2]))))
        return share * self.picture().height() * self.near.zoom * size
