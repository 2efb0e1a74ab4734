"""The sign of a finding by its weight: told apart by shape as well as by colour."""

from __future__ import annotations

from PyQt6.QtCore import QPointF, QRectF, Qt
from PyQt6.QtGui import QColor, QPainter, QPen, QPolygonF

from chapto.paint.colours import INK_SOFT, PAPER, TIES
from chapto.programme.programme import TieState
from chapto.review.finding import Weight

COLOURS = {
    Weight.MUST: TIES[TieState.BROKEN],
    Weight.SHOULD: TIES[TieState.LATE],
    Weight.MAY: TIES[TieState.MET],
}


def weight_sign(p: QPainter, at: QPointF, radius: float, weight: Weight | None, *, left: bool = False) -> None:
    """A lozenge for what must be mended, a disc for what should, a ring for what is small; hollow and soft where it is
    left with a reason, a dash where nothing could be checked."""
    if weight is None:
        p.setPen(QPen(QColor(INK_SOFT), 2))
        p.drawLine(at - QPointF(radius, 0), at + QPointF(radius, 0))
        return
    colour = QColor(INK_SOFT if left else COLOURS[weight])
    ring = left or weight is Weight.MAY
    p.setPen(QPen(colour, 1.8))
    p.setBrush(QColor(PAPER) if ring else colour)
    if weight is Weight.MUST:
        r = radius * 1.3
        p.drawPolygon(
            QPolygonF([at + QPointF(0, -r), at + QPointF(r, 0), at + QPointF(0, r), at + QPointF(-r, 0)])
        )  # fmt: skip
    else:
        p.drawEllipse(QRectF(at.x() - radius, at.y() - radius, 2 * radius, 2 * radius))
    p.setBrush(Qt.BrushStyle.NoBrush)
