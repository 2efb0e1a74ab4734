"""A sheet of paper with controls over the darkened window: Esc or a press beside it leaves."""

from __future__ import annotations

from PyQt6.QtGui import QMouseEvent, QPainter, QPaintEvent, QResizeEvent
from PyQt6.QtWidgets import QWidget

from chapto.app.over_window import OverWindow
from chapto.app.widgets import ground
from chapto.paint.colours import DEEP, see_through

MARGIN = 30
"""Pixels of the window that stay beside a sheet, at least."""


class OverSheet(OverWindow):
    """What stands on it goes into `sheet`, which is as large as wished where the window has the room."""

    def __init__(self, window: QWidget, name: str, size: tuple[int, int]) -> None:
        super().__init__(window, name)
        self._size = size
        self.sheet = ground(QWidget(self), "paper")
        self.sheet.setGeometry(*self.place())

    def place(self) -> tuple[int, int, int, int]:
        """Where the sheet lies in the window: left, top, width, height."""
        width = min(self._size[0], self.width() - 2 * MARGIN)
        height = min(self._size[1], self.height() - 2 * MARGIN)
        return (self.width() - width) // 2, (self.height() - height) // 2, width, height

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        """A press beside the sheet leaves."""
        if event is not None and not self.sheet.geometry().contains(event.position().toPoint()):
            self.leave()

    def paintEvent(self, event: QPaintEvent | None) -> None:
        """The window behind is darkened."""
        painter = QPainter(self)
        painter.fillRect(self.rect(), see_through(DEEP, 190))
        painter.end()

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        """The sheet stays in the middle."""
        super().resizeEvent(event)
        self.sheet.setGeometry(*self.place())
