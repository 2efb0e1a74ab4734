"""The knee line: a gate between two posts, shut or swung open, and the knee before it."""

from __future__ import annotations

from PyQt6.QtCore import QPointF
from PyQt6.QtGui import QPainter

from chapto.document.mark_kinds import MarkState
from chapto.document.people import Side
from chapto.paint.marks.drawn import Drawn
from chapto.paint.marks.strokes import across, along, away, bead, between, cord, line, thread, turned

POST = 17.0
WIDE = 20.0
STEP = 21.0
SWING = 68.0
"""Half a post's length and the gate's width in units, the distance of its rungs, and degrees it swings."""
MARGIN = 36.0


def paint(p: QPainter, m: Drawn) -> None:
    """Posts of cord at both ends of the line, rungs of paper between; it hangs on the first."""
    one, other, u = m.points[0], m.points[1], m.unit
    ahead = along(one, other)
    swung = turned(ahead, SWING * _outward(m)) if m.state is MarkState.OPEN else ahead
    _gate(p, m, one, one + swung * away(one, other))
    for end in (one, other):
        side = across(ahead) * (POST * u)
        cord(p, line(end - side, end + side), m.colour, u, width=8.5, loose=m.loose)
    bead(p, one, m.side_of(0), m.colour, u, radius=7.5)
    if len(m.points) > 2:
        whose = m.sides[2] or (Side.SECOND if m.of is Side.FIRST else Side.FIRST if m.of is Side.SECOND else None)
        bead(p, m.points[2], whose, m.colour_of(whose) if whose else m.other, u, radius=12)


def _gate(p: QPainter, m: Drawn, hinge: QPointF, latch: QPointF) -> None:
    u = m.unit
    side = across(along(hinge, latch)) * (WIDE / 2 * u)
    count = max(round(away(hinge, latch) / (STEP * u)), 2)
    for i in range(1, count):
        at = between(hinge, latch, i / count)
        thread(p, line(at - side, at + side), u, width=3.2)
    for rail in (line(hinge - side, latch - side), line(hinge + side, latch + side)):
        thread(p, rail, u, width=3.6)


def _outward(m: Drawn) -> float:
    """To which side the gate swings: away from the knee."""
    if len(m.points) < 3:
        return 1.0
    ahead, knee = along(m.points[0], m.points[1]), m.points[2] - m.points[0]
    return -1.0 if ahead.x() * knee.y() - ahead.y() * knee.x() > 0 else 1.0


def hang(m: Drawn) -> QPointF:
    """Where the slip's lace is tied."""
    return m.points[0]
