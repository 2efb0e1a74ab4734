"""A path: the way a point has gone, a knot for every half second, the bead where it is now."""

from __future__ import annotations

from PyQt6.QtCore import QPointF
from PyQt6.QtGui import QPainter, QPen

from chapto.paint.colours import DEEP, PAPER, see_through
from chapto.paint.marks.drawn import Drawn
from chapto.paint.marks.strokes import bead, cord, path_of

KNOTS = 5
"""Places of the trail from one knot to the next: it has ten a second."""
MARGIN = 28.0


def paint(p: QPainter, m: Drawn) -> None:
    """The cord along the trail with its knots."""
    u = m.unit
    if len(m.trail) > 1:
        cord(p, path_of(m.trail), m.colour, u, width=5.5, loose=m.loose)
        for knot in m.trail[::-1][KNOTS::KNOTS]:
            p.setPen(QPen(see_through(DEEP, 240), 1.8 * u))
            p.setBrush(see_through(PAPER, 255))
            p.drawEllipse(knot, 4.6 * u, 4.6 * u)
    bead(p, m.points[0], m.side_of(0), m.colour, u, radius=10)


def hang(m: Drawn) -> QPointF:
    """Where the slip's lace is tied."""
    return m.points[0]
