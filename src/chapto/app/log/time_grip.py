"""The time of a row of the log: pulled sideways, what is logged moves along the mat clock."""

from __future__ import annotations

from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtGui import QMouseEvent
from PyQt6.QtWidgets import QLabel

PIXELS, STEP = 4.0, 0.1
"""So many pixels are one step of seconds."""


class TimeGrip(QLabel):
    """`pulled` carries the seconds while it is pulled, `put_down` where it is let go; `pressed` that it only was."""

    pulled = pyqtSignal(float)
    put_down = pyqtSignal(float)
    pressed = pyqtSignal()

    def __init__(self) -> None:
        super().__init__()
        self.setTextFormat(Qt.TextFormat.PlainText)
        self.setProperty("letters", "time")
        self.setCursor(Qt.CursorShape.SizeHorCursor)
        self.setToolTip("Pull sideways to move it in time")
        self._from: float | None = None
        self._by = 0.0

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        """Take hold of it."""
        assert event is not None
        self._from, self._by = event.globalPosition().x(), 0.0
        self.pressed.emit()

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        """Say by how much."""
        assert event is not None
        if self._from is not None:
            by = round((event.globalPosition().x() - self._from) / PIXELS) * STEP
            if by != self._by:
                self._by = round(by, 1)
                self.pulled.emit(self._by)

    def mouseReleaseEvent(self, event: QMouseEvent | None) -> None:
        """Let go of it."""
        if self._from is not None and self._by:
            self.put_down.emit(self._by)
        self._from, self._by = None, 0.0
