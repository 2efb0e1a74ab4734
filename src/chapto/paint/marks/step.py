"""A step: bare soles on the mat, from where the foot stands to where it goes."""

from __future__ import annotations

from itertools import pairwise

from PyQt6.QtCore import QPointF
from PyQt6.QtGui import QColor, QPainter, QPainterPath, QPen, QTransform

from chapto.paint.colours import DEEP, PAPER, see_through
from chapto.paint.marks.drawn import Drawn
from chapto.paint.marks.strokes import along, degrees_of, stitched

LONG = 88.0
"""Length of a sole in units."""
LOW = 0.46
"""A sole on the mat is seen so much lower than it is long: a camera at the edge of a mat looks down by about that."""
TOES = ((1.02, -0.32, 0.15), (1.12, -0.1, 0.11), (1.1, 0.08, 0.095), (1.04, 0.23, 0.085), (0.94, 0.36, 0.075))
"""Ahead, to the side and radius, as shares of half the sole's length."""
MARGIN = 70.0


def paint(p: QPainter, m: Drawn) -> None:
    """The way as a seam, the soles on it: pale where the foot was, bright where it goes."""
    way = QPainterPath(m.points[0])
    for one, other in pairwise(m.points):
        side = QPointF(0, 0.14 * abs(other.x() - one.x()))
        way.quadTo((one + other) / 2 + side, other)
    stitched(p, way, m.unit, width=2.4)
    last = len(m.points) - 1
    for i, at in enumerate(m.points):
        ahead = along(at, m.points[i + 1]) if i < last else along(m.points[i - 1], at)
        # The direction on the mat, as it is before perspective makes it low.
        flat = QPointF(ahead.x(), ahead.y() / LOW)
        turn = QTransform()
        turn.translate(at.x(), at.y())
        turn.scale(1, LOW)
        turn.rotate(degrees_of(flat))
        size = LONG / 2 * m.unit
        turn.scale(size, size)
        sole = turn.map(_sole())
        p.setPen(QPen(see_through(DEEP, 240), 2.2 * m.unit))
        fill = QColor(PAPER) if i == last else see_through(m.colour, 130 + 110 * i // max(last, 1))
        p.setBrush(fill)
        p.drawPath(sole)
        if i == last:
            p.setPen(QPen(QColor(m.colour), 2.6 * m.unit))
            p.setBrush(QColor(0, 0, 0, 0))
            inner = QTransform()
            inner.translate(at.x(), at.y())
            inner.scale(0.9, 0.9)
            inner.translate(-at.x(), -at.y())
            p.drawPath(inner.map(sole))


def _sole() -> QPainterPath:
    """A bare sole that points to the right, 2 long, heel at −1."""
    path = QPainterPath(QPointF(-0.98, 0))
    path.cubicTo(QPointF(-1.02, -0.34), QPointF(-0.6, -0.36), QPointF(-0.3, -0.22))
    path.cubicTo(QPointF(0.0, -0.1), QPointF(0.2, -0.42), QPointF(0.62, -0.44))
    path.cubicTo(QPointF(0.96, -0.42), QPointF(0.98, -0.02), QPointF(0.88, 0.18))
    path.cubicTo(QPointF(0.7, 0.44), QPointF(0.3, 0.46), QPointF(-0.1, 0.38))
    path.cubicTo(QPointF(-0.6, 0.36), QPointF(-0.98, 0.34), QPointF(-0.98, 0))
    for x, y, r in TOES:
        path.addEllipse(QPointF(x + 0.1, y), r, r)
    return path


def hang(m: Drawn) -> QPointF:
    """Where the slip's lace is tied."""
    return m.points[-1]
