"""A repair to be ticked: what is written, what it should be, and the words round it."""

from __future__ import annotations

from PyQt6.QtCore import QPointF, QRectF, QSize, Qt
from PyQt6.QtGui import QColor, QFont, QFontMetricsF, QPainter, QPaintEvent, QPen
from PyQt6.QtWidgets import QAbstractButton, QSizePolicy

from chapto.app.theme import text_font
from chapto.paint.colours import CHOSEN, INK, INK_SOFT, PAPER_LINE, TIES
from chapto.paint.lettering import cut
from chapto.programme.programme import TieState

HIGH, BOX = 30, 16.0


class TickRow(QAbstractButton):
    """Ticked or not; Space and a press turn it over, Up and Down go to the next."""

    def __init__(self, before: str, written: str, right: str, after: str) -> None:
        super().__init__()
        self._parts = (
            (f"… {before} " if before else "", text_font(14), INK_SOFT, False),
            (written, text_font(14), TIES[TieState.BROKEN], True),
            (f"  {right}", text_font(14, 600), INK, False),
            (f"  {after} …" if after else "", text_font(14), INK_SOFT, False),
        )
        self.setCheckable(True)
        self.setChecked(True)
        # Space is for ticking here, not for playing.
        self.setProperty("ownKeys", True)
        self.setAccessibleName(f"Write “{right}” for “{written}”")
        self.setCursor(Qt.CursorShape.PointingHandCursor)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)

    def sizeHint(self) -> QSize:
        """One line."""
        return QSize(200, HIGH)

    def paintEvent(self, event: QPaintEvent | None) -> None:
        """A ring that is filled when it is ticked, and the words; what is wrong is struck out."""
        p = QPainter(self)
        p.setRenderHint(QPainter.RenderHint.Antialiasing)
        if self.hasFocus():
            p.fillRect(self.rect(), QColor(CHOSEN))
        middle = self.height() / 2
        ring = QRectF(4, middle - BOX / 2, BOX, BOX)
        p.setPen(QPen(QColor(INK if self.isChecked() else PAPER_LINE), 1.6))
        p.setBrush(QColor(INK) if self.isChecked() else Qt.BrushStyle.NoBrush)
        p.drawEllipse(ring)
        if self.isChecked():
            p.setPen(QPen(QColor(CHOSEN), 2))
            p.drawPolyline(
                QPointF(ring.left() + 4, middle), QPointF(ring.left() + 7, middle + 3.5),
                QPointF(ring.left() + 12, middle - 3.5),
            )  # fmt: skip
        x = ring.right() + 10
        for text, font, colour, struck in (part for part in self._parts if part[0]):
            x += self._write(p, x, text, font, colour, struck=struck)
        p.end()

    def _write(self, p: QPainter, x: float, text: str, font: QFont, colour: str, *, struck: bool) -> float:
        room = self.width() - x - 4
        shown = text if QFontMetricsF(font).horizontalAdvance(text) <= room else cut(text, font, max(room, 0))
        wide = QFontMetricsF(font).horizontalAdvance(shown)
        p.setFont(font)
        p.setPen(QColor(colour))
        p.drawText(QRectF(x, 0, wide + 2, self.height()), Qt.AlignmentFlag.AlignVCenter, shown)
        if struck:
            p.setPen(QPen(QColor(colour), 1.2))
            p.drawLine(QPointF(x, self.height() / 2 + 1), QPointF(x + wide, self.height() / 2 + 1))
        return wide
