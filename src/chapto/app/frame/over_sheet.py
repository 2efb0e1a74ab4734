"""A sheet of paper with controls over the darkened window: Esc or a press beside it leaves."""

from __future__ import annotations

from PyQt6.QtCore import QEvent, QObject, Qt
from PyQt6.QtGui import QKeyEvent, QMouseEvent, QPainter, QPaintEvent
from PyQt6.QtWidgets import QWidget

from chapto.app.widgets import ground
from chapto.paint.colours import DEEP, see_through

MARGIN = 30
"""Pixels of the window that stay beside a sheet, at least."""


class OverSheet(QWidget):
    """What stands on it goes into `sheet`, which is as large as wished where the window has the room."""

    def __init__(self, window: QWidget, name: str, size: tuple[int, int]) -> None:
        super().__init__(window)
        self._window, self._size = window, size
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName(name)
        self.sheet = ground(QWidget(self), "paper")
        window.installEventFilter(self)
        self._fill()

    def show_over(self) -> None:
        """Once everything stands on it."""
        self.show()
        self.raise_()
        self.setFocus()

    def leave(self) -> None:
        """What was done on it stays."""
        self._window.removeEventFilter(self)
        self.close()
        self.deleteLater()

    def place(self) -> tuple[int, int, int, int]:
        """Where the sheet lies in the window: left, top, width, height."""
        width = min(self._size[0], self.width() - 2 * MARGIN)
        height = min(self._size[1], self.height() - 2 * MARGIN)
        return (self.width() - width) // 2, (self.height() - height) // 2, width, height

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        """Esc leaves."""
        assert event is not None
        if event.key() == Qt.Key.Key_Escape:
            self.leave()
        else:
            super().keyPressEvent(event)

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        """A press beside the sheet leaves."""
        if event is not None and not self.sheet.geometry().contains(event.position().toPoint()):
            self.leave()

    def paintEvent(self, event: QPaintEvent | None) -> None:
        """The window behind is darkened."""
        painter = QPainter(self)
        painter.fillRect(self.rect(), see_through(DEEP, 190))
        painter.end()

    def eventFilter(self, watched: QObject | None, event: QEvent | None) -> bool:
        """Keep lying over the whole window."""
        if event is not None and event.type() == QEvent.Type.Resize:
            self._fill()
        return False

    def _fill(self) -> None:
        self.setGeometry(self._window.rect())
        self.sheet.setGeometry(*self.place())
