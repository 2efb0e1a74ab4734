"""Where the lacing's parts are drawn: a painter, its axis and rows, and letters that stay in sight."""

from __future__ import annotations

from PyQt6.QtCore import QRectF, Qt
from PyQt6.QtGui import QColor, QFont, QFontMetricsF, QPainter

from chapto.app.axis import Axis
from chapto.app.lacing.model import LacingModel
from chapto.app.lacing.rows import rows_for


class Canvas:
    """A painter over one model at one axis. `chosen` is the beat being written."""

    def __init__(self, painter: QPainter, model: LacingModel, axis: Axis, height: float, chosen: str) -> None:
        self.p, self.model, self.axis, self.chosen = painter, model, axis, chosen
        self.rows = rows_for(height)
        self.from_, self.to = axis.at(0), axis.at(axis.width)

    def sees(self, start: float, end: float) -> bool:
        """Whether any of it is in view."""
        return end >= self.from_ and start <= self.to

    def between(self, start: float, end: float, top: float, foot: float) -> QRectF:
        """A box over a stretch of the axis, a hair apart from its neighbours."""
        x0 = self.axis.x(start) + 1.5
        return QRectF(x0, top, max(self.axis.x(end) - 1.5 - x0, 1), foot - top)

    def text(self, box: QRectF, text: str, font: QFont, colour: str, *, right: bool = False) -> float:
        """Text cut to its box, kept in sight when the box begins left of the window; its width."""
        box = QRectF(max(box.left(), 6.0), box.top(), box.right() - max(box.left(), 6.0), box.height())
        if box.width() < 4:
            return 0.0
        self.p.setFont(font)
        metrics = QFontMetricsF(self.p.font())
        whole = metrics.horizontalAdvance(text)
        if box.width() < metrics.horizontalAdvance("m…") and whole > box.width():
            return 0.0
        shown = text if whole <= box.width() else metrics.elidedText(text, Qt.TextElideMode.ElideRight, box.width())
        self.p.setPen(QColor(colour))
        side = Qt.AlignmentFlag.AlignRight if right else Qt.AlignmentFlag.AlignLeft
        self.p.drawText(box, Qt.AlignmentFlag.AlignVCenter | side, shown)
        return min(whole, box.width())
