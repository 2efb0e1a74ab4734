"""The few strokes that every mark is made of: cord, thread, bead, paper.

Each lies on a dark casing, so that it can be told from whatever is under it.
"""

from __future__ import annotations

from collections.abc import Sequence
from math import atan2, cos, hypot, sin

from PyQt6.QtCore import QPointF, QRectF, Qt
from PyQt6.QtGui import QColor, QPainter, QPainterPath, QPen, QPolygonF

from chapto.document.people import Side
from chapto.paint.colours import DEEP, PAPER, see_through
from chapto.paint.signs import SQUARE

CASING = 225
"""How much the dark casing covers, of 255."""
STITCH = (2.2, 1.8)
"""A stitch and the gap to the next, in widths of the thread."""


def path_of(points: Sequence[QPointF], *, closed: bool = False) -> QPainterPath:
    """Straight from point to point."""
    path = QPainterPath(points[0])
    for point in points[1:]:
        path.lineTo(point)
    if closed:
        path.closeSubpath()
    return path


def line(one: QPointF, other: QPointF) -> QPainterPath:
    """From one point to another."""
    return path_of((one, other))


def stroke(p: QPainter, path: QPainterPath, colour: str | QColor, width: float, *, dash: Sequence[float] = ()) -> None:
    """One plain stroke with round ends; `dash` in widths."""
    pen = QPen(QColor(colour), width, Qt.PenStyle.SolidLine, Qt.PenCapStyle.RoundCap, Qt.PenJoinStyle.RoundJoin)
    if dash:
        pen.setCapStyle(Qt.PenCapStyle.FlatCap)
        pen.setDashPattern(list(dash))
    p.setPen(pen)
    p.setBrush(Qt.BrushStyle.NoBrush)
    p.drawPath(path)


def cased(p: QPainter, path: QPainterPath, width: float, unit: float) -> None:
    """The dark casing of a stroke that will be so wide."""
    stroke(p, path, see_through(DEEP, CASING), width + 3.2 * unit)


def cord(p: QPainter, path: QPainterPath, colour: str, unit: float, *, width: float = 6.0, loose: bool = False) -> None:
    """A cord in an athlete's colour with a paper thread stitched along it; one that only stands in is dotted."""
    wide = width * unit
    if loose:
        stroke(p, path, see_through(DEEP, CASING), wide + 2 * unit, dash=(0.9, 1.1))
        stroke(p, path, colour, wide, dash=(0.7, 1.5))
        return
    cased(p, path, wide, unit)
    stroke(p, path, colour, wide)
    stroke(p, path, PAPER, 1.5 * unit, dash=STITCH)


def thread(p: QPainter, path: QPainterPath, unit: float, *, width: float = 2.4, dash: Sequence[float] = ()) -> None:
    """A paper thread on its casing."""
    wide = width * unit
    if not dash:
        cased(p, path, wide - 0.6 * unit, unit)
    stroke(p, path, PAPER, wide, dash=dash)
    if dash:
        return


def stitched(p: QPainter, path: QPainterPath, unit: float, *, width: float = 2.6) -> None:
    """A seam: paper stitches with the dark ground between them."""
    stroke(p, path, see_through(DEEP, CASING), (width + 2.4) * unit)
    stroke(p, path, PAPER, width * unit, dash=(2.6, 1.7))


def bead(p: QPainter, at: QPointF, side: Side | None, colour: str, unit: float, *, radius: float = 8.0) -> None:
    """A bead on the thread: a disc for the first athlete, a square for the second, with its hole."""
    p.setPen(QPen(see_through(DEEP, 245), 2 * unit))
    p.setBrush(QColor(colour or PAPER))
    r = radius * unit
    _bead_shape(p, at, side, r)
    p.setPen(Qt.PenStyle.NoPen)
    p.setBrush(QColor(PAPER))
    _bead_shape(p, at, side, r * 0.36)


def _bead_shape(p: QPainter, at: QPointF, side: Side | None, r: float) -> None:
    if side is Side.SECOND:
        half = r * SQUARE
        p.drawRect(QRectF(at.x() - half, at.y() - half, 2 * half, 2 * half))
    else:
        p.drawEllipse(at, r, r)


def dot_end(p: QPainter, at: QPointF, unit: float) -> None:
    """The eyelet in which a lace ends."""
    p.setPen(QPen(see_through(DEEP, 245), 1.4 * unit))
    p.setBrush(QColor(PAPER))
    p.drawEllipse(at, 3.0 * unit, 3.0 * unit)


def paper(p: QPainter, shape: QPolygonF | QPainterPath, unit: float, fill: str | QColor = PAPER) -> None:
    """A cut piece of paper with its dark edge."""
    p.setPen(
        QPen(
            see_through(DEEP, 245), 2 * unit, Qt.PenStyle.SolidLine, Qt.PenCapStyle.RoundCap, Qt.PenJoinStyle.RoundJoin
        )
    )
    p.setBrush(QColor(fill))
    if isinstance(shape, QPolygonF):
        p.drawPolygon(shape)
    else:
        p.drawPath(shape)


# ── small geometry ───────────────────────────────────────────────────────────────────────────────────────────
def between(one: QPointF, other: QPointF, share: float) -> QPointF:
    """The point at a share of the way from one to the other."""
    return one + (other - one) * share


def away(one: QPointF, other: QPointF) -> float:
    """Pixels between two points."""
    return hypot(other.x() - one.x(), other.y() - one.y())


def along(one: QPointF, other: QPointF) -> QPointF:
    """The direction from one point to another, of length 1; to the right where they are the same."""
    length = away(one, other)
    return (other - one) / length if length > 1e-6 else QPointF(1, 0)


def across(direction: QPointF) -> QPointF:
    """The direction a quarter turn to the right of another, as the picture is seen."""
    return QPointF(-direction.y(), direction.x())


def turned(direction: QPointF, degrees: float) -> QPointF:
    """A direction turned clockwise, as the picture is seen."""
    a = degrees * 0.017453292519943295
    return QPointF(direction.x() * cos(a) - direction.y() * sin(a), direction.x() * sin(a) + direction.y() * cos(a))


def degrees_of(direction: QPointF) -> float:
    """How far a direction is turned clockwise from the right."""
    return atan2(direction.y(), direction.x()) * 57.29577951308232
