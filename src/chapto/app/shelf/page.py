"""The Shelf stage: five ways to look at all breakdowns."""

from __future__ import annotations

from collections.abc import Callable
from enum import StrEnum
from pathlib import Path

from PyQt6.QtCore import Qt
from PyQt6.QtGui import QKeySequence, QShortcut
from PyQt6.QtWidgets import QMenu, QPushButton, QStackedWidget, QWidget

from chapto.app import layouts
from chapto.app.choosing import Choosing
from chapto.app.shelf.covered_view import CoveredView
from chapto.app.shelf.find_view import FindView
from chapto.app.shelf.people_view import PeopleView
from chapto.app.shelf.plan_view import PlanView
from chapto.app.shelf.promised_view import PromisedView
from chapto.app.shelf.shelf_pictures import ShelfPictures
from chapto.app.studio import Studio
from chapto.app.widgets import Elided, Pressable, button, ground
from chapto.errors import ChaptoError
from chapto.review.work import NextStep, Stage
from chapto.shelf.book import put_aside
from chapto.shelf.edit_book import add_folder
from chapto.shelf.errors import DamagedBook
from chapto.shelf.index import MISSING
from chapto.shelf.query import Query

KEYS = (
    ("Ctrl+Tab", "the next way to look at the shelf"),
    ("Ctrl+F", "find"),
    ("Arrows  Space", "go among what was found; play it"),
    ("Return  O", "open the breakdown it is in"),
    ("1  2  3", "cut to it, as an inset, side by side, where a word waits"),
    ("Esc", "back to the word in the script"),
    ("K  L  A  P", "a promise: kept, let go, open again, planned"),
    ("D  Delete  H", "a planned video: done, dropped, made of this breakdown"),
    ("Alt+arrows  +  −", "move a planned video; hours free on its weekday"),
    ("Ctrl+D", "put a folder of breakdowns on the shelf"),
)


class View(StrEnum):
    """A way to look at the shelf."""

    FIND = "Find"
    COVERED = "Covered"
    PROMISED = "Promised"
    PEOPLE = "People"
    PLAN = "Plan"


class ShelfPage(QWidget):
    """`show_step` leads to another stage, `open_breakdown` opens a file in a window of its own."""

    def __init__(
        self,
        studio: Studio,
        show_step: Callable[[NextStep], object],
        open_breakdown: Callable[[Path | None], object],
    ) -> None:
        super().__init__()
        self._studio, self._show_step, self._open = studio, show_step, open_breakdown
        self.pictures = ShelfPictures(studio)
        self.finding = FindView(studio, self.pictures, open_breakdown)
        self.covered = CoveredView(studio, self.show_examples)
        self.promised = PromisedView(studio, self.pictures, show_step, open_breakdown)
        self.people = PeopleView(studio)
        self.plan = PlanView(studio)
        self.views: dict[View, QWidget] = {
            View.FIND: self.finding,
            View.COVERED: self.covered,
            View.PROMISED: self.promised,
            View.PEOPLE: self.people,
            View.PLAN: self.plan,
        }
        self._begins: dict[View, Callable[[], object]] = {
            View.FIND: self.finding.begin,
            View.COVERED: self.covered.begin,
            View.PROMISED: self.promised.begin,
            View.PEOPLE: self.people.begin,
            View.PLAN: self.plan.begin,
        }
        self.view = View.FIND
        self._stack = QStackedWidget()
        self.tabs = {view: self._tab(view) for view in self.views}
        self.stands = Elided()
        self._folder = button("Folders", self._folders, tip="Which folders' breakdowns stand on the shelf")
        self._is_damaged = False
        self.trouble = Pressable(self._mend)
        self.trouble.setWordWrap(True)
        self.trouble.setContentsMargins(18, 6, 18, 8)
        above = ground(QWidget(), "paper")
        head = layouts.row(None, *self.tabs.values(), spacing=4)
        head.addWidget(self.stands, 1)
        head.addWidget(self._folder)
        head.setContentsMargins(14, 8, 14, 4)
        column = layouts.column(above, spacing=0)
        column.addLayout(head)
        column.addWidget(self.trouble)
        self.trouble.hide()
        for view in self.views.values():
            self._stack.addWidget(view)
        whole = layouts.column(self, above, spacing=0)
        whole.addWidget(self._stack, 1)
        self.finding.back.connect(lambda beat, word: show_step(NextStep("", Stage.WRITE, beat=beat, word=word)))
        keeping = studio.shelf
        keeping.changed.connect(self._follow)
        keeping.progressed.connect(self._progressed)
        for keys, act in (("Ctrl+Tab", self.next_view), ("Ctrl+F", self.write_line), ("Ctrl+D", self.choose_folder)):
            made = QShortcut(QKeySequence(keys), self, act)
            made.setContext(Qt.ShortcutContext.WidgetWithChildrenShortcut)
        self.setFocusProxy(self._stack)

    def _tab(self, view: View) -> QPushButton:
        made = button(view.value, lambda: self.look(view), tip=f"{view.value}: look at the shelf so")
        made.setCheckable(True)
        made.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        return made

    # ── looking ──────────────────────────────────────────────────────────────────────────────────────────────
    def begin(self) -> None:
        """It is shown: look through the folders, and show what is known meanwhile."""
        self._studio.shelf.refresh()
        self.look(self.view)

    def look(self, view: View) -> None:
        """Look at the shelf in one way."""
        self.view = view
        for one, tab in self.tabs.items():
            tab.setChecked(one is view)
        self._stack.setCurrentWidget(self.views[view])
        self._follow()
        self.views[view].setFocus()

    def next_view(self) -> None:
        """The next way to look at it."""
        every = list(self.views)
        self.look(every[(every.index(self.view) + 1) % len(every)])

    def write_line(self) -> None:
        """Write what is looked for."""
        self.look(View.FIND)
        self.finding.line.setFocus()
        self.finding.line.selectAll()

    def show_examples(self, query: Query) -> None:
        """Show what is asked for among all that can be found."""
        self.look(View.FIND)
        self._try(lambda: self.finding.look_for(query))
        self.finding.grid.setFocus()

    def wait_for(self, beat: str, word: int) -> None:
        """A word of the script waits for an example."""
        self.look(View.FIND)
        self._try(lambda: self.finding.wait_for(beat, word))

    def folders_menu(self) -> QMenu:
        """The folders that are looked through, each to be left out; one more; and what is missing, to be taken off."""
        menu, shelf = QMenu(self), self._studio.shelf.shelf()
        menu.addAction("Add a folder…\tCtrl+D", lambda: self.choose_folder())
        for folder in shelf.book.folders:
            menu.addAction(f"Leave out {folder}", lambda *_, f=folder: self._studio.shelf.leave_out(f))
        missing = [str(b["path"]) for b in shelf.breakdowns() if b["state"] == MISSING]
        if missing:
            menu.addSeparator()
            many = "the missing one" if len(missing) == 1 else f"the {len(missing)} missing ones"
            menu.addAction(f"Take {many} off the shelf", lambda *_: self._studio.shelf.take_off(missing))
        return menu

    def _folders(self) -> None:
        self._try(lambda: self.folders_menu().popup(self._folder.mapToGlobal(self._folder.rect().bottomLeft())))

    def choose_folder(self) -> None:
        """Put the breakdowns of a folder on the shelf."""
        chosen = Choosing(self, self._studio.preferences, "shelf folder").folder("Breakdowns for the shelf")
        if chosen is not None:
            self._try(lambda: self._studio.shelf.shelf().change(lambda book: add_folder(book, chosen)))
            self._studio.shelf.refresh()

    def is_settled(self) -> bool:
        """Whether the pictures in view are there."""
        return not self._studio.shelf.is_reading and self.finding.grid.is_settled()

    def close_all(self) -> None:
        """The window closes."""
        self.pictures.close()

    # ── following ────────────────────────────────────────────────────────────────────────────────────────────
    def _follow(self) -> None:
        if self._try(self._show_stands) and self.isVisible():
            self._try(self._begins[self.view])

    def _show_stands(self) -> None:
        shelf = self._studio.shelf.shelf()
        every = shelf.breakdowns()
        count = len(every)
        said = f"{count} breakdown{'s' if count != 1 else ''}"
        for state in ("missing", "damaged"):
            if here := [b for b in every if b["state"] == state]:
                said += f", {len(here)} {state}"
        self.stands.say(f"{said}, {shelf.search.exchanges()} exchanges")
        waiting = sum(p.is_open for p in shelf.promises())
        self.tabs[View.PROMISED].setText(f"{View.PROMISED.value} {waiting}" if waiting else View.PROMISED.value)
        troubles = self._studio.shelf.troubles
        self.trouble.setText(
            troubles[0] + (f" And {len(troubles) - 1} more." if len(troubles) > 1 else "") if troubles else ""
        )
        self.trouble.setVisible(bool(troubles))

    def _progressed(self, share: float) -> None:
        if share < 1:
            self.stands.say(f"Reading breakdowns… {share:.0%}")
        else:
            self._follow()

    def _try(self, act: Callable[[], object]) -> bool:
        """Do something with the shelf; what goes wrong is said on the page."""
        try:
            act()
        except ChaptoError as error:
            self._is_damaged = isinstance(error, DamagedBook)
            self.trouble.setText(f"{error} Press to put it aside." if self._is_damaged else str(error))
            self.trouble.show()
            return False
        return True

    def _mend(self) -> None:
        if self._is_damaged:
            self._is_damaged = False
            aside = put_aside(self._studio.shelf.folder)
            if aside is not None:
                self._studio.message.emit(f"What could not be read lies in “{aside.name}” now.")
            self._follow()
