"""The script: sections and beats down the page."""

from __future__ import annotations

from PyQt6.QtCore import QPoint, Qt, pyqtSignal
from PyQt6.QtGui import QTextCursor
from PyQt6.QtWidgets import QScrollArea, QWidget

from chapto.app import layouts
from chapto.app.studio import Studio
from chapto.app.widgets import ground
from chapto.app.write.card import BeatCard
from chapto.app.write.card_column import CardColumn
from chapto.app.write.drafting import Drafting
from chapto.app.write.first_words import FirstWords
from chapto.app.write.folds import Folds
from chapto.app.write.forms_page import FormsPage
from chapto.app.write.from_elsewhere import FromElsewhere
from chapto.app.write.kept_in_view import KeptInView
from chapto.app.write.names_checked import NamesChecked
from chapto.app.write.order import Marker, Slot, slots
from chapto.app.write.repair_sheet import Repair, repairs
from chapto.app.write.script_foot import ScriptFoot
from chapto.app.write.section_head import SectionHead
from chapto.app.write.viewer_context import ViewerContext
from chapto.app.write.ways import WaysFinder
from chapto.document import edit_script
from chapto.document.breakdown import Breakdown
from chapto.document.script import Beat, Section
from chapto.pacing.fitted import Shortfall
from chapto.pacing.offers import offers, section_offers
from chapto.programme.budget import block_budgets
from chapto.programme.ways.way import WayOut


class Script(QScrollArea):
    """Follows the document; `chosen` carries the id of the beat being written."""

    chosen = pyqtSignal(str)
    caret_moved = pyqtSignal(str, int)
    menu_asked = pyqtSignal(QPoint)

    def __init__(self, studio: Studio, sight: ViewerContext, elsewhere: FromElsewhere, drafting: Drafting) -> None:
        super().__init__()
        self._studio, self._sight = studio, sight
        sight.gone.connect(self.choose)
        self._elsewhere, self._drafting = elsewhere, drafting
        elsewhere.arrived.connect(lambda beats: self.choose(beats[0], 0) if beats else None)
        self._finder = WaysFinder(studio)
        self.names = NamesChecked(studio, self)
        self.names.found.connect(self._show_names)
        self._finder.found.connect(self._show_ways)
        self.setWidgetResizable(True)
        self.setAccessibleName("Script")
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self._page = ground(QWidget(), "paper")
        self.setWidget(self._page)
        ground(self, "paper")
        self._marker = Marker(self._page)
        self._column = CardColumn(self._page, lambda s: SectionHead(studio, s, drafting, self.fold), self._card)
        self._in_view = KeptInView(self, self._column)
        self._column.grown.connect(self._follow)
        self._column.grown.connect(self._programme)
        self._around: tuple[object, ...] = (None,) * 4
        self._shown: dict[str, Section] = {}
        self._compiled: dict[str, tuple[object, ...]] = {}
        self._shape: tuple[bool, tuple[tuple[str, tuple[str, ...]], ...]] | None = None
        self.current = ""
        self.first: FirstWords | None = None
        self._folds = Folds()
        studio.changed.connect(self._follow)
        studio.compiled.connect(self._programme)
        self._follow()

    @property
    def cards(self) -> dict[str, BeatCard]:
        """The cards that stand there, by beat."""
        return self._column.cards

    # ── choosing ─────────────────────────────────────────────────────────────────────────────────────────
    def choose(self, beat: str, word: int | None = None) -> None:
        """Put the caret into a beat (at a word) and bring it into view."""
        self._column.build_to(beat)
        card = self.cards.get(beat)
        if card is None:
            return
        if (section := self._studio.breakdown.find_beat(beat)[0].id) in self._folds:
            self.fold(section)
        card.editor.setFocus()
        if word is not None:
            card.editor.put_caret(word)
        self._in_view.reveal(beat)

    def choose_title(self, section: str) -> None:
        """The caret stands in the title of a section, its text chosen."""
        self._column.build_to(section)
        if (head := self._column.heads.get(section)) is not None:
            head.title.setFocus()
            head.title.selectAll()
            self.ensureWidgetVisible(head, 0, 40)

    def caret(self) -> tuple[str, int] | None:
        """The beat being written and the word at its caret."""
        card = self.cards.get(self.current)
        word = card.editor.word_at_caret() if card else None
        return None if card is None or word is None else (self.current, word)

    def _caret_moved(self, beat_id: str) -> None:
        word = self.cards[beat_id].editor.word_at_caret() if beat_id in self.cards else None
        if word is not None and beat_id == self.current:
            self.caret_moved.emit(beat_id, word)

    def _choose(self, beat: str) -> None:
        self.current = beat
        chosen, bar = self.cards.get(beat), self.verticalScrollBar()
        before = chosen.y() if chosen is not None else 0
        for card_id, card in self.cards.items():
            card.show_chosen(card_id == beat)
        if chosen is not None and bar is not None and self.isVisible():
            # Another card above may have become lower: what was pressed stays under the pointer.
            self._column.settle(chosen)
            bar.setValue(bar.value() + chosen.y() - before)
        self.chosen.emit(beat)
        self._look_for_ways()

    # ── following the document ───────────────────────────────────────────────────────────────────────────
    def _follow(self) -> None:
        b = self._studio.breakdown
        written = any(beat.text.strip() for _, beat in b.beats())
        shape = written, tuple((s.id, tuple(beat.id for beat in s.beats)) for s in b.script)
        if shape != self._shape:
            self._shape, self._shown = shape, {}
            self._rebuild(b)
        around = (b.exchanges, b.moments, b.narrators, b.labels)
        if any(x is not y for x, y in zip(around, self._around, strict=True)):
            self._around, self._shown = around, {}
        shown, self._shown = self._shown, {}
        for section in b.script:
            # Of a long script nearly all is the very same object after an edit; some may still be to come.
            if section.id in self._column.heads:
                if shown.get(section.id) is not section:
                    self._show_section(b, section)
                self._shown[section.id] = section
        self._show_folds()

    def _show_section(self, b: Breakdown, section: Section) -> None:
        self._column.heads[section.id].show_section(b, section)
        offered = {o.beat: o for o in reversed(section_offers(b, section, self._sight.busiest))}
        for beat in section.beats:
            card = self.cards[beat.id]
            card.show_beat(b, beat)
            card.show_offer(offered.get(beat.id))
            card.show_slips(self.names.slips(beat.text) or ())

    def _show_names(self) -> None:
        """What has been found out about the names."""
        for card in self.cards.values():
            card.show_slips(self.names.slips(card.beat.text) or ())

    def repairs(self) -> list[Repair]:
        """All names of the script that are written wrong."""
        self.names.finish()
        beats = self._studio.breakdown.beats()
        return [r for _, beat in beats for r in repairs(beat.id, beat.text, self.names.slips(beat.text) or ())]

    def _rebuild(self, b: Breakdown) -> None:
        written = any(beat.text.strip() for _, beat in b.beats())
        forms = () if written else (FormsPage(self._studio, self._drafting),)
        first = () if written or any(s.beats for s in b.script) else (self._first_words(),)
        self._column.rebuild(b.script, (*first, *forms, self._foot()), self.current)
        self._programme()
        if self.current in self.cards:
            self._choose(self.current)

    def is_settled(self) -> bool:
        """Whether the whole script stands there, and its names were looked at."""
        return self._column.is_whole and self.names.is_settled()

    def _card(self, beat: Beat) -> BeatCard:
        beat_id = beat.id
        card = BeatCard(self._studio, beat, self._sight)
        editor = card.editor
        editor.focused.connect(lambda: self._choose(beat_id))
        editor.cursorPositionChanged.connect(lambda: self._caret_moved(beat_id))
        card.grew.connect(lambda before: self._in_view.grew(beat_id, before) if beat_id == self.current else None)
        card.dragged.connect(lambda at: self._slot_at(at))
        card.dropped.connect(lambda at: self._drop(beat_id, at))
        editor.split_at.connect(lambda place: self._split(beat_id, place))
        editor.joined_back.connect(lambda: self._join(beat_id))
        editor.pasted.connect(lambda text: self._elsewhere.paste(text, beat_id))
        editor.left.connect(lambda by: self._neighbour(beat_id, by))
        editor.menu_asked.connect(self.menu_asked)
        return card

    def _first_words(self) -> QWidget:
        """An empty sheet, with the caret in it once the stage is shown."""
        self.first = FirstWords(self._studio, self._sight, self._elsewhere)
        self.first.begun.connect(self._go_on_writing)
        holder = ground(QWidget(), "paper")
        layouts.column(holder, self.first, margins=(16, 18, 16, 6))
        return holder

    def _go_on_writing(self, beat: str) -> None:
        self.choose(beat)
        card = self.cards.get(beat)
        if card is not None:
            card.editor.moveCursor(QTextCursor.MoveOperation.End)

    def begin(self) -> None:
        """Where nothing is written, the caret stands on the empty sheet."""
        if self.first is not None and not self.cards:
            self.first.setFocus()

    def fold(self, section: str) -> None:
        """Show only the head of a section, or its beats again; the one that is written where none is named."""
        if section := section or self.current_section():
            self._folds.turn(section)
            self._show_folds()

    def _show_folds(self) -> None:
        self._folds.show(self._studio.breakdown.script, self._column.heads, self.cards)

    def _foot(self) -> QWidget:
        foot = ScriptFoot(self._studio, self._drafting)
        foot.added.connect(lambda beat: self.choose(beat, 0))
        foot.opens.connect(lambda: self._elsewhere.open(self.current))
        return foot

    def _programme(self) -> None:
        p = self._studio.programme
        lacks: dict[str, Shortfall] = {}
        for s in reversed(p.shortfalls):
            lacks[s.beat] = s
        shown, self._compiled = self._compiled, {}
        for placed in p.blocks:
            block = placed.block
            section = self._shown.get(block.section)
            beats = [beat.id for beat in section.beats if beat.id in self.cards] if section else []
            given = (block, *(self.cards[beat] for beat in beats), *(lacks.get(beat) for beat in beats))
            before = shown.get(block.section, ())
            if len(before) != len(given) or any(x is not y for x, y in zip(before, given, strict=True)):
                found = block_budgets(block)
                for beat in beats:
                    ties = [t for t in block.ties if t.beat == beat]
                    self.cards[beat].show_programme(found.get(beat), ties, lacks.get(beat))
            self._compiled[block.section] = given
        self._look_for_ways()

    # ── ways out ─────────────────────────────────────────────────────────────────────────────────────────
    def _look_for_ways(self) -> None:
        """Of the beat being written; the others only say what does not fit."""
        card = self.cards.get(self.current)
        if card is not None and card.ways.shortfall is not None and not card.ways.ways:
            self._finder.look(card.ways.shortfall)

    def _show_ways(self, shortfall: Shortfall, ways: tuple[WayOut, ...]) -> None:
        for beat_id, card in self.cards.items():
            card.ways.show_ways(shortfall, ways if beat_id == self.current else ())
        if ways:
            self._in_view.reveal(self.current)

    def take_way(self, number: int) -> None:
        """Go one of the ways offered for the beat being written."""
        card = self.cards.get(self.current)
        if card is None or not card.ways.take(number):
            self._studio.message.emit("Put the caret into a beat that does not fit; its ways out are offered there.")

    # ── names and pointing words ─────────────────────────────────────────────────────────────────────────
    def put_right(self) -> None:
        """Put right the first name written wrong, in the beat being written or in the next that has one."""
        order = [self.cards[self.current], *self.cards.values()] if self.current in self.cards else self.cards.values()
        if not any(card.put_right() for card in order):
            self._studio.message.emit("No name of the lexicon is written wrong.")

    def tie_offered(self) -> None:
        """Tie the next pointing word of the beat being written to the moment it likeliest means."""
        b = self._studio.breakdown
        every = offers(b, self._sight.busiest)
        offer = next((o for o in every if o.beat == self.current), every[0] if every else None)
        if offer is None:
            self._studio.message.emit("No word that points is left without a tie where a moment is logged for it.")
            return
        what = f"tie “{offer.text}”"
        self._studio.edit(what, lambda b: edit_script.tie_at(b, offer.beat, offer.word, offer.at))

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

    def _slot_at(self, at: QPoint) -> Slot | None:
        return self._marker.nearest(slots(self._studio.breakdown, self._column.heads, self.cards), at)

    def _drop(self, beat: str, at: QPoint) -> None:
        self._marker.hide()
        if (slot := self._slot_at(at)) is not None:
            self._studio.edit("move the beat", lambda b: edit_script.put_beat(b, beat, slot.section, slot.before))
            self.choose(beat)

    def open_treatments(self) -> None:
        """The treatments of the beat being written."""
        if self.current in self.cards:
            self.cards[self.current].open_treatments()

    def open_section(self) -> None:
        """The menu of the section being written."""
        if section := self.current_section():
            self._column.heads[section].open_menu()

    def current_section(self) -> str:
        """The id of the section being written; empty for none."""
        return next((s.id for s, x in self._studio.breakdown.beats() if x.id == self.current), "")

    def _neighbour(self, beat_id: str, by: int) -> None:
        order = list(self.cards)
        i = order.index(beat_id) + by
        if 0 <= i < len(order):
            self.choose(order[i], 0 if by > 0 else None)
