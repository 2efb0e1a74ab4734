"""The base: what the weight stands on, stitched and hatched, with a plumb bob from the weight."""

from __future__ import annotations

import numpy as np
from PyQt6.QtCore import QPointF, QRectF, Qt
from PyQt6.QtGui import QBrush, QPainter, QPainterPath, QPolygonF

from chapto.bodies.base import base_outline
from chapto.paint.colours import DEEP, PAPER, see_through
from chapto.paint.marks.drawn import Drawn
from chapto.paint.marks.strokes import bead, cord, line, paper, path_of, thread

MARGIN = 28.0
FLAT = 11.0
"""Units by which a base that is seen from its edge is opened, so that it can be seen at all."""


def paint(p: QPainter, m: Drawn) -> None:
    """The outline of the supports, a bead on each, and the bob that hangs from the centre of the weight."""
    u = m.unit
    outline = _outline(m)
    shape = path_of(outline, closed=len(outline) > 2)
    if len(outline) > 2:
        p.setPen(Qt.PenStyle.NoPen)
        p.setBrush(see_through(m.colour, 70))
        p.drawPath(shape)
        p.setBrush(QBrush(see_through(PAPER, 210), Qt.BrushStyle.BDiagPattern))
        p.drawPath(shape)
    cord(p, shape, m.colour, u, width=5.5, loose=m.loose)
    for place in m.points:
        bead(p, place, m.of, m.colour, u, radius=7)
    if m.centre is not None:
        _bob(p, m, m.centre)


def _bob(p: QPainter, m: Drawn, centre: QPointF) -> None:
    u = m.unit
    foot = QPointF(centre.x(), float(np.mean([pt.y() for pt in m.points])))
    thread(p, line(centre, foot - QPointF(0, 22 * u)), u)
    tip = QPolygonF([foot + QPointF(x * u, y * u) for x, y in ((-9, -24), (9, -24), (9, -15), (0, 0), (-9, -15))])
    paper(p, tip, u)
    p.fillRect(QRectF(foot.x() - 8 * u, foot.y() - 23 * u, 16 * u, 4 * u), see_through(m.colour, 255))
    _quarters(p, centre, u)


def _quarters(p: QPainter, at: QPointF, u: float) -> None:
    """The sign of a centre of mass: a disc in four quarters, two of them dark."""
    r = 11 * u
    box = QRectF(at.x() - r, at.y() - r, 2 * r, 2 * r)
    dark = QPainterPath()
    dark.addEllipse(box)
    paper(p, dark, u)
    p.setPen(Qt.PenStyle.NoPen)
    p.setBrush(see_through(DEEP, 250))
    p.drawPie(box, 0, 90 * 16)
    p.drawPie(box, 180 * 16, 90 * 16)


def _outline(m: Drawn) -> list[QPointF]:
    places = np.array([(pt.x(), pt.y()) for pt in m.points])
    if len(m.points) == 2:
        lift = np.array([0, FLAT * m.unit])
        places = np.concatenate([places - lift, places + lift])
    return [QPointF(float(x), float(y)) for x, y in base_outline(places)]


def hang(m: Drawn) -> QPointF:
    """Where the slip's lace is tied."""
    return QPointF(float(np.mean([pt.x() for pt in m.points])), max(pt.y() for pt in m.points))
