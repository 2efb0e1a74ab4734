"""A grip: a clasp with a pin, which hangs when the grip is loose."""

from __future__ import annotations

from PyQt6.QtCore import QPointF
from PyQt6.QtGui import QPainter, QPainterPath

from chapto.document.mark_kinds import MarkState
from chapto.paint.marks.drawn import Drawn
from chapto.paint.marks.strokes import bead, cord, line, thread, turned

LONG, HIGH = 30.0, 17.0
"""Half the clasp's length and half its height, in units."""
LEAN, HANGS = -38.0, 64.0
"""Degrees by which the clasp leans, and by which a loose pin hangs from it."""
MARGIN = 66.0


def paint(p: QPainter, m: Drawn) -> None:
    """A bow of cord from hinge to catch round the hand, closed by its pin."""
    at, u = m.points[0], m.unit
    ahead, down = turned(QPointF(1, 0), LEAN), turned(QPointF(1, 0), LEAN + 90)

    def place(x: float, y: float) -> QPointF:
        return at + ahead * (x * LONG * u) + down * (y * HIGH * u)

    hinge, catch = place(-1, 1), place(1, 1)
    bow = QPainterPath(hinge)
    bow.cubicTo(place(-1.75, 0.3), place(-1.5, -1.1), place(-0.45, -1.05))
    bow.lineTo(place(0.45, -1.05))
    bow.cubicTo(place(1.5, -1.1), place(1.75, 0.3), catch)
    loose = m.state is MarkState.LOOSE
    pin = hinge + turned(ahead, HANGS) * (2.1 * LONG * u) if loose else catch
    if loose:
        thread(p, line(hinge, pin), u, width=3.4)
    cord(p, bow, m.colour, u, width=6.5, loose=m.loose)
    if not loose:
        thread(p, line(hinge, place(1.12, 1)), u, width=3.4)
    bead(p, hinge, m.side_of(0), m.colour, u, radius=7.5)


def hang(m: Drawn) -> QPointF:
    """Where the slip's lace is tied."""
    return (
        m.points[0] + turned(QPointF(1, 0), LEAN + 90) * (HIGH * m.unit) - turned(QPointF(1, 0), LEAN) * (LONG * m.unit)
    )
