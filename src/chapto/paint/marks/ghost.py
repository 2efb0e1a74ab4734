"""A ghost: the stitched contour of how somebody lay before."""

from __future__ import annotations

from PyQt6.QtCore import QPointF, Qt
from PyQt6.QtGui import QPainter

from chapto.paint.colours import PAPER, see_through
from chapto.paint.marks.body import body_mask, outline, stature
from chapto.paint.marks.drawn import Drawn
from chapto.paint.marks.strokes import stitched

SMALL = 2
MARGIN = 30.0


def paint(p: QPainter, m: Drawn) -> None:
    """The contour, with a breath of paper inside."""
    figure = m.before or {}
    if not figure:
        return
    left = min(at.x() for at in figure.values()) - stature(figure, m.unit) * 0.2
    top = min(at.y() for at in figure.values()) - stature(figure, m.unit) * 0.2
    right = max(at.x() for at in figure.values()) + stature(figure, m.unit) * 0.2
    foot = max(at.y() for at in figure.values()) + stature(figure, m.unit) * 0.2
    corner = QPointF(left, top)
    size = max(int(right - left), 16), max(int(foot - top), 16)
    moved = {joint: at - corner for joint, at in figure.items()}
    shape = outline(body_mask(moved, size, small=SMALL, more=0, unit=m.unit), SMALL, m.unit).translated(corner)
    p.setPen(Qt.PenStyle.NoPen)
    p.setBrush(see_through(PAPER, 44))
    p.drawPath(shape)
    stitched(p, shape, m.unit, width=3.0)


def hang(m: Drawn) -> QPointF:
    """Where the slip's lace is tied: the highest point of how somebody lay."""
    return min((m.before or {}).values(), key=lambda at: at.y(), default=m.points[0])
