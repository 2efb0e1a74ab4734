"""The level: a tube whose bubble is the bead of whoever's hips are higher."""

from __future__ import annotations

from PyQt6.QtCore import QPointF, QRectF, Qt
from PyQt6.QtGui import QColor, QLinearGradient, QPainter, QPen

from chapto.document.people import Side
from chapto.paint.colours import DEEP, GLASS, PAPER, SPRUCE_LINE, see_through
from chapto.paint.marks.drawn import Drawn
from chapto.paint.marks.strokes import bead, between, line, thread

HIGH = 26.0
LEAST, MOST = 110.0, 170.0
"""Length of the tube in units."""
MARGIN = 72.0


def paint(p: QPainter, m: Drawn) -> None:
    """Two threads from the hips to the ends of a glass tube with its bubble."""
    u = m.unit
    ends = _hips(m)
    left, right = sorted(ends, key=lambda e: e[1].x())
    tube = _tube(m)
    for (side, place), end in (
        (left, QPointF(tube.left(), tube.center().y())),
        (right, QPointF(tube.right(), tube.center().y())),
    ):
        thread(p, line(place, end), u)
        bead(p, place, side, m.colour_of(side), u, radius=7)
    glass = QLinearGradient(tube.topLeft(), tube.bottomLeft())
    glass.setColorAt(0, see_through(PAPER, 240))
    glass.setColorAt(0.35, see_through(GLASS, 225))
    glass.setColorAt(1, see_through(SPRUCE_LINE, 210))
    p.setPen(QPen(see_through(DEEP, 245), 2.4 * u))
    p.setBrush(glass)
    p.drawRoundedRect(tube, tube.height() / 2, tube.height() / 2)
    p.setPen(QPen(see_through(DEEP, 200), 1.8 * u))
    for off in (-17, 17):
        x = tube.center().x() + off * u
        p.drawLine(QPointF(x, tube.top() + 3 * u), QPointF(x, tube.bottom() - 3 * u))
    higher = _higher(m)
    shift = 0.0 if higher is None else (-1 if higher == left[0] else 1) * (tube.width() / 2 - 19 * u)
    at = QPointF(tube.center().x() + shift, tube.center().y())
    if higher is None:
        p.setPen(QPen(see_through(DEEP, 230), 1.8 * u))
        p.setBrush(QColor(PAPER))
        p.drawEllipse(at, 12 * u, 8.5 * u)
        return
    bead(p, at, higher, m.colour_of(higher), u, radius=10.5)
    p.setPen(Qt.PenStyle.NoPen)
    p.setBrush(see_through(PAPER, 210))
    p.drawEllipse(at + QPointF(-3 * u, -5.5 * u), 3.4 * u, 1.9 * u)


def _hips(m: Drawn) -> list[tuple[Side, QPointF]]:
    """The middle of each side's points."""
    found = []
    for side in (Side.FIRST, Side.SECOND):
        mine = [pt for pt, s in zip(m.points, m.sides, strict=True) if s is side]
        if mine:
            found.append((side, sum(mine[1:], mine[0]) / len(mine)))
    if len(found) == 2:
        return found
    return [(Side.FIRST, m.points[0]), (Side.SECOND, m.points[-1])]


def _higher(m: Drawn) -> Side | None:
    """Whoever the creator says; else nobody."""
    return m.of


def _tube(m: Drawn) -> QRectF:
    one, other = (place for _, place in _hips(m))
    middle, u = between(one, other, 0.5), m.unit
    wide = min(max(abs(one.x() - other.x()) * 0.8, LEAST * u), MOST * u)
    return QRectF(middle.x() - wide / 2, middle.y() - HIGH * u / 2, wide, HIGH * u)


def hang(m: Drawn) -> QPointF:
    """Where the slip's lace is tied."""
    tube = _tube(m)
    return QPointF(tube.center().x(), tube.bottom())
