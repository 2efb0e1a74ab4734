"""A force: a sheaf of threads, gathered from where it comes from to the point it goes to. It has no number."""

from __future__ import annotations

from PyQt6.QtCore import QPointF, Qt
from PyQt6.QtGui import QPainter, QPainterPath

from chapto.paint.colours import PAPER, see_through
from chapto.paint.marks.drawn import Drawn
from chapto.paint.marks.strokes import across, along, away, between, cord, line, stroke, thread

WIDE = 44.0
THREADS = 7
NARROW = 0.42
"""Half the sheaf's width in units, and at most as a share of its length."""
MARGIN = 56.0


def paint(p: QPainter, m: Drawn) -> None:
    """A band with stitches at its ground, threads that gather at the point."""
    ground, point, u = m.points[0], m.points[1], m.unit
    half = min(WIDE * u, NARROW * away(ground, point))
    side = across(along(ground, point)) * half
    neck = between(ground, point, 0.86)

    def strand(share: float) -> QPainterPath:
        start = ground + side * share
        path = QPainterPath(start)
        path.quadTo(between(start, neck, 0.62) - side * (share * 0.16), neck)
        path.lineTo(point)
        return path

    body = QPainterPath(strand(-1))
    edge = strand(1).toReversed()
    body.connectPath(edge)
    body.closeSubpath()
    p.setPen(Qt.PenStyle.NoPen)
    p.setBrush(see_through(m.colour, 150))
    p.drawPath(body)
    for i in range(THREADS):
        share = 2 * i / (THREADS - 1) - 1
        if abs(share) < 1:
            stroke(p, strand(share), see_through(PAPER, 235), 1.7 * u)
    for share in (-1.0, 1.0):
        thread(p, strand(share), u, width=2.6)
    cord(p, line(ground - side * 1.14, ground + side * 1.14), m.colour, u, width=8, loose=m.loose)


def hang(m: Drawn) -> QPointF:
    """Where the slip's lace is tied."""
    return m.points[0]
