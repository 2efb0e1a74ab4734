"""Starting the application."""

from __future__ import annotations

import os
from pathlib import Path

from PyQt6.QtWidgets import QApplication, QFileDialog, QWidget

from chapto.app.ask import ask
from chapto.app.damaged_page import DamagedPage
from chapto.app.faults import Faults
from chapto.app.studio import Studio
from chapto.app.theme import dress
from chapto.app.window import Window
from chapto.document.breakdown import Breakdown
from chapto.errors import ChaptoError
from chapto.paint import application as painting
from chapto.store.errors import DamagedFile
from chapto.store.home import home_of
from chapto.store.session import Session
from chapto.store.states import State, states_of


def has_display() -> bool:
    """Whether a window could be shown to anybody."""
    return bool(os.environ.get("DISPLAY") or os.environ.get("WAYLAND_DISPLAY"))


def application() -> QApplication:
    """The one application object, dressed."""
    app = painting.application()
    if app.property("dressed") is None:
        dress(app)
        app.setProperty("dressed", True)
    return app


def run(path: Path | None) -> int:
    """Open the window on a project file, or on an empty breakdown; the exit status."""
    app = application()
    windows = Windows(Faults())
    windows.open(path)
    return app.exec()


def _is_file_of(window: Window, wanted: Path) -> bool:
    studio = window.studio
    path = studio.session.path
    return path is not None and os.path.realpath(path) == os.path.realpath(wanted)


class Windows:
    """What is open: one breakdown, or the page that says why a file can't be."""

    def __init__(self, faults: Faults) -> None:
        self._faults = faults
        self._crashed = faults.install()
        self.now: QWidget | None = None

    def open(self, wanted: Path | None) -> None:
        """Open a project file, or an empty breakdown. What can't be opened is said over the window that is open, or in
        one of its own."""
        if isinstance(self.now, Window) and wanted and _is_file_of(self.now, wanted):
            self.now.activateWindow()
            return
        try:
            session = Session.open(wanted) if wanted else Session.untitled(Breakdown(title="New breakdown"))
        except DamagedFile as error:
            assert wanted is not None
            self._damaged(wanted, str(error), states_of(home_of(wanted)))
        except ChaptoError as error:
            if isinstance(self.now, Window):
                ask(self.now, str(error), ("Close",))
            else:
                assert wanted is not None
                self._damaged(wanted, str(error), ())
        else:
            self._show_window(session)

    def _show_window(self, session: Session) -> None:
        if isinstance(self.now, Window) and not self.now.close():
            session.let_go()
            return
        window = Window(Studio(session), open_other=self.open)
        self._faults.happened.connect(window.studio.on_fault)
        self._show(window)
        if self._crashed:
            window.foot.say(self._crashed)
            self._crashed = ""

    def _damaged(self, path: Path, sentence: str, states: tuple[State, ...]) -> None:
        def restore(state: State) -> None:
            try:
                session = Session.restored(path, state)
            except ChaptoError as error:
                ask(page, str(error), ("Close",))
                return
            self._show_window(session)

        def other() -> None:
            name, _ = QFileDialog.getOpenFileName(
                page, "Open a breakdown", str(path.parent), "Chapto breakdown (*.chapto)"
            )
            if name:
                self.open(Path(name))

        if isinstance(self.now, Window) and not self.now.close():
            return
        page = DamagedPage(path, sentence, states, restore, other)
        self._show(page)

    def _show(self, window: QWidget) -> None:
        old, self.now = self.now, window
        window.show()
        if old is not None:
            old.close()
            old.deleteLater()
