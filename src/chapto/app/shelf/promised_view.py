"""What was promised and asked for: slips on dark, and on paper what becomes of the chosen one."""

from __future__ import annotations

from collections.abc import Callable
from datetime import date
from functools import partial
from pathlib import Path

from PyQt6.QtCore import Qt
from PyQt6.QtGui import QKeySequence, QShortcut
from PyQt6.QtWidgets import QLineEdit, QWidget

from chapto.app import layouts
from chapto.app.shelf.promise_list import PromiseList
from chapto.app.shelf.shelf_pictures import ShelfPictures
from chapto.app.shelf_keeping import PLANNED
from chapto.app.studio import Studio
from chapto.app.widgets import button, ground, label
from chapto.review.work import NextStep, Stage
from chapto.shelf import edit_book
from chapto.shelf.book import Ended
from chapto.shelf.dates_said import day_said
from chapto.shelf.promises import SAID, OnShelf, likely_keepers


class PromisedView(QWidget):
    """`show_step` leads into this breakdown, `open_breakdown` opens another one."""

    def __init__(
        self,
        studio: Studio,
        pictures: ShelfPictures,
        show_step: Callable[[NextStep], object],
        open_breakdown: Callable[[Path | None], object],
    ) -> None:
        super().__init__()
        self._studio, self._show_step, self._open = studio, show_step, open_breakdown
        self.list = PromiseList(pictures)
        self.list.chosen.connect(self._show)
        self.title, self.where = label("", size="title", wrap=True), label("", soft=True, wrap=True)
        self.state = label("", wrap=True)
        self.how = QLineEdit()
        self.how.setPlaceholderText("How it is kept: an address, a title")
        self.how.setAccessibleName("How it is kept")
        self.keep_button = button("It is kept", self.keep, tip="It is kept", key="K", kind="main")
        self.drop_button = button("Let it go", self.let_go, tip="It will not be kept", key="L")
        self.again_button = button("Open again", self.open_again, tip="It is open again", key="A")
        self.go_button = button("Go to the words", self.go, tip="Where it was promised", key="Return")
        self.plan_button = button("Plan it", self.plan, tip="Make it a video of the plan", key="P")
        self._likely = layouts.column(spacing=4)
        self.asked = QLineEdit()
        self.asked.setPlaceholderText("What a viewer or a guest asked for")
        self.asked.setAccessibleName("What a viewer asked for")
        self.asked.returnPressed.connect(self.ask)
        self._paper = ground(QWidget(), "paper")
        self._lay_out()
        for keys, act in (("K", self.keep), ("L", self.let_go), ("A", self.open_again), ("P", self.plan),
                          ("Return", self.go)):  # fmt: skip
            QShortcut(QKeySequence(keys), self.list, act).setContext(Qt.ShortcutContext.WidgetShortcut)
        self.setFocusProxy(self.list)

    def _lay_out(self) -> None:
        column = layouts.column(self._paper, margins=(18, 14, 16, 14), spacing=8)
        for item in (self.title, self.where, self.state, self.how):
            column.addWidget(item)
        acts = layouts.row(None, self.keep_button, self.drop_button, self.again_button)
        acts.addStretch(1)
        more = layouts.row(None, self.go_button, self.plan_button)
        more.addStretch(1)
        column.addLayout(self._likely)
        column.addLayout(acts)
        column.addLayout(more)
        column.addStretch(1)
        column.addWidget(label("A request", size="head"))
        column.addWidget(self.asked)
        hint = "Return puts it among what is open. Leave out who asked: nobody's name is needed here."
        column.addWidget(label(hint, soft=True, wrap=True))
        scrolled = layouts.scrolled(self.list)
        ground(scrolled, "dark")
        split = layouts.split(Qt.Orientation.Horizontal, scrolled, self._paper, sizes=(800, 380), stretch=(1,))
        layouts.column(self, split)

    def begin(self) -> None:
        """It is shown."""
        shelf = self._studio.shelf.shelf()
        promises, search = shelf.promises(), shelf.search
        keys = {(p.path, p.place) for p in promises if p.place}
        places = {key: place for key in keys if (place := search.one(Path(key[0]), key[1])) is not None}
        self.list.show_promises(promises, places, date.today())

    @property
    def chosen(self) -> OnShelf | None:
        """The chosen one."""
        found: OnShelf | None = self.list.item
        return found

    # ── acts ─────────────────────────────────────────────────────────────────────────────────────────────────
    def keep(self) -> None:
        """It is kept, as the line says."""
        self._settle(Ended.KEPT)

    def let_go(self) -> None:
        """It will not be kept."""
        self._settle(Ended.LET_GO)

    def open_again(self) -> None:
        """It is open after all."""
        if (one := self.chosen) is not None and not one.is_open:
            self._studio.shelf.change(lambda book: edit_book.open_again(book, one.key, one.path))

    def ask(self) -> None:
        """Somebody asked for something."""
        text = self.asked.text()
        if self._studio.shelf.change(lambda book: edit_book.ask_for(book, text, day=date.today())):
            self.asked.clear()

    def plan(self) -> None:
        """It becomes a video of the plan, on the first day it could be done."""
        one = self.chosen
        if one is None or not one.is_open:
            return
        subject = one.sentence if one.kind == "request" else f"{one.title}: {one.quote}"
        if self._studio.shelf.plan(subject, f"{one.path}\n{one.key}"):
            self._studio.message.emit(PLANNED)

    def go(self) -> None:
        """To the words it was promised in: in this breakdown, else in a window of their own."""
        one = self.chosen
        if one is None or not one.path:
            return
        if self._studio.session.path == Path(one.path):
            self._show_step(
                NextStep("", Stage.WRITE, beat=one.beat, word=one.word) if one.beat else NextStep("", Stage.PUBLISH)
            )
        else:
            self._open(Path(one.path))

    def _settle(self, how: Ended) -> None:
        if (one := self.chosen) is not None and one.is_open:
            words, day = self.how.text(), date.today()
            self._studio.shelf.change(lambda b: edit_book.settle(b, one.key, one.path, how, day=day, words=words))

    # ── the chosen one ───────────────────────────────────────────────────────────────────────────────────────
    def _show(self, one: OnShelf | None) -> None:
        there = one is not None
        for item in (
            self.where,
            self.state,
            self.how,
            self.keep_button,
            self.drop_button,
            self.go_button,
            self.plan_button,
        ):
            item.setVisible(there)
        self.again_button.setVisible(one is not None and not one.is_open)
        layouts.empty(self._likely)
        if one is None:
            self.title.setText("Nothing is promised")
            return
        self.title.setText(f"“{one.quote}”")
        whole = f"In full: “{one.sentence}”\n" if one.sentence.strip(" .") != one.quote.strip(" .") else ""
        where = f"“{one.title}”, {day_said(one.day)}." if one.title else f"Asked for on {day_said(one.day)}."
        out = f" It is out at {one.address}." if one.address else ""
        self.where.setText(f"{whole}{where}{out}")
        for item in (self.how, self.keep_button, self.drop_button, self.plan_button):
            item.setVisible(one.is_open)
        self.go_button.setVisible(bool(one.path))
        self.how.clear()
        if (done := one.settled) is not None:
            words = f": {done.words}" if done.words else ""
            self.state.setText(f"{done.how.capitalize()} on {day_said(done.day)}{words}.")
            return
        self.state.setText(f"It promises {SAID[one.kind]}. Where it is kept, the description of that video says so.")
        for title, address in likely_keepers(one, self._studio.shelf.shelf().later_than(one.day)):
            likely = button(
                f"Kept by “{title}”", partial(self._keep_by, title, address), tip=address or title, kind="quiet"
            )
            row = layouts.row(None, likely)
            row.addStretch(1)
            self._likely.addLayout(row)

    def _keep_by(self, title: str, address: str) -> None:
        self.how.setText(f"{title}: {address}" if address else title)
        self.keep()
