"""Starting the application."""

from __future__ import annotations

import os
import sys
from functools import lru_cache
from pathlib import Path

from PyQt6.QtWidgets import QApplication, QMessageBox

from chapto.app.studio import Studio
from chapto.app.theme import dress
from chapto.app.window import Window
from chapto.document.breakdown import Breakdown
from chapto.errors import ChaptoError
from chapto.store.session import Session


def has_display() -> bool:
    """Whether a window could be shown to anybody."""
    return bool(os.environ.get("DISPLAY") or os.environ.get("WAYLAND_DISPLAY"))


@lru_cache(maxsize=1)
def application() -> QApplication:
    """The one application object, dressed, kept for the life of the process."""
    existing = QApplication.instance()
    if isinstance(existing, QApplication):
        return existing
    app = QApplication(sys.argv[:1])
    app.setApplicationName("Chapto")
    app.setDesktopFileName("chapto")
    dress(app)
    return app


def run(path: Path | None) -> int:
    """Open the window on a project file, or on an empty breakdown; the exit status."""
    app = application()
    windows: list[Window] = []

    def open_one(wanted: Path | None) -> None:
        try:
            session = Session.open(wanted) if wanted else Session.untitled(Breakdown(title="New breakdown"))
        except ChaptoError as error:
            if not windows:
                raise
            QMessageBox.warning(windows[-1], "Chapto", str(error))
            return
        window = Window(Studio(session), open_other=open_one)
        for old in windows:
            old.close()
        windows[:] = [window]
        window.show()

    open_one(path)
    return app.exec()
