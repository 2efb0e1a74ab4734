"""The spotlight: one athlete stays as bright as before, the rest is dimmed to spruce, with a soft edge between."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray
from PyQt6.QtCore import QPointF, Qt
from PyQt6.QtGui import QColor, QImage, QPainter

from chapto.paint.colours import WHITE
from chapto.paint.marks.body import body_mask, grey_of
from chapto.paint.marks.drawn import Drawn

SMALL = 4
"""The mask is soft: it is made at a quarter of the size."""
HALO, SOFT = 20.0, 13.0
"""Units by which the light reaches beyond the body, and over which it fades (standard deviation)."""
DIM = 0.66
"""How much of the rest is covered."""
MARGIN = 0.0


def paint(p: QPainter, m: Drawn) -> None:
    """Nothing is laid on the picture: it is the rest that changes."""


def hang(m: Drawn) -> QPointF:
    """Where the slip's lace is tied: at the middle of the body."""
    return sum(m.points[1:], m.points[0]) / len(m.points)


def veil(m: Drawn, size: tuple[int, int], strength: float) -> NDArray[np.uint8]:
    """How much every place of a picture of `size` is dimmed, 0…255, at a quarter of its size."""
    import cv2

    if m.figure and len(m.figure) > 2:
        light = body_mask(m.figure, size, small=SMALL, more=HALO * m.unit, unit=m.unit)
    else:
        light = _spots(m, size)
    soft = cv2.GaussianBlur(light, (0, 0), max(SOFT * m.unit / SMALL, 0.6)).astype(np.float32)
    return np.round((255 - soft) * (DIM * strength)).astype(np.uint8)


def _spots(m: Drawn, size: tuple[int, int]) -> NDArray[np.uint8]:
    image = QImage(-(-size[0] // SMALL), -(-size[1] // SMALL), QImage.Format.Format_Grayscale8)
    image.fill(0)
    p = QPainter(image)
    p.setRenderHint(QPainter.RenderHint.Antialiasing)
    p.scale(1 / SMALL, 1 / SMALL)
    p.setPen(Qt.PenStyle.NoPen)
    p.setBrush(QColor(WHITE))
    for at in m.points:
        p.drawEllipse(at, m.radius * 1.25, m.radius * 1.25)
    p.end()
    return grey_of(image)
