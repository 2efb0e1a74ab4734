"""What lies over the whole of its window for a while: Esc leaves."""

from __future__ import annotations

from PyQt6.QtCore import QEvent, QObject, Qt
from PyQt6.QtGui import QKeyEvent
from PyQt6.QtWidgets import QWidget


class OverWindow(QWidget):
    """As large as `window` is and becomes, until `leave`."""

    def __init__(self, window: QWidget, name: str) -> None:
        super().__init__(window)
        self._window = window
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName(name)
        self.setGeometry(window.rect())
        window.installEventFilter(self)

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

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        """Esc leaves."""
        assert event is not None
        if event.key() == Qt.Key.Key_Escape:
            self.leave()
        else:
            super().keyPressEvent(event)

    def eventFilter(self, watched: QObject | None, event: QEvent | None) -> bool:
        """Keep lying over the whole window."""
        if event is not None and event.type() == QEvent.Type.Resize:
            self.setGeometry(self._window.rect())
        return False
