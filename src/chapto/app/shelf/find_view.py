"""Finding on the shelf: a line on paper, pictures on dark, the months between them, and the chosen one on paper."""

from __future__ import annotations

from collections.abc import Callable
from datetime import date
from fractions import Fraction
from functools import partial
from pathlib import Path

from PyQt6.QtCore import QEvent, QObject, Qt, QTimer, pyqtSignal
from PyQt6.QtGui import QKeyEvent, QKeySequence, QShortcut
from PyQt6.QtWidgets import QLineEdit, QWidget

from chapto.app import layouts
from chapto.app.shelf.cell import came_from, title_of
from chapto.app.shelf.chips import Chips
from chapto.app.shelf.example import Waiting, waiting_at
from chapto.app.shelf.grid import PlaceGrid
from chapto.app.shelf.months import MonthsStrip, Stood
from chapto.app.shelf.place_pane import PlacePane
from chapto.app.shelf.shelf_pictures import ShelfPictures
from chapto.app.studio import Studio
from chapto.app.widgets import button, ground, label
from chapto.document.breakdown import Breakdown, by_id
from chapto.errors import ChaptoError
from chapto.shelf.cut_to import How, cut_to, refusal, shown_of, still_open
from chapto.shelf.query import Query
from chapto.shelf.search import Found
from chapto.store.fingerprint import fingerprint
from chapto.store.session import Session

TYPED_AFTER = 120
"""Milliseconds after a key before it is looked for."""
HINT = "knee slide stopped by frame, after half guard, Moss, march"


class FindView(QWidget):
    """`open_breakdown` opens a file in a window of its own; `back` leads back to the script, at a beat and word."""

    back = pyqtSignal(str, int)

    def __init__(
        self, studio: Studio, pictures: ShelfPictures, open_breakdown: Callable[[Path | None], object]
    ) -> None:
        super().__init__()
        self._studio, self._pictures, self._open = studio, pictures, open_breakdown
        self.query, self._held = Query(), Query()
        self.waiting: Waiting | None = None
        self.line = QLineEdit()
        self.line.setPlaceholderText(HINT)
        self.line.setAccessibleName("Find on the shelf")
        self.line.setStyleSheet("font-size: 19px;")
        self.chips = Chips()
        self.grid = PlaceGrid(pictures, self._words)
        self.months = MonthsStrip()
        self.pane = PlacePane(pictures, lambda: studio.known.lexicon)
        self.asked = label("", wrap=True)
        self._leave = button(
            "Back to the word", self.leave_word, tip="Back to the script without it", key="Esc", kind="quiet"
        )
        self._waits = ground(QWidget(), "paper")
        layouts.row(self._waits, self.asked, self._leave, margins=(18, 4, 14, 4))
        self._waits.hide()
        self._typed = QTimer(self)
        self._typed.setSingleShot(True)
        self._typed.setInterval(TYPED_AFTER)
        self._typed.timeout.connect(self.find_typed)
        self._lay_out()
        self.line.textEdited.connect(lambda _: self._typed.start())
        self.line.returnPressed.connect(self._from_line)
        self.line.installEventFilter(self)
        self.chips.dropped.connect(lambda f: self.look_for(self.query.without(f)))
        self.chips.added.connect(lambda f: self.look_for(self.query.adding(f)))
        self.months.pressed.connect(self._only_month)
        self.grid.chosen.connect(self._show)
        self.grid.taken.connect(self._take)
        self.grid.left.connect(self.line.setFocus)
        self.pane.opened.connect(lambda place: self._open(place.path))
        self.pane.cut.connect(self.cut)
        self.pane.gone_to.connect(self._go_to)
        for keys, act in (("1", How.CUTAWAY), ("2", How.INSET), ("3", How.BESIDE)):
            self._key(keys, partial(self.cut, act))
        self._key("O", self._open_chosen)
        self._key("Esc", self.leave_word)

    def _lay_out(self) -> None:
        asking = ground(QWidget(), "paper")
        layouts.column(asking, self.line, margins=(16, 8, 16, 2))
        left = QWidget()
        column = layouts.column(left, self._waits, asking, self.chips, spacing=0)
        self.scrolled = layouts.scrolled(self.grid)
        ground(self.scrolled, "dark")
        column.addWidget(self.scrolled, 1)
        column.addWidget(self.months)
        layouts.column(self, layouts.split(Qt.Orientation.Horizontal, left, self.pane, sizes=(800, 380), stretch=(1,)))
        self.setFocusProxy(self.line)

    def _key(self, keys: str, act: Callable[[], object]) -> None:
        made = QShortcut(QKeySequence(keys), self.grid if len(keys) == 1 else self, act)
        made.setContext(Qt.ShortcutContext.WidgetWithChildrenShortcut)

    # ── looking ──────────────────────────────────────────────────────────────────────────────────────────────
    def begin(self) -> None:
        """It is shown: look again for what was looked for."""
        self._find(self.query)

    def look_for_line(self, line: str) -> None:
        """Write a line, and look for it."""
        self.line.setText(line)
        self.find_typed()

    def find_typed(self) -> None:
        """Look for what stands in the line, and what was taken out of it before."""
        self._typed.stop()
        query = self._held
        asked = self._studio.shelf.shelf().understood(self.line.text(), date.today())
        for one in asked.filters:
            query = query.adding(one)
        self._find(Query(query.filters, asked.words))

    def look_for(self, query: Query) -> None:
        """Look for something; of the line the words stay that are no filter."""
        self._held = Query(query.filters)
        self.line.setText(" ".join(query.words))
        self._find(query)

    def _find(self, query: Query) -> None:
        same, self.query = query == self.query, query
        shelf = self._studio.shelf.shelf()
        search = shelf.search
        own = self._own_exchange()
        found = [f for f in search.find(query) if own is None or f.same != own.same]
        if own is not None and not found and query == self.waiting_query:
            # Nothing else of that name: what is like it is the next best.
            found = [a.found for a in shelf.likes.of(own)]
        if self.waiting is not None:
            # What can be shown stands first.
            self._pictures.locate(found)
            found.sort(key=lambda f: self._pictures.is_here(f) is False)
        self.chips.show_filters(query.filters, search.narrower(query))
        counted = search.by_breakdown(query) if not query.is_empty else {}
        self.months.show_breakdowns(
            [
                Stood(date.fromisoformat(str(b["day"])), str(b["title"]), counted.get(str(b["path"]), 0))
                for b in shelf.breakdowns()
                if b["day"]
            ]
        )
        self.grid.show_places(found, self._nothing(query), same=same)
        if not found:
            self._show(None)

    def _nothing(self, query: Query) -> str:
        if not self._studio.shelf.shelf().breakdowns():
            return "What you open and save comes onto the shelf by itself. Ctrl+D adds a folder of breakdowns."
        return "Nothing on the shelf fits. Press a filter away." if query.filters else "Nothing on the shelf fits."

    def _only_month(self, month: str) -> None:
        asked = self._studio.shelf.shelf().understood(month, date.today())
        query = self.query
        for one in asked.filters:
            query = query.adding(one)
        self.look_for(query)

    # ── an example for a word ────────────────────────────────────────────────────────────────────────────────
    def wait_for(self, beat: str, word: int) -> None:
        """A word of the script waits for an example: what is named there is looked for."""
        lexicon = self._studio.known.lexicon
        self.waiting = waiting_at(self._studio.breakdown, beat, word, lexicon)
        self.asked.setText(f"An earlier example for “{self.waiting.said}”. Return cuts to it.")
        self._waits.show()
        self.look_for(self.waiting.query)
        self.grid.setFocus()

    def leave_word(self) -> None:
        """No example after all: back to the word."""
        waiting, self.waiting = self.waiting, None
        self._waits.hide()
        self._show(self.grid.place)
        if waiting is not None:
            self.back.emit(waiting.beat, waiting.word)

    def cut(self, how: How) -> None:
        """Cut to the chosen one at the word that waits."""
        place, waiting = self.grid.place, self.waiting
        if place is None or waiting is None:
            return
        file = self._pictures.file_of(place)
        if file is None:
            self._studio.message.emit("Its footage is not here; choose another one, or bring the file back.")
            return
        try:
            source = self._source(place)
            shown = shown_of(source, place.key, place.footage, fingerprint(file))
        except ChaptoError as error:
            self._studio.message.emit(str(error))
            return
        project = self._studio.session.path

        def change(b: Breakdown) -> Breakdown:
            section, _ = b.find_beat(waiting.beat)
            told = next((x for x in b.exchanges if x.id == section.exchange), None)
            on_screen = told.start if told is not None else Fraction(0)
            return cut_to(
                b, source, shown, beat=waiting.beat, word=waiting.word, how=how, on_screen=on_screen, place=file,
                project=project,
            )  # fmt: skip

        if self._studio.edit(f"cut to “{place.title}”", change):
            self._studio.message.emit(f"Cut to “{place.title}”, with its people and its thanks.")
            self.leave_word()

    def _source(self, place: Found) -> Breakdown:
        own = self._studio.session.path
        return self._studio.breakdown if own == place.path else Session.look(place.path).breakdown

    def _rights(self, place: Found) -> str:
        """What stands against showing it, while a word waits for it."""
        if self.waiting is None:
            return ""
        try:
            source = self._source(place)
            file = by_id(source.footage, place.footage, "footage") if place.footage else None
        except ChaptoError as error:
            return str(error)
        if file is None:
            return "Nothing of it was filmed."
        if why := refusal(source, file):
            return f"It can't be shown: {why}"
        waits = still_open(source, file)
        return f"Still open: {waits[0]}" if waits else ""

    # ── the chosen one ───────────────────────────────────────────────────────────────────────────────────────
    def _show(self, place: Found | None) -> None:
        alike = tuple(self._studio.shelf.shelf().likes.of(place)) if place is not None and place.is_exchange else ()
        rights = self._rights(place) if place is not None else ""
        self.pane.show_place(place, alike, cutting=self.waiting is not None, rights=rights)
        if place is not None:
            box = self.grid.box(self.grid.current).toAlignedRect()
            self.scrolled.ensureVisible(box.center().x(), box.center().y(), 0, box.height())

    def _go_to(self, place: Found) -> None:
        """Show one that is alike: among what was found, else alone."""
        number = next((i for i, p in enumerate(self.grid.places) if p.id == place.id), None)
        if number is None:
            self.grid.show_places([place, *self.grid.places], "")
        else:
            self.grid.choose(number)

    def _take(self, place: Found) -> None:
        if self.waiting is not None:
            self.cut(How.CUTAWAY)
        else:
            self._open(place.path)

    def _open_chosen(self) -> None:
        if self.grid.place is not None:
            self._open(self.grid.place.path)

    def _from_line(self) -> None:
        """What was understood is taken out of the line and stays."""
        self.find_typed()
        self.look_for(self.query)
        self.grid.setFocus()

    def _words(self, place: Found) -> tuple[str, str, str]:
        lexicon = self._studio.known.lexicon
        return title_of(place, lexicon), came_from(place, lexicon), place.title

    @property
    def waiting_query(self) -> Query | None:
        """What is looked for while a word waits, before anything else is asked."""
        return self.waiting.query if self.waiting is not None else None

    def _own_exchange(self) -> Found | None:
        """The exchange that is told where a word waits: it is no earlier example, in whatever breakdown it stands."""
        project = self._studio.session.path
        if self.waiting is None or project is None:
            return None
        b, beat = self._studio.breakdown, self.waiting.beat
        told = next((s.exchange for s, x in b.beats() if x.id == beat), None)
        if told is None:
            # The word is no longer there: it was undone, or another window's.
            self.waiting = None
            self._waits.hide()
            return None
        search = self._studio.shelf.shelf().search
        return search.one(project, told)

    def eventFilter(self, watched: QObject | None, event: QEvent | None) -> bool:
        """Down leads from the line into what was found."""
        pressed = watched is self.line and isinstance(event, QKeyEvent) and event.type() == QEvent.Type.KeyPress
        if pressed and event.key() == Qt.Key.Key_Down and self.grid.places:  # type: ignore[union-attr]
            self.grid.setFocus()
            return True
        return super().eventFilter(watched, event)
