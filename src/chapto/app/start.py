"""Starting the application."""

from __future__ import annotations

import os
import sys
from pathlib import Path

from PyQt6.QtCore import QPoint
from PyQt6.QtWidgets import QApplication, QWidget

from chapto.app.ask import ask
from chapto.app.choosing import Choosing
from chapto.app.collecting import Collecting
from chapto.app.damaged_page import DamagedPage
from chapto.app.faults import Faults
from chapto.app.frame.where_left import WhereLeft
from chapto.app.frame.window_files import BREAKDOWNS
from chapto.app.preferences import Preferences
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

SWITCH = 0.001
"""Seconds for which one thread may keep the others waiting."""
BESIDE = 28
"""Pixels by which a second window stands lower and farther right."""


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
    # The interface thread gets its turn sooner while others work: what it does is short.
    sys.setswitchinterval(SWITCH)
    Collecting(app)
    windows = Windows(Faults())
    windows.open(path)
    return app.exec()


def _is_file_of(window: Window, wanted: Path) -> bool:
    studio = window.studio
    path = studio.session.path
    return path is not None and os.path.realpath(path) == os.path.realpath(wanted)


class Windows:
    """What is open: breakdowns side by side, or the page that says why a file can't be. `now` is the one opened last,
    `every` all that are open."""

    def __init__(self, faults: Faults) -> None:
        self._faults = faults
        self._crashed = faults.install()
        self.now: QWidget | None = None
        self.every: list[QWidget] = []

    def open(self, wanted: Path | None) -> None:
        """Open a project file, or an empty breakdown. What can't be opened is said over the window that is open, or in
        one of its own."""
        for window in self.every:
            if isinstance(window, Window) and wanted and _is_file_of(window, wanted):
                window.activateWindow()
                window.raise_()
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

    def quit(self) -> None:
        """Close one window after another; one that has to stay stops it."""
        for window in list(self.every):
            if not window.close():
                return

    def _show_window(self, session: Session) -> None:
        window = Window(Studio(session), open_other=self.open, quit_all=self.quit)
        self._faults.happened.connect(window.studio.on_fault)
        window.closed.connect(lambda: self._gone(window))
        WhereLeft(window)
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
            chosen = Choosing(page, Preferences(), "breakdown").file("Open a breakdown", BREAKDOWNS)
            if chosen is not None:
                self.open(chosen)

        page = DamagedPage(path, sentence, states, restore, other)
        self._show(page)

    def _show(self, window: QWidget) -> None:
        """Beside the others; what nothing was done with makes room."""
        old, self.now = self.now, window
        self.every.append(window)
        if old is not None and old in self.every:
            window.move(old.pos() + QPoint(BESIDE, BESIDE))
        window.show()
        if isinstance(old, DamagedPage) or (isinstance(old, Window) and old.is_untouched):
            old.close()
            self._gone(old)

    def _gone(self, window: QWidget) -> None:
        if window in self.every:
            self.every.remove(window)
            window.deleteLater()
        if self.now is window:
            self.now = self.every[-1] if self.every else None
