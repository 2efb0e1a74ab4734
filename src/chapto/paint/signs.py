"""The signs of the two athletes, on the screen and in the picture: disc, square, ring."""

from __future__ import annotations

from PyQt6.QtCore import QPointF, QRectF, Qt
from PyQt6.QtGui import QColor, QPainter, QPen

from chapto.document.people import Side
from chapto.paint.colours import INK_SOFT

SQUARE = 0.9
"""Half the side of the square by the radius of the disc, so that both look equally large."""
RING, RING_WIDTH = 0.75, 0.45


def side_sign(
    p: QPainter, middle: QPointF, radius: float, side: Side | None, colour: str, *, edge: str = "", width: float = 1.4
) -> None:
    """A disc for the first athlete, a square for the second, in the colour of the kit and with an `edge` if wanted; a
    ring for nobody yet, and for a voice."""
    if side is None:
        p.setPen(QPen(QColor(colour or INK_SOFT), radius * RING_WIDTH))
        p.setBrush(Qt.BrushStyle.NoBrush)
        p.drawEllipse(middle, radius * RING, radius * RING)
        return
    p.setPen(QPen(QColor(edge), width) if edge else Qt.PenStyle.NoPen)
    p.setBrush(QColor(colour))
    if side is Side.SECOND:
        half = radius * SQUARE
        p.drawRect(QRectF(middle.x() - half, middle.y() - half, 2 * half, 2 * half))
    else:
        p.drawEllipse(middle, radius, radius)


def dot(p: QPainter, middle: QPointF, radius: float, colour: str | QColor) -> None:
    """A plain disc that means nobody: a moment, a light, the end of a lace."""
    p.setPen(Qt.PenStyle.NoPen)
    p.setBrush(QColor(colour))
    p.drawEllipse(middle, radius, radius)
