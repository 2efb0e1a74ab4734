"""The picture alone, on the whole screen: over everything of its window, so that all its keys go on working."""

from __future__ import annotations

from collections.abc import Callable

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QWidget

from chapto.app import layouts
from chapto.app.over_window import OverWindow
from chapto.app.widgets import ground


class Alone(OverWindow):
    """Lies over `window` until `leave`, F11 or Esc."""

    def __init__(self, window: QWidget, picture: QWidget, left: Callable[[], object]) -> None:
        super().__init__(window, "The picture alone")
        self._left = left
        self._was = window.windowState()
        ground(self, "dark")
        layouts.column(self, picture)
        window.setWindowState(self._was | Qt.WindowState.WindowFullScreen)
        self.show_over()

    def leave(self) -> None:
        """The window as it was."""
        self._window.setWindowState(self._was)
        super().leave()
        self._left()
