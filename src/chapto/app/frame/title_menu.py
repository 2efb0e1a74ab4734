"""The one menu at the title: what is done with whole breakdowns."""

from __future__ import annotations

from collections.abc import Callable
from datetime import datetime
from functools import partial
from pathlib import Path

from PyQt6.QtCore import QPoint
from PyQt6.QtGui import QIcon, QPixmap
from PyQt6.QtWidgets import QMenu, QWidget

from chapto.app.earlier import day_of, earlier_menu
from chapto.app.frame.window_files import WindowFiles
from chapto.app.menus import deeper
from chapto.app.studio import Studio
from chapto.store.recent import Recent, recent


def told(one: Recent, now: datetime | None = None) -> str:
    """A recent breakdown in a line: its title, its part, when it was looked at."""
    return f"{one.title}{f', {one.part}' if one.part else ''}   {day_of(one.at, now)}"


class TitleMenu:
    """Shown under the button at the title, or under the words that say whether it is saved."""

    def __init__(
        self,
        studio: Studio,
        files: WindowFiles,
        *,
        close: Callable[[], object],
        quit_all: Callable[[], object],
        settings: Callable[[], object],
    ) -> None:
        self._studio, self._files = studio, files
        self._close, self._quit, self._settings = close, quit_all, settings

    def show(self, under: QWidget) -> None:
        """Open it under a widget."""
        menu = self.made(under)
        menu.exec(under.mapToGlobal(QPoint(0, under.height())))
        menu.deleteLater()

    def made(self, parent: QWidget) -> QMenu:
        """The menu as things are now."""
        menu, files = QMenu(parent), self._files
        menu.addAction("New breakdown  (Ctrl+N)", lambda: files.open(None))
        menu.addAction("Open…  (Ctrl+O)", lambda: files.open_dialog())
        self._recent(deeper(menu, "Open a recent one"))
        menu.addSeparator()
        menu.addAction("Save  (Ctrl+S)", lambda: files.save())
        menu.addAction("Save as…  (Ctrl+Shift+S)", lambda: files.save_as())
        menu.addMenu(earlier_menu(menu, self._studio))
        menu.addSeparator()
        menu.addAction("Settings…  (Ctrl+,)", lambda: self._settings())
        menu.addSeparator()
        menu.addAction("Close  (Ctrl+W)", lambda: self._close())
        menu.addAction("Quit Chapto  (Ctrl+Q)", lambda: self._quit())
        return menu

    def _recent(self, menu: QMenu) -> None:
        own = self._studio.session.path
        for one in recent():
            if own is not None and Path(one.path) == own:
                continue
            made = menu.addAction(told(one).replace("&", "&&"), partial(self._files.open, Path(one.path)))
            picture = QPixmap(str(one.picture))
            if made is not None and not picture.isNull():
                made.setIcon(QIcon(picture))
                made.setToolTip(one.path)
        if menu.isEmpty():
            nothing = menu.addAction("Nothing else was opened before")
            assert nothing is not None
            nothing.setEnabled(False)
