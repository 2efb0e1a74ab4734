"""Laces from spoken words up to their moments."""

from __future__ import annotations

from PyQt6.QtCore import QLineF, QPointF, Qt
from PyQt6.QtGui import QColor, QPainterPath, QPen

from chapto.app.lacing.canvas import Canvas
from chapto.app.lacing.model import Lace
from chapto.paint.colours import FIRST, INK, PAPER, SPRUCE, TIES
from chapto.paint.signs import dot
from chapto.programme.placed import TieState

MOST_OFFERED = 200
"""About so many offered ties in view are drawn; of more, evenly chosen ones."""
THREADS = 90
"""Up to so many laces in view have their thread drawn up to the moment itself."""


def draw_offered(c: Canvas) -> None:
    """Ties that offer themselves, dashed, from the word to what it likeliest means."""
    offered = c.model.offered_in(c.from_ - 5, c.to + 5)
    r, p = c.rows, c.p
    p.setBrush(Qt.BrushStyle.NoBrush)
    for x in offered[:: max(len(offered) // MOST_OFFERED, 1)]:
        said, pin = c.axis.x(x.said), c.axis.x(x.pin)
        middle = (r.mat_foot + r.rail_top) / 2
        path = QPainterPath(QPointF(said, r.words_top - 2))
        path.lineTo(said, r.rail_top)
        path.cubicTo(said, middle, pin, middle, pin, r.mat_foot)
        p.setPen(QPen(QColor(SPRUCE), 2.4))
        p.drawPath(path)
        p.setPen(QPen(QColor(PAPER), 1.2, Qt.PenStyle.DashLine))
        p.drawPath(path)


def draw_laces(c: Canvas, selected: tuple[str, int] | None) -> None:
    """From the word up to where its moment is shown, and on, thin, to the moment; the selected one on top."""
    laces = c.laces
    chosen = next((x for x in laces if (x.beat, x.word) == selected), None)
    if len(laces) > THREADS:
        _many(c, [x for x in laces if x is not chosen])
    else:
        for lace in laces:
            if lace is not chosen:
                _lace(c, lace)
    if chosen is not None:
        dot(c.p, QPointF(c.axis.x(chosen.said), c.rows.words_top - 2), 7, FIRST)
        _lace(c, chosen)


def _many(c: Canvas, laces: list[Lace]) -> None:
    """Without threads, all of one colour at a stroke."""
    r, p = c.rows, c.p
    for state, colour in TIES.items():
        lines = [
            QLineF(c.axis.x(x.said), r.words_top - 2, c.axis.x(_hangs_from(x)), r.rail_foot + 1)
            for x in laces
            if x.state is state
        ]
        p.setPen(QPen(QColor(colour), 2.4))
        if lines:
            p.drawLines(*lines)


def _hangs_from(lace: Lace) -> float:
    return lace.said if lace.shown is None or lace.state is TieState.MET else lace.shown


def _lace(c: Canvas, lace: Lace) -> None:
    r, p = c.rows, c.p
    colour = QColor(TIES[lace.state])
    x, y = c.axis.x(lace.said), r.words_top - 2
    if lace.shown is None:
        p.setPen(QPen(colour, 2.4, Qt.PenStyle.DashLine))
        p.drawLine(QLineF(x, y, x - 14, r.rail_foot + 3))
        return
    # Met is met: the word stands right under its moment.
    shown = x if lace.state is TieState.MET else c.axis.x(lace.shown)
    if lace.pin is not None:
        top, middle = c.axis.x(lace.pin), (r.mat_foot + r.rail_top) / 2
        path = QPainterPath(QPointF(shown, r.rail_top))
        path.cubicTo(shown, middle, top, middle, top, r.mat_foot)
        p.setBrush(Qt.BrushStyle.NoBrush)
        p.setPen(QPen(QColor(SPRUCE), 3.6))
        p.drawPath(path)
        p.setPen(QPen(QColor(PAPER), 1.5))
        p.drawPath(path)
        p.setPen(QPen(QColor(INK), 1.6))
        p.drawLine(QLineF(shown, r.rail_top, shown, r.rail_foot))
    p.setPen(QPen(colour, 3, Qt.PenStyle.SolidLine, Qt.PenCapStyle.RoundCap))
    p.drawLine(QLineF(x, y, shown, r.rail_foot + 1))
    dot(p, QPointF(x, y + 1), 3.4, colour)
