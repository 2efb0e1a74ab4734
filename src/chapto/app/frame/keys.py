"""F1: the keys of the stage over the window."""

from __future__ import annotations

from PyQt6.QtCore import QEvent, QRectF, Qt
from PyQt6.QtGui import QColor, QKeyEvent, QMouseEvent, QPainter, QPaintEvent
from PyQt6.QtWidgets import QWidget

from chapto.app.frame.sheet import paint_sheet
from chapto.app.theme import number_font, text_font
from chapto.paint.colours import INK, INK_SOFT, PAPER_DEEP
from chapto.paint.plates import plate

EVERYWHERE = (
    ("Space", "play or stop (Ctrl+Space while writing)"),
    ("Left  Right", "one picture back or on"),
    ("Shift+Left  Right", "one second back or on"),
    ("B", "five seconds back"),
    ("Home  End", "to its begin, to its end"),
    ("V", "footage or programme"),
    ("Ctrl+1 … Ctrl+8", "stages"),
    ("Ctrl+Z  Ctrl+Shift+Z", "undo, redo"),
    ("Ctrl+S  N  O  W", "save, new, open, close; Ctrl+, settings"),
    ("Ctrl+Alt+,  .", "slower, faster; M mutes; PgUp louder"),
    ("Ctrl+Alt+plus  −", "nearer, farther; W A S D about; 0 whole"),
    ("F11  F2", "the picture alone; the last messages"),
    ("F1  Esc", "show and close this page"),
)


class KeysPage(QWidget):
    """A sheet of paper with the keys, until a key or a press."""

    def __init__(self, parent: QWidget, title: str, keys: tuple[tuple[str, str], ...]) -> None:
        super().__init__(parent)
        self._title, self._keys = title, keys
        self.setGeometry(parent.rect())
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.show()
        self.raise_()
        self.setFocus()

    def paintEvent(self, event: QPaintEvent | None) -> None:
        """Two columns: this stage, and everywhere."""
        painter = QPainter(self)
        rows = max(len(self._keys), len(EVERYWHERE))
        sheet = paint_sheet(painter, self.rect(), 900, 110 + rows * 32)
        for left, title, keys in ((36, self._title, self._keys), (470, "Everywhere", EVERYWHERE)):
            painter.setPen(QColor(INK))
            painter.setFont(text_font(18, 600))
            painter.drawText(QRectF(sheet.left() + left, sheet.top() + 26, 380, 28), 0, title)
            for i, (key, what) in enumerate(keys):
                y = sheet.top() + 72 + i * 32
                painter.setFont(number_font(15, 600))
                width = painter.fontMetrics().horizontalAdvance(key) + 16
                cap = QRectF(sheet.left() + left, y, width, 24)
                plate(painter, cap, 4, PAPER_DEEP)
                painter.setPen(QColor(INK))
                painter.drawText(cap, Qt.AlignmentFlag.AlignCenter, key)
                painter.setPen(QColor(INK_SOFT))
                painter.setFont(text_font(14))
                about = QRectF(max(cap.right() + 10, sheet.left() + left + 128), y, 290, 24)
                painter.drawText(about, Qt.AlignmentFlag.AlignVCenter, what)
        painter.end()

    def event(self, event: QEvent | None) -> bool:
        """While the page is up, no key is a shortcut of the window."""
        if event is not None and event.type() == QEvent.Type.ShortcutOverride:
            event.accept()
            return True
        return super().event(event)

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        """Any key closes it."""
        self.close()
        self.deleteLater()

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        """So does a press."""
        self.close()
        self.deleteLater()
