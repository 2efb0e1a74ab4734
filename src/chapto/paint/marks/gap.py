"""A gap: a run of lace between two bars, which is as long as the room is wide."""

from __future__ import annotations

from PyQt6.QtCore import QPointF
from PyQt6.QtGui import QPainter

from chapto.paint.marks.drawn import Drawn
from chapto.paint.marks.strokes import across, along, away, bead, between, cord, line, path_of, thread

BAR = 24.0
HALF = 13.0
STEP = 15.0
MARGIN = 36.0


def paint(p: QPainter, m: Drawn) -> None:
    """Two bars across, laced crosswise."""
    one, other, u = m.points[0], m.points[1], m.unit
    ahead = along(one, other)
    side = across(ahead)
    count = max(round(away(one, other) / (STEP * u)), 2)
    for turn in (1, -1):
        lace = [
            between(one, other, i / count) + side * (HALF * u * turn * (1 if i % 2 else -1)) for i in range(count + 1)
        ]
        thread(p, path_of(lace), u, width=2.2)
    for number, end in ((0, one), (1, other)):
        whose = m.sides[number]
        colour = m.colour_of(whose)
        cord(p, line(end - side * (BAR * u), end + side * (BAR * u)), colour, u, width=6.5, loose=m.loose)
        bead(p, end, whose or m.of, colour, u, radius=7.5)


def hang(m: Drawn) -> QPointF:
    """Where the slip's lace is tied."""
    return between(m.points[0], m.points[1], 0.5)
