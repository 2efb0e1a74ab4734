"""The one application object of a process."""

from __future__ import annotations

from PyQt6.QtCore import QCoreApplication
from PyQt6.QtWidgets import QApplication

_made: list[QApplication] = []


def application(*, offscreen: bool = False) -> QApplication:
    """Qt's application object, made when there is none yet and kept for the life of the process. `offscreen` needs no
    display. It is always one for widgets, since a process that renders first may open a window afterwards."""
    existing = QCoreApplication.instance()
    if existing is not None:
        assert isinstance(existing, QApplication)
        return existing
    made = QApplication(["chapto", *(["-platform", "offscreen"] if offscreen else [])])
    made.setApplicationName("Chapto")
    made.setDesktopFileName("org.chapto.Chapto")
    _made.append(made)
    return made
