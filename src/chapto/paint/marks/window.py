"""A window: a spot magnified in a paper frame, which spreads from it like a band of the lacing."""

from __future__ import annotations

from PyQt6.QtCore import QPointF, QRectF, Qt
from PyQt6.QtGui import QColor, QPainter, QPainterPath, QPen, QPolygonF

from chapto.paint.colours import DEEP, PAPER, see_through
from chapto.paint.marks.drawn import Drawn
from chapto.paint.marks.strokes import line, stitched, thread

SHAPE = 4 / 3
EDGE = 7.0
MOST = 0.42
"""Width of a spot by its height; the frame's breadth in units; the most of the picture's width that it takes."""
MARGIN = 30.0


def spot(m: Drawn) -> QRectF:
    """What is magnified, in pixels."""
    at, r = m.points[0], m.radius
    return QRectF(at.x() - r * SHAPE, at.y() - r, 2 * r * SHAPE, 2 * r)


def paint(p: QPainter, m: Drawn) -> None:
    """The spot's seam, the band to the frame, the frame itself; what is in it comes from the picture."""
    if m.box is None:
        return
    u, here, frame = m.unit, spot(m), m.box
    band = QPainterPath()
    band.addPolygon(_hull(here, frame))
    p.setPen(Qt.PenStyle.NoPen)
    p.setBrush(see_through(PAPER, 38))
    outside = QPainterPath()
    outside.addRect(frame)
    p.drawPath(band.subtracted(outside))
    for one, other in _ties(here, frame):
        thread(p, line(one, other), u, width=2.2)
    seam = QPainterPath()
    seam.addRoundedRect(here, 4 * u, 4 * u)
    stitched(p, seam, u)
    e = EDGE * u
    rim = QPainterPath()
    rim.addRoundedRect(frame.adjusted(-e, -e, e, e), 4 * u, 4 * u)
    hole = QPainterPath()
    hole.addRect(frame)
    p.setPen(QPen(see_through(DEEP, 245), 2 * u))
    p.setBrush(QColor(PAPER))
    p.drawPath(rim.subtracted(hole))
    seam = QPainterPath()
    seam.addRoundedRect(frame.adjusted(-e / 2, -e / 2, e / 2, e / 2), 3 * u, 3 * u)
    p.setPen(QPen(QColor(m.colour), 1.8 * u, Qt.PenStyle.CustomDashLine))
    pen = p.pen()
    pen.setDashPattern([3.2, 2.2])
    p.setPen(pen)
    p.setBrush(Qt.BrushStyle.NoBrush)
    p.drawPath(seam)


def _corners(box: QRectF) -> list[QPointF]:
    return [box.topLeft(), box.topRight(), box.bottomRight(), box.bottomLeft()]


def _ties(here: QRectF, frame: QRectF) -> list[tuple[QPointF, QPointF]]:
    """The two corners of each that lie outermost: between them the band is widest."""
    way = frame.center() - here.center()
    pairs = list(zip(_corners(here), _corners(frame), strict=True))
    middle = here.center()
    order = sorted(pairs, key=lambda pair: way.x() * (pair[0] - middle).y() - way.y() * (pair[0] - middle).x())
    return [order[0], order[-1]]


def _hull(here: QRectF, frame: QRectF) -> QPolygonF:
    (a, b), (c, d) = _ties(here, frame)
    return QPolygonF([a, b, d, c])


def hang(m: Drawn) -> QPointF:
    """Where the slip hangs: under the frame."""
    return QPointF(m.box.center().x(), m.box.bottom()) if m.box is not None else m.points[0]
