"""Weight: a sewn sack that hangs from whose weight it is and sinks into where it rests."""

from __future__ import annotations

from PyQt6.QtCore import QPointF
from PyQt6.QtGui import QPainter, QPainterPath

from chapto.paint.colours import INK, see_through
from chapto.paint.marks.drawn import Drawn
from chapto.paint.marks.strokes import bead, cord, line, paper, stitched, stroke

WIDE, HIGH = 27.0, 38.0
MARGIN = 56.0


def paint(p: QPainter, m: Drawn) -> None:
    """The cord, the sack at its end with its neck and seam, and the folds it presses."""
    whose, rests, u = m.points[0], m.points[1], m.unit
    neck = rests - QPointF(0, HIGH * 0.78 * u)
    cord(p, line(whose, neck), m.colour, u, width=5, loose=m.loose)

    def at(x: float, y: float) -> QPointF:
        return rests + QPointF(x * WIDE * u, y * HIGH * u)

    sack = QPainterPath(at(-0.22, -0.8))
    sack.cubicTo(at(-0.5, -0.5), at(-1.15, -0.3), at(-1, 0.02))
    sack.cubicTo(at(-0.9, 0.3), at(0.9, 0.3), at(1, 0.02))
    sack.cubicTo(at(1.15, -0.3), at(0.5, -0.5), at(0.22, -0.8))
    sack.cubicTo(at(0.3, -0.95), at(0.42, -1.02), at(0.36, -1.12))
    sack.lineTo(at(-0.36, -1.12))
    sack.cubicTo(at(-0.42, -1.02), at(-0.3, -0.95), at(-0.22, -0.8))
    paper(p, sack, u)
    cord(p, line(at(-0.26, -0.8), at(0.26, -0.8)), m.colour, u, width=4.5)
    seam = QPainterPath(at(-0.72, -0.16))
    seam.quadTo(at(0, 0.12), at(0.72, -0.16))
    stroke(p, seam, see_through(INK, 190), 1.8 * u, dash=(2.4, 1.8))
    for side in (-1, 1):
        fold = QPainterPath(at(side * 1.2, 0.12))
        fold.quadTo(at(side * 1.5, 0.26), at(side * 1.85, 0.16))
        stitched(p, fold, u, width=2.4)
    bead(p, whose, m.of, m.colour, u, radius=7.5)


def hang(m: Drawn) -> QPointF:
    """Where the slip's lace is tied."""
    return m.points[1] + QPointF(WIDE * 0.9 * m.unit, -HIGH * 0.2 * m.unit)
