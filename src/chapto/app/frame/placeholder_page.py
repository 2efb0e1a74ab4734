"""A stage that is still to come: what it will be for, clearly off."""

from __future__ import annotations

from functools import cached_property

from PyQt6.QtCore import QPointF, QRectF, Qt
from PyQt6.QtGui import QColor, QPainter, QPaintEvent, QPen
from PyQt6.QtWidgets import QWidget

from chapto.app.stage import Snap, StageContext, StageView
from chapto.app.theme import icon_pixmap, text_font
from chapto.paint.colours import INK, INK_SOFT, PAPER, PAPER_LINE, SPRUCE, SPRUCE_LINE
from chapto.review.work import Stage

PURPOSES = {
    Stage.SHELF: (
        "Find an earlier example of the same technique, and cut to it.",
        ("every exchange you ever logged", "what you have covered, and what not yet"),
    ),
}  # fmt: skip


class PlaceholderPage(QWidget):
    """Dark above, paper below, as everywhere; nothing to press."""

    def __init__(self, stage: Stage) -> None:
        super().__init__()
        self._stage = stage
        self.setAccessibleName(f"{stage.value}, still to come")

    def paintEvent(self, event: QPaintEvent | None) -> None:
        """The stage's sign on dark, its purpose on paper."""
        p = QPainter(self)
        p.setRenderHint(QPainter.RenderHint.Antialiasing)
        split = self.height() * 0.42
        p.fillRect(self.rect(), QColor(PAPER))
        p.fillRect(QRectF(0, 0, self.width(), split), QColor(SPRUCE))
        sign = icon_pixmap(self._stage.value.lower(), SPRUCE_LINE, 120, self.devicePixelRatioF())
        p.drawPixmap(QPointF(90, split - 150), sign)
        purpose, parts = PURPOSES[self._stage]
        p.setPen(QColor(INK))
        p.setFont(text_font(24, 600))
        p.drawText(QRectF(90, split + 34, self.width() - 180, 36), Qt.AlignmentFlag.AlignVCenter, purpose)
        for i, part in enumerate(parts):
            y = split + 90 + i * 30
            p.setPen(QPen(QColor(PAPER_LINE), 2))
            p.drawLine(QPointF(92, y + 4), QPointF(92, y + 20))
            p.setPen(QColor(INK_SOFT))
            p.setFont(text_font(16))
            p.drawText(QRectF(108, y, self.width() - 200, 24), Qt.AlignmentFlag.AlignVCenter, part)
        p.setFont(text_font(14))
        p.setPen(QColor(INK_SOFT))
        text = f"{self._stage.value} is still to come. Everything you do in the other stages will be there when it is."
        p.drawText(QRectF(90, self.height() - 56, self.width() - 180, 30), Qt.AlignmentFlag.AlignVCenter, text)
        p.end()


class PlaceholderStage(StageView):
    """A stage still to come, as the window knows it."""

    works = False

    def __init__(self, stage: Stage, context: StageContext) -> None:
        self.stage = stage

    @cached_property
    def page(self) -> PlaceholderPage:
        """What it will be for."""
        return PlaceholderPage(self.stage)

    def pictures(self, snap: Snap) -> None:
        """There is nothing to see yet."""
