"""Finding and replacing in the script, over its first line."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial

from PyQt6.QtCore import Qt
from PyQt6.QtGui import QKeySequence, QShortcut
from PyQt6.QtWidgets import QLineEdit, QWidget

from chapto.app import layouts
from chapto.app.studio import Studio
from chapto.app.widgets import button, ground, label
from chapto.document.find_words import Found, find_words, replace_found


class FindBar(QWidget):
    """`show_place` is handed what Return goes to; Esc puts the bar away."""

    def __init__(self, studio: Studio, show_place: Callable[[Found], object]) -> None:
        super().__init__()
        self._studio, self._show_place = studio, show_place
        self._at = -1
        ground(self, "paper")
        row = layouts.row(self, margins=(16, 6, 12, 4), spacing=6)
        self.wanted, self.by = QLineEdit(), QLineEdit()
        for line, hint in ((self.wanted, "find in the script"), (self.by, "replace by")):
            line.setPlaceholderText(hint)
            line.setAccessibleName(hint)
            line.setMinimumWidth(80)
            row.addWidget(line, 1)
        self._count = label("", soft=True)
        row.addWidget(self._count)
        row.addWidget(button("Next", self.next, tip="The next place", key="Return", kind="quiet"))
        row.addWidget(button("Replace", self.replace, tip="Replace this one, and go on", kind="quiet"))
        row.addWidget(button("All", self.replace_all, tip="Replace every one, in one step", kind="quiet"))
        row.addWidget(button("", self.leave, tip="Put it away", key="Esc", sign="cross", kind="quiet"))
        self.wanted.textChanged.connect(lambda _: self._follow())
        self.wanted.returnPressed.connect(self.next)
        self.by.returnPressed.connect(self.replace)
        esc = QShortcut(QKeySequence("Esc"), self, self.leave)
        esc.setContext(Qt.ShortcutContext.WidgetWithChildrenShortcut)
        studio.changed.connect(self._count_again)
        self.hide()

    def begin(self) -> None:
        """Type what is looked for."""
        self.show()
        self.wanted.setFocus()
        self.wanted.selectAll()
        self._follow()

    def leave(self) -> None:
        """Back to the script."""
        self.hide()
        found = self._found()
        if 0 <= self._at < len(found):
            self._show_place(found[self._at])

    def next(self) -> None:
        """Go to the next place; the keyboard stays here."""
        found = self._found()
        if found:
            self._at = (self._at + 1) % len(found)
            self._show_place(found[self._at])
            self.wanted.setFocus()
        self._count_again()

    def replace(self) -> None:
        """Replace the place that is shown, and go to the next."""
        found = self._found()
        if not found:
            return
        one = found[max(self._at, 0) % len(found)]
        self._studio.edit("replace", partial(replace_found, found=(one,), by=self.by.text()))
        self._at = max(self._at, 0) - 1
        self.next()

    def replace_all(self) -> None:
        """Replace every place, in one step of undo."""
        found = self._found()
        if found and self._studio.edit("replace all", partial(replace_found, found=found, by=self.by.text())):
            times = "once" if len(found) == 1 else f"{len(found)} times"
            self._studio.message.emit(f"“{self.wanted.text()}” was replaced {times}.")

    def _found(self) -> tuple[Found, ...]:
        return find_words(self._studio.breakdown, self.wanted.text())

    def _follow(self) -> None:
        self._at = -1
        self._count_again()

    def _count_again(self) -> None:
        if self.isVisible():
            found = self._found()
            here = f"{self._at + 1} of " if 0 <= self._at < len(found) else ""
            self._count.setText(f"{here}{len(found)}" if self.wanted.text() else "")
