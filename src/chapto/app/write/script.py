"""The script: sections and beats down the page."""

from __future__ import annotations

from functools import partial
from pathlib import Path

from PyQt6.QtCore import QPoint, Qt, QTimer, pyqtSignal
from PyQt6.QtWidgets import QFileDialog, QHBoxLayout, QLineEdit, QMenu, QScrollArea, QVBoxLayout, QWidget

from chapto.app.studio import Studio
from chapto.app.theme import text_font
from chapto.app.widgets import button, ground, label
from chapto.app.write.card import BeatCard
from chapto.clock.timecode import clock_text
from chapto.document import edit_script
from chapto.document.breakdown import Breakdown
from chapto.document.script import Section
from chapto.errors import ChaptoError
from chapto.pacing.pointing import offers
from chapto.programme.budget import budgets
from chapto.publish.script_text import parts_of, put_parts, read_script


class SectionHead(QWidget):
    """Title of a section (its chapter) and the exchange under it."""

    def __init__(self, studio: Studio, section: Section) -> None:
        super().__init__()
        self._studio, self.section_id = studio, section.id
        ground(self, "paper")
        row = QHBoxLayout(self)
        row.setContentsMargins(16, 14, 12, 2)
        row.setSpacing(8)
        self.title = QLineEdit(section.title)
        self.title.setFont(text_font(15, 600))
        self.title.setStyleSheet("QLineEdit { font-size: 15px; font-weight: 600; border-bottom: none; }")
        self.title.setPlaceholderText("no chapter of its own")
        self.title.setAccessibleName("Chapter title")
        self.title.editingFinished.connect(self._retitle)
        row.addWidget(self.title, 1)
        self._about = label("", soft=True)
        row.addWidget(self._about)
        row.addWidget(button("", self._menu, tip="Section", sign="plus", kind="quiet"))

    def show_section(self, b: Breakdown, section: Section) -> None:
        """Take the section as the document has it."""
        if not self.title.hasFocus():
            self.title.setText(section.title)
        if section.exchange:
            x = b.exchange(section.exchange)
            around = "first, " * section.show_first + "once more, " * section.once_more
            self._about.setText(f"{around}{x.technique or 'exchange'}, mat {clock_text(x.start)}–{clock_text(x.end)}")
        else:
            self._about.setText("title card")

    def _retitle(self) -> None:
        text, section = self.title.text().strip(), self.section_id
        self._studio.edit("rename the chapter", lambda b: edit_script.change_section(b, section, title=text))

    def _menu(self) -> None:
        menu, s, edit = QMenu(self), self.section_id, self._studio.edit
        menu.addAction("New beat here", lambda: edit("add a beat", lambda b: edit_script.add_beat(b, s)))
        menu.addAction("Move up", lambda: edit("move the section", lambda b: edit_script.move_section(b, s, -1)))
        menu.addAction("Move down", lambda: edit("move the section", lambda b: edit_script.move_section(b, s, 1)))
        section = next(x for x in self._studio.breakdown.script if x.id == s)
        if section.exchange:
            menu.addSeparator()
            for text, field, on in (
                ("Show it first, without words", "show_first", section.show_first),
                ("Once more after the talk, clean", "once_more", section.once_more),
            ):
                act = menu.addAction(text, partial(self._turn, field, not on))
                assert act is not None
                act.setCheckable(True)
                act.setChecked(on)
        menu.addSeparator()
        menu.addAction("Take out", lambda: edit("take out the section", lambda b: edit_script.remove_section(b, s)))
        menu.exec(self.mapToGlobal(QPoint(self.width() - 180, self.height())))

    def _turn(self, field: str, on: bool) -> None:
        what = "show it first" if field == "show_first" else "show it once more"
        section = self.section_id
        self._studio.edit(what, lambda b: edit_script.change_section(b, section, **{field: on}))


class Script(QScrollArea):
    """Follows the document; `chosen` carries the id of the beat being written."""

    chosen = pyqtSignal(str)

    def __init__(self, studio: Studio) -> None:
        super().__init__()
        self._studio = studio
        self.setWidgetResizable(True)
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self._page = ground(QWidget(), "paper")
        self._column = QVBoxLayout(self._page)
        self._column.setContentsMargins(0, 0, 0, 24)
        self._column.setSpacing(0)
        self.setWidget(self._page)
        ground(self, "paper")
        self.cards: dict[str, BeatCard] = {}
        self._heads: dict[str, SectionHead] = {}
        self._shape: tuple[tuple[str, tuple[str, ...]], ...] | None = None
        self.current = ""
        studio.changed.connect(self._follow)
        studio.compiled.connect(self._programme)
        self._follow()

    # ── choosing ─────────────────────────────────────────────────────────────────────────────────────────
    def choose(self, beat: str, word: int | None = None) -> None:
        """Put the caret into a beat (at a word) and bring it into view."""
        card = self.cards.get(beat)
        if card is None:
            return
        card.editor.setFocus()
        if word is not None:
            card.editor.put_caret(word)
        QTimer.singleShot(0, lambda: self._reveal(beat))

    def caret(self) -> tuple[str, int] | None:
        """The beat being written and the word at its caret."""
        card = self.cards.get(self.current)
        word = card.editor.word_at_caret() if card else None
        return None if card is None or word is None else (self.current, word)

    def _reveal(self, beat: str) -> None:
        if beat in self.cards:
            self.ensureWidgetVisible(self.cards[beat], 0, 60)

    def _choose(self, beat: str) -> None:
        self.current = beat
        for card_id, card in self.cards.items():
            card.show_chosen(card_id == beat)
        self.chosen.emit(beat)

    # ── following the document ───────────────────────────────────────────────────────────────────────────
    def _follow(self) -> None:
        b = self._studio.breakdown
        shape = tuple((s.id, tuple(beat.id for beat in s.beats)) for s in b.script)
        if shape != self._shape:
            self._shape = shape
            self._rebuild(b)
        for section in b.script:
            self._heads[section.id].show_section(b, section)
        offered = {o.beat: o for o in reversed(offers(b))}
        for _, beat in b.beats():
            self.cards[beat.id].show_beat(beat)
            self.cards[beat.id].show_offer(offered.get(beat.id))

    def _rebuild(self, b: Breakdown) -> None:
        focus = self.current
        while item := self._column.takeAt(0):
            widget = item.widget()
            if widget is not None and widget not in self.cards.values():
                widget.deleteLater()
        old, self.cards, self._heads = self.cards, {}, {}
        for section in b.script:
            head = SectionHead(self._studio, section)
            self._heads[section.id] = head
            self._column.addWidget(head)
            for beat in section.beats:
                card = old.pop(beat.id, None) or self._card(beat.id)
                self.cards[beat.id] = card
                self._column.addWidget(card)
        for card in old.values():
            card.deleteLater()
        self._column.addWidget(self._foot())
        self._column.addStretch(1)
        self._programme()
        if focus in self.cards:
            self._choose(focus)

    def _card(self, beat_id: str) -> BeatCard:
        _, beat = self._studio.breakdown.find_beat(beat_id)
        card = BeatCard(self._studio, beat)
        card.editor.focused.connect(lambda: self._choose(beat_id))
        card.editor.split_at.connect(lambda place: self._split(beat_id, place))
        card.editor.joined_back.connect(lambda: self._join(beat_id))
        card.editor.pasted.connect(lambda text: self.put_text(beat_id, text))
        card.editor.left.connect(lambda by: self._neighbour(beat_id, by))
        return card

    def _foot(self) -> QWidget:
        foot = ground(QWidget(), "paper")
        row = QHBoxLayout(foot)
        row.setContentsMargins(16, 16, 12, 8)
        row.addWidget(button("Add a section", self._add_section, tip="Explain another exchange", sign="plus"))
        row.addWidget(button("Open a script…", self.open_script, tip="Bring in a script (.txt, .md, .srt, .vtt)"))
        row.addStretch(1)
        return foot

    def _programme(self) -> None:
        p = self._studio.programme
        found = budgets(p)
        for beat_id, card in self.cards.items():
            card.show_programme(found.get(beat_id), {t.word: t.state for t in p.ties if t.beat == beat_id})

    # ── scripts from elsewhere ───────────────────────────────────────────────────────────────────────────
    def put_text(self, beat_id: str, text: str) -> None:
        """Text of several paragraphs comes in as beats after one, headings as sections; one step of undo."""
        section, _ = self._studio.breakdown.find_beat(beat_id)
        parts = parts_of(text)
        self._studio.edit("paste a script", lambda b: put_parts(b, section.id, beat_id, parts))

    def open_script(self) -> None:
        """Choose a script to bring in."""
        name, _ = QFileDialog.getOpenFileName(self, "Open a script", "", "Scripts (*.txt *.md *.srt *.vtt)")
        if name:
            self.read_file(Path(name))

    def read_file(self, path: Path) -> None:
        """Bring a script in after the beat being written, or at the end."""
        b = self._studio.breakdown
        try:
            parts = read_script(path)
        except ChaptoError as error:
            self._studio.said.emit(str(error))
            return
        found = [(s.id, x.id) for s, x in b.beats() if x.id == self.current]
        if not found and not b.script:
            self._studio.edit("add a section", lambda b: edit_script.add_section(b, title=path.stem))
        section, beat = found[0] if found else (self._studio.breakdown.script[-1].id, "")
        self._studio.edit(f"bring in {path.name}", lambda b: put_parts(b, section, beat, parts))

    def tie_offered(self) -> None:
        """Tie the next pointing word of the beat being written to the moment it likeliest means."""
        b = self._studio.breakdown
        every = offers(b)
        offer = next((o for o in every if o.beat == self.current), every[0] if every else None)
        if offer is None:
            self._studio.said.emit("No word that points is left without a tie where a moment is logged for it.")
            return
        what = f"tie “{offer.text}”"
        self._studio.edit(what, lambda b: edit_script.tie_word(b, offer.beat, offer.word, offer.moment.id))

    # ── editing ──────────────────────────────────────────────────────────────────────────────────────────
    def _split(self, beat_id: str, place: int) -> None:
        """Return: cut the beat in two, or begin the next one when the caret is at the end."""
        section, beat = self._studio.breakdown.find_beat(beat_id)
        before = {x.id for _, x in self._studio.breakdown.beats()}
        inside = beat.text[:place].strip() and beat.text[place:].strip()
        if inside:
            self._studio.edit("split the beat", lambda b: edit_script.split_beat(b, beat_id, place))
        else:
            self._studio.edit("add a beat", lambda b: edit_script.add_beat(b, section.id, after=beat_id))
        made = [x.id for _, x in self._studio.breakdown.beats() if x.id not in before]
        if made:
            self.choose(made[0], 0)

    def _join(self, beat_id: str) -> None:
        """Backspace at the start: an empty beat goes, another joins the one before."""
        section, beat = self._studio.breakdown.find_beat(beat_id)
        i = section.beats.index(beat)
        if not beat.text.strip():
            self._studio.edit("take out the beat", lambda b: edit_script.remove_beat(b, beat_id))
        elif i:
            self._studio.edit("join two beats", lambda b: edit_script.join_beat(b, beat_id))
        if i:
            self.choose(section.beats[i - 1].id)

    def _neighbour(self, beat_id: str, by: int) -> None:
        order = list(self.cards)
        i = order.index(beat_id) + by
        if 0 <= i < len(order):
            self.choose(order[i], 0 if by > 0 else None)

    def _add_section(self) -> None:
        b = self._studio.breakdown
        used = {s.exchange for s in b.script}
        free = [x for x in b.exchanges if x.id not in used]
        menu = QMenu(self)
        for x in free:
            text = f"{x.technique or 'exchange'}, mat {clock_text(x.start)}"
            menu.addAction(text, lambda x=x: self._new_section(x.technique, x.id))
        if free:
            menu.addSeparator()
        menu.addAction("Title card", lambda: self._new_section("", ""))
        menu.exec(self.mapToGlobal(QPoint(20, self.height() - 40)))

    def _new_section(self, technique: str, exchange: str) -> None:
        def change(b: Breakdown) -> Breakdown:
            made = edit_script.add_section(b, title=technique.capitalize(), exchange=exchange)
            return edit_script.add_beat(made, made.script[-1].id)

        if self._studio.edit("add a section", change):
            self.choose(self._studio.breakdown.script[-1].beats[0].id, 0)
