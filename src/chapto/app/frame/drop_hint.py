"""Over the window while files are dragged over it: where they will land."""

from __future__ import annotations

from PyQt6.QtCore import QRectF, Qt
from PyQt6.QtGui import QColor, QPainter, QPaintEvent, QPen
from PyQt6.QtWidgets import QWidget

from chapto.app.frame.sheet import paint_sheet
from chapto.app.theme import icon_pixmap, text_font
from chapto.paint.colours import FIRST, INK, INK_SOFT


class DropHint(QWidget):
    """A sheet with one sentence and the sign of the stage that takes the files."""

    def __init__(self, window: QWidget) -> None:
        super().__init__(window)
        self.setAttribute(Qt.WidgetAttribute.WA_TransparentForMouseEvents)
        self.sentence, self._sign = "", ""
        self.hide()

    def show_where(self, sentence: str, sign: str) -> None:
        """Say it over the whole window."""
        self.sentence, self._sign = sentence, sign
        parent = self.parentWidget()
        if parent is not None:
            self.setGeometry(parent.rect())
        self.show()
        self.raise_()
        self.update()

    def paintEvent(self, event: QPaintEvent | None) -> None:
        """The sheet, with a dashed edge where things are laid down."""
        painter = QPainter(self)
        sheet = paint_sheet(painter, self.rect(), 560, 190)
        painter.setPen(QPen(QColor(FIRST), 2, Qt.PenStyle.DashLine))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawRoundedRect(sheet.adjusted(12, 12, -12, -12), 6, 6)
        middle = sheet.center().x()
        painter.drawPixmap(QRectF(middle - 22, sheet.top() + 34, 44, 44).topLeft(),
                           icon_pixmap(self._sign, INK, 44, self.devicePixelRatioF()))  # fmt: skip
        painter.setPen(QColor(INK))
        painter.setFont(text_font(18, 600))
        painter.drawText(sheet.adjusted(24, 92, -24, -60), Qt.AlignmentFlag.AlignCenter, self.sentence)
        painter.setPen(QColor(INK_SOFT))
        painter.setFont(text_font(14))
        painter.drawText(
            sheet.adjusted(24, 130, -24, -24), Qt.AlignmentFlag.AlignCenter, "Nothing is copied, moved or changed."
        )
        painter.end()
