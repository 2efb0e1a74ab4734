"""The Write stage."""

from __future__ import annotations

from collections.abc import Callable
from fractions import Fraction
from functools import partial
from pathlib import Path

from PyQt6.QtCore import QPoint, Qt
from PyQt6.QtGui import QKeySequence, QShortcut, QTextCursor
from PyQt6.QtWidgets import QMenu, QStackedWidget, QWidget

from chapto.app import layouts
from chapto.app.lacing.keys import KEYS as LACING_KEYS
from chapto.app.lacing.widget import Lacing
from chapto.app.playhead import View
from chapto.app.screen.player import Player
from chapto.app.studio import Studio
from chapto.app.widgets import ground
from chapto.app.write.bar import WriteBar
from chapto.app.write.beat_acts import BeatActs
from chapto.app.write.best_ways import BestWays
from chapto.app.write.drafting import Drafting
from chapto.app.write.find_bar import FindBar
from chapto.app.write.forms_page import DRAFT_KEY
from chapto.app.write.from_elsewhere import FromElsewhere
from chapto.app.write.incoming_sheet import IncomingSheet
from chapto.app.write.music_sheet import MusicSheet
from chapto.app.write.photo_sheet import PhotoSheet
from chapto.app.write.repair_sheet import RepairSheet
from chapto.app.write.script import Script
from chapto.app.write.stamps_row import StampsRow
from chapto.app.write.style_sheet import StyleSheet
from chapto.app.write.viewer_context import ViewerContext
from chapto.app.write.voices_row import VoicesRow
from chapto.clock.timecode import clock_text
from chapto.document import edit_pacing, edit_script
from chapto.document.find_words import Found
from chapto.pacing.offers import Peak
from chapto.publish.scripts.incoming import Incoming
from chapto.review.work import EXAMPLE, NextStep, Stage

KEYS = (
    ("Ctrl+T  Ctrl+Shift+T", "tie the word at the caret, untie it"),
    ("Ctrl+G  Ctrl+Shift+G", "tie the word that points; all times of the script"),
    (DRAFT_KEY, "tell from the log what is not told yet"),
    ("Ctrl+K  Ctrl+Shift+K", "write the name as offered; a list of all to tick"),
    ("Return  Backspace", "split the beat, join it to the one before"),
    ("Ctrl+Return", "go to the word; with Shift, play from it"),
    ("Ctrl+E", "what the picture does under the beat"),
    ("Ctrl+Shift+E", "an earlier example of what the word at the caret names"),
    ("Ctrl+M  Ctrl+D", "what the section is; skip from here, to here"),
    ("Alt+Up  Alt+Down", "move the beat; with Shift, the section"),
    ("Alt+N  Alt+K  Alt+F", "another narrator, another kind; fold the section"),
    ("Ctrl+F  Ctrl+H", "find and replace in the script"),
    ("Alt+1 … Alt+3", "go a way out of what does not fit"),
    ("Alt+0", "something to look at in every dull still"),
    ("Ctrl+L  Ctrl+P", "length of the video, what is on the picture"),
    *LACING_KEYS,
)


class WritePage(QWidget):
    """Screen on dark, script on paper, the lacing between and beneath."""

    def __init__(
        self,
        studio: Studio,
        player: Player,
        screen: QWidget,
        busiest: Peak | None = None,
        bring_in: Callable[[list[Path]], object] = lambda files: None,
        show_step: Callable[[NextStep], object] = lambda step: None,
    ) -> None:
        super().__init__()
        self._studio, self._player, self._show_step = studio, player, show_step
        self._skip_from: Fraction | None = None
        self.sight = ViewerContext(studio, player, busiest)
        self.elsewhere = FromElsewhere(studio, self)
        self.drafting = Drafting(studio, self)
        self.script = Script(studio, self.sight, self.elsewhere, self.drafting)
        self.acts = BeatActs(studio, self.script)
        self.lacing = Lacing(studio, player)
        written = ground(QWidget(), "paper")
        lines = layouts.column(written, spacing=0)
        self.voices = VoicesRow(studio)
        lines.addWidget(self.voices)
        self.stamps = StampsRow(studio)
        lines.addWidget(self.stamps)
        self.finding = FindBar(studio, self._show_found)
        lines.addWidget(self.finding)
        self.stamps.follow()
        lines.addWidget(self.script, 1)
        self.style_sheet = StyleSheet(studio)
        self.style_sheet.done.connect(self._back_to_script)
        back = QShortcut(QKeySequence("Esc"), self.style_sheet, self.style_sheet.done.emit)
        back.setContext(Qt.ShortcutContext.WidgetWithChildrenShortcut)
        self._paper = QStackedWidget()
        self._paper.addWidget(written)
        self._paper.addWidget(self.style_sheet)
        self.repair = RepairSheet(studio)
        self.repair.left.connect(self._back_to_script)
        self._paper.addWidget(self.repair)
        self.music = MusicSheet(studio)
        self.music.left.connect(self._back_to_script)
        self.photos = PhotoSheet(studio, bring_in)
        self.photos.left.connect(self._back_to_script)
        for sheet in (self.music, self.photos):
            self._paper.addWidget(sheet)
        self.incoming = IncomingSheet(studio)
        self.elsewhere.asks.connect(self._ask_about)
        self.incoming.taken.connect(self._bring_in)
        self.incoming.left.connect(self.leave_incoming)
        self.best_ways = BestWays(studio, self)
        self._paper.addWidget(self.incoming)
        above = layouts.split(Qt.Orientation.Horizontal, screen, self._paper, sizes=(640, 540), stretch=(5, 4))
        below = QWidget()
        column = layouts.column(below, spacing=0)
        beside = {"Photos": partial(self._open_sheet, self.photos), "Music": partial(self._open_sheet, self.music)}
        self.bar = WriteBar(studio, self.lacing, self.tie, self.change_style, beside)
        column.addWidget(self.bar)
        column.addWidget(self.lacing, 1)
        layouts.column(self, layouts.split(Qt.Orientation.Vertical, above, below, sizes=(410, 290)))
        self.script.chosen.connect(self.lacing.choose)
        self.script.chosen.connect(self._bring_picture)
        self.script.menu_asked.connect(self._word_menu)
        self.script.caret_moved.connect(self.lacing.choose_word)
        self.lacing.word_chosen.connect(self.script.choose)
        for keys, act in (
            ("Ctrl+T", self.tie),
            ("Ctrl+Shift+T", self.untie),
            ("Ctrl+G", self.script.tie_offered),
            ("Ctrl+Shift+G", self.stamps.tie_all),
            ("Ctrl+K", self.script.put_right),
            ("Ctrl+Shift+K", self.repair_all),
            ("Ctrl+D", self.skip_here),
            (DRAFT_KEY, self.drafting.draft),
            ("Ctrl+Return", self.go_to_word),
            ("Ctrl+Shift+Return", self.play_from_word),
            ("Ctrl+E", self.script.open_treatments),
            ("Ctrl+Shift+E", self.earlier_example),
            ("Ctrl+M", self.script.open_section),
            ("Ctrl+L", self.bar.length.click),
            ("Ctrl+P", self.bar.picture.click),
            ("Alt+Up", partial(self.acts.move, -1)),
            ("Alt+Down", partial(self.acts.move, 1)),
            ("Alt+Shift+Up", partial(self.acts.move_section, -1)),
            ("Alt+Shift+Down", partial(self.acts.move_section, 1)),
            ("Alt+N", self.acts.next_narrator),
            ("Alt+K", self.acts.next_kind),
            ("Alt+F", partial(self.script.fold, "")),
            ("Ctrl+F", self.finding.begin),
            ("Ctrl+H", self.finding.begin),
            ("Alt+0", self.best_ways.take),
            ("Alt+1", partial(self.script.take_way, 0)),
            ("Alt+2", partial(self.script.take_way, 1)),
            ("Alt+3", partial(self.script.take_way, 2)),
        ):
            shortcut = QShortcut(QKeySequence(keys), self, act)
            shortcut.setContext(Qt.ShortcutContext.WidgetWithChildrenShortcut)

    def is_settled(self) -> bool:
        """Whether the small pictures of ties are there, and names were looked at."""
        return self.sight.film.is_settled() and self.script.is_settled()

    def close_feed(self) -> None:
        """End the thread that fetches pictures."""
        self.sight.film.close()

    def change_style(self) -> None:
        """The limits of the user's own style, in place of the script."""
        self._paper.setCurrentWidget(self.style_sheet)
        self.style_sheet.open()

    def _open_sheet(self, sheet: MusicSheet | PhotoSheet) -> None:
        """What is shown or heard besides, in place of the script."""
        self._paper.setCurrentWidget(sheet)
        sheet.open()

    def _ask_about(self, script: Incoming) -> None:
        self.incoming.open(script)
        self._paper.setCurrentWidget(self.incoming)
        self.incoming.setFocus()

    def _bring_in(self, script: Incoming) -> None:
        self._back_to_script()
        self.elsewhere.bring_in(script)

    def repair_all(self) -> None:
        """A list of all names written wrong, to be ticked."""
        found = self.script.repairs()
        if not found:
            self._studio.message.emit("No name of the lexicon is written wrong.")
            return
        self.repair.open(found)
        self._paper.setCurrentWidget(self.repair)

    def leave_incoming(self) -> None:
        """The script as it is, whatever was to come in."""
        self._back_to_script()

    def _back_to_script(self) -> None:
        self._paper.setCurrentIndex(0)
        self.script.setFocus()

    def tie(self) -> None:
        """Tie the word at the caret to what is on the screen; a moment is made there if none is near."""
        caret = self.script.caret()
        if caret is None:
            self._studio.message.emit("Put the caret on the word you want to tie first.")
            return
        beat, word = caret
        mat = self._player.head.seen_mat(self._studio.programme)
        self._studio.edit("tie the word", lambda b: edit_script.tie_at(b, beat, word, mat))

    def earlier_example(self) -> None:
        """Look on the shelf for an earlier example of what the word at the caret names."""
        caret = self.script.caret()
        if caret is None:
            self._studio.message.emit("Put the caret on the word that wants an example first.")
            return
        self._show_step(NextStep("", Stage.SHELF, beat=caret[0], word=caret[1], item=EXAMPLE))

    def _bring_picture(self, beat: str) -> None:
        """The picture of the section that is written, if another one is looked at."""
        section, head, p = self.script.current_section(), self._player.head, self._studio.programme
        placed = next((s for s in p.sections if s.section == section), None)
        if placed is None or self._player.playing or placed.end <= placed.start:
            return
        x = next((s.exchange for s in self._studio.breakdown.script if s.id == section), "")
        if head.view is View.MAT and x:
            exchange = self._studio.breakdown.exchange(x)
            if not exchange.start <= head.mat < exchange.end:
                self._player.show_mat(exchange.start)
        elif head.view is View.WATCH and not placed.start <= head.frame < placed.end:
            first = next((w.start for w in p.words if w.beat == beat), None)
            self._player.show_frame(placed.start if first is None else int(first * p.fps))

    def _word_menu(self, at: QPoint) -> None:
        """What can be done with the word at the caret."""
        editor, menu = self.script.cards[self.script.current].editor, QMenu(self)
        for text, act in (
            ("Tie it to the picture  (Ctrl+T)", self.tie),
            ("Untie it  (Ctrl+Shift+T)", self.untie),
            ("Go to its picture  (Ctrl+Return)", self.go_to_word),
            ("Play from here  (Ctrl+Shift+Return)", self.play_from_word),
            ("What the picture does…  (Ctrl+E)", self.script.open_treatments),
        ):
            menu.addAction(text, partial(_call, act))
        menu.addSeparator()
        menu.addAction("Cut", editor.cut)
        menu.addAction("Copy", editor.copy)
        menu.addAction("Paste", editor.paste)
        menu.exec(at)
        menu.deleteLater()

    def _show_found(self, found: Found) -> None:
        """A place that was looked for, chosen in its beat."""
        self.script.choose(found.beat)
        card = self.script.cards.get(found.beat)
        if card is not None:
            caret = card.editor.textCursor()
            caret.setPosition(found.start)
            caret.setPosition(found.end, QTextCursor.MoveMode.KeepAnchor)
            card.editor.setTextCursor(caret)

    def skip_here(self) -> None:
        """The picture that is seen is left out of the section being written: once from here, again to here."""
        section, at = self.script.current_section(), self.sight.looked_at()
        if not section:
            self._studio.message.emit("Put the caret into the section that is to skip something.")
        elif self._skip_from is None:
            self._skip_from = at
            self._studio.message.emit(f"Skips from {clock_text(at, tenths=True)}; go on and press Ctrl+D again.")
        else:
            start, end = sorted((self._skip_from, at))
            self._skip_from = None
            if start < end:
                change = partial(edit_pacing.skip_span, section_id=section, start=start, end=end)
                self._studio.edit("skip a stretch", change)

    def untie(self) -> None:
        """Untie the word at the caret."""
        caret = self.script.caret()
        if caret is not None:
            self._studio.edit("untie the word", lambda b: edit_script.untie_word(b, *caret))

    def go_to_word(self) -> None:
        """Show the programme where the word at the caret is said."""
        caret = self.script.caret()
        p = self._studio.programme
        word = next((w for w in p.words if (w.beat, w.word) == caret), None)
        if word is not None:
            self._player.switch(View.WATCH)
            self._player.show_frame(int(word.start * p.fps))

    def play_from_word(self) -> None:
        """Play what will be rendered, from the word at the caret."""
        self.go_to_word()
        if self._player.head.view is View.WATCH:
            self._player.play()


def _call(act: Callable[[], object], *_: object) -> None:
    act()
