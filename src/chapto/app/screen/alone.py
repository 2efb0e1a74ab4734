"""The picture alone, on the whole screen: over everything of its window, so that all its keys go on working."""

from __future__ import annotations

from collections.abc import Callable

from PyQt6.QtCore import QEvent, QObject, Qt
from PyQt6.QtGui import QKeyEvent
from PyQt6.QtWidgets import QWidget

from chapto.app import layouts
from chapto.app.widgets import ground


class Alone(QWidget):
    """Lies over `window` until `leave`, F11 or Esc."""

    def __init__(self, window: QWidget, picture: QWidget, left: Callable[[], object]) -> None:
        super().__init__(window)
        self._window, self._left = window, left
        self._was = window.windowState()
        ground(self, "dark")
        layouts.column(self, picture)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName("The picture alone")
        window.installEventFilter(self)
        window.setWindowState(self._was | Qt.WindowState.WindowFullScreen)
        self.setGeometry(window.rect())
        self.show()
        self.raise_()
        self.setFocus()

    def leave(self) -> None:
        """The window as it was."""
        self._window.removeEventFilter(self)
        self._window.setWindowState(self._was)
        self.close()
        self.deleteLater()
        self._left()

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
