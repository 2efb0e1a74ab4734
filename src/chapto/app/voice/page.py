"""The Voice stage: picture above, the line to read beneath it, its recording below, all lines beside."""

from __future__ import annotations

from dataclasses import replace
from functools import partial

from PyQt6.QtCore import Qt
from PyQt6.QtGui import QKeySequence, QShortcut, QShowEvent
from PyQt6.QtWidgets import QMenu, QWidget

from chapto.app import layouts
from chapto.app.playhead import View
from chapto.app.screen.feed import PictureFeed
from chapto.app.screen.player import Player
from chapto.app.studio import Studio
from chapto.app.voice.acts import NUDGE, TakeActs
from chapto.app.voice.booth import Booth, State
from chapto.app.voice.bringing import BringingIn
from chapto.app.voice.changed_fit import ChangedFit
from chapto.app.voice.controls import RecordControls
from chapto.app.voice.head import VoiceHead
from chapto.app.voice.hearing import Hearing
from chapto.app.voice.line_takes import LineTakes
from chapto.app.voice.listening import Listening
from chapto.app.voice.loopback_test import LoopbackTest
from chapto.app.voice.microphones import Microphones
from chapto.app.voice.prompter import Prompter
from chapto.app.voice.reading import beat_due, reading, word_due
from chapto.app.voice.room_test import RoomTest
from chapto.app.voice.row_list import RowList
from chapto.app.voice.rows import beat_rows, take_rows, words_otherwise
from chapto.app.voice.take_menu import take_menu
from chapto.app.voice.take_strip import TakeStrip
from chapto.app.voice.talking.part import TalkPart
from chapto.app.voice.who import WhoSpeaks
from chapto.app.widgets import button, ground, label
from chapto.document.script import words_of
from chapto.document.takes import TakeOf
from chapto.voice.new_take import Subject
from chapto.voice.punch_in import Punch, to_next_pause

MOST_TAKES = 4
"""Takes of a line in sight at once."""


class VoicePage(QWidget):
    """One line is `current`; what is done is done to it."""

    def __init__(self, studio: Studio, player: Player, screen: QWidget, feed: PictureFeed) -> None:
        super().__init__()
        self._studio, self._player = studio, player
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName("Voice")
        self.microphones = Microphones(studio)
        self.booth = Booth(studio, player, self.microphones)
        self.takes = LineTakes(studio)
        self.listening = Listening(player)
        self.acts = TakeActs(studio, lambda: self.takes.looked)
        self.hearing = Hearing(self.listening, self.takes, self.acts)
        self.room = RoomTest(studio, self.microphones)
        self.loopback = LoopbackTest(studio, player, self.microphones)
        self.talking = TalkPart(self, studio, player, self.microphones, feed)
        self.bringing = BringingIn(self, studio, self.booth, self.talking.booth, lambda: self.current)
        self.who = WhoSpeaks(studio)
        self._fit = ChangedFit(studio)
        self.current = ""
        self._take = ""
        self.prompter, self.strip = Prompter(), TakeStrip()
        self.controls = RecordControls(self.booth, self.record_or_stop, self.keep, self.talk)
        self.head = VoiceHead(studio, self.microphones)
        self.beats = RowList("Lines", self.choose)
        self.takes_head = label("", soft=True)
        self.takes_list = RowList("Recordings of this line", self._look_at_take, self.take_menu)
        self._lay_out(screen)
        self._connect()
        self._keys()

    def _lay_out(self, screen: QWidget) -> None:
        reading_part = ground(QWidget(), "paper")
        lines = layouts.column(reading_part, spacing=0)
        lines.addWidget(self.prompter, 1)
        lines.addWidget(self.controls)
        lines.addWidget(self.strip)
        lines.addWidget(self.talking.page)
        left = layouts.split(Qt.Orientation.Vertical, screen, reading_part, sizes=(395, 305), stretch=(3, 2))
        side = ground(QWidget(), "paper")
        column = layouts.column(side, spacing=0)
        column.addWidget(self.head)
        column.addWidget(self.beats, 1)
        foot = layouts.row(None, self.takes_head, margins=(18, 6, 10, 2))
        foot.addStretch(1)
        foot.addWidget(
            button("Bring in…", self.bringing.ask_for_file, tip="Bring in a recording", key="Ctrl+I", sign="plus",
                   kind="quiet")
        )  # fmt: skip
        column.addLayout(foot)
        column.addWidget(self.takes_list)
        layouts.column(self, layouts.split(Qt.Orientation.Horizontal, left, side, sizes=(760, 430), stretch=(1,)))

    def _connect(self) -> None:
        self._studio.compiled.connect(self.follow)
        self._studio.changed.connect(self.follow)
        self._player.moved.connect(self._follow_picture)
        self.booth.changed.connect(self.follow)
        self.takes.changed.connect(self._show_takes)
        self.who.changed.connect(self.follow)
        self.head.measure.connect(self.loopback.begin)
        self.listening.at.connect(self.strip.hear_at)
        self.listening.ended.connect(lambda: self.strip.hear_at(None))
        self.strip.word_chosen.connect(self._go_to_word)
        self.strip.pulled.connect(self.acts.pull)

    def _keys(self) -> None:
        def word() -> int:
            return self.strip.chosen

        for keys, act in (
            ("R", self.record_or_stop),
            ("Shift+R", partial(self.record_through, TakeOf.SECTION)),
            ("Alt+R", partial(self.record_through, TakeOf.WHOLE)),
            ("P", self.punch_in),
            ("Return", self.keep),
            ("Enter", self.keep),
            ("Up", partial(self.step, -1)),
            ("Down", partial(self.step, 1)),
            (",", lambda: self.strip.choose(word() - 1)),
            (".", lambda: self.strip.choose(word() + 1)),
            ("L", self.hearing.toggle),
            ("C", self.hearing.cleaned_or_not),
            ("U", self.acts.use_or_not),
            ("M", self.acts.mark),
            ("N", lambda: self.who.put_right(self.current)),
            ("+", partial(self.acts.louder, 1)),
            ("-", partial(self.acts.louder, -1)),
            ("H", partial(self.acts.hurry, 1)),
            ("Shift+H", partial(self.acts.hurry, -1)),
            ("T", lambda: self.acts.take_text(word())),
            ("X", lambda: self.acts.cut_added(word())),
            ("Shift+X", lambda: self.acts.take_back_cut(word())),
            ("F", self.acts.cut_fillers),
            ("Delete", self.acts.remove),
            ("Alt+,", lambda: self.acts.nudge(word(), start=-NUDGE)),
            ("Alt+.", lambda: self.acts.nudge(word(), start=NUDGE)),
            ("Alt+Shift+,", lambda: self.acts.nudge(word(), end=-NUDGE)),
            ("Alt+Shift+.", lambda: self.acts.nudge(word(), end=NUDGE)),
            ("Ctrl+I", self.bringing.ask_for_file),
            ("Ctrl+M", self.head.open_menu),
            ("Ctrl+G", self.head.switch_takes),
            ("Q", self.room.begin),
            ("W", self.talk),
            ("G", self.talking.turn),
            ("Shift+W", self.talking.open_names),
            ("E", self.talking.type_open),
        ):
            shortcut = QShortcut(QKeySequence(keys), self, act)
            shortcut.setContext(Qt.ShortcutContext.WidgetWithChildrenShortcut)

    # ── which line ───────────────────────────────────────────────────────────────────────────────────────
    def enter(self) -> None:
        """The stage is shown: the line at the playhead is the current one, unless one waits to be kept."""
        self.microphones.look()
        self.booth.get_ready()
        self._player.switch(View.WATCH)
        p = self._studio.programme
        everything = frozenset(w.beat for w in p.words)
        if self.current not in everything or self.booth.state is State.IDLE:
            self.current = beat_due(p, self._player.head.frame / p.fps, everything) or next(iter(self._ids()), "")
        self.follow()
        if beat := self.bringing.cut_off_beat():
            self.choose(beat)
        self.bringing.offer_cut_off()

    def _ids(self) -> list[str]:
        return [beat.id for _, beat in self._studio.breakdown.read_beats() if words_of(beat.text)]

    def choose(self, beat: str) -> None:
        """Make a line the current one, and show its picture."""
        if self.booth.state is State.RECORDING:
            return
        if self.booth.state is State.OFFERING and beat not in self.booth.beats_of(self.booth.subject):
            self.booth.put_aside()
        self.current, self._take = beat, ""
        self.strip.choose(-1)
        p = self._studio.programme
        first = next((w for w in p.words if w.beat == beat), None)
        if first is not None and self.isVisible():
            self._player.pause()
            self._player.switch(View.WATCH)
            self._player.show_frame(int(first.start * p.fps))
        self.follow()

    def step(self, by: int) -> None:
        """Go to another line."""
        ids = self._ids()
        if ids:
            place = ids.index(self.current) if self.current in ids else 0
            self.choose(ids[min(max(place + by, 0), len(ids) - 1)])

    def _look_at_take(self, take: str) -> None:
        """Look at a take; the one that is looked at already is used."""
        looked = self.takes.looked
        if looked.take is not None and looked.take.id == take:
            self.acts.choose(take)
        self._take = take
        self.follow()

    def take_menu(self, take_id: str) -> QMenu | None:
        """What can be done with a take that is kept; it is looked at from then on."""
        take = next((t for t in self._studio.breakdown.takes if t.id == take_id), None)
        return take_menu(self, self.acts, self.hearing, take) if take is not None else None

    # ── recording ────────────────────────────────────────────────────────────────────────────────────────
    def record_or_stop(self) -> None:
        """Record the current line, or end the recording."""
        if self.booth.state is State.RECORDING:
            self.booth.stop()
        elif self.current:
            self._begin(Subject(TakeOf.BEAT, self.current))

    def record_through(self, of: TakeOf) -> None:
        """Record the section of the current line, or everything, in one go; or end the recording."""
        if self.booth.state is State.RECORDING:
            self.booth.stop()
        elif self.current:
            section = self._studio.breakdown.find_beat(self.current)[0].id
            self._begin(Subject(of, section if of is TakeOf.SECTION else ""))

    def punch_in(self) -> None:
        """Read again from the chosen word to the next pause; what was read is put into the take."""
        looked, word = self.takes.looked, self.strip.chosen
        if self.booth.state is State.RECORDING:
            self.booth.stop()
            return
        if looked.line is None or looked.take is None or self.booth.state is not State.IDLE:
            self._studio.message.emit("There is no recording of this line yet to read into; R records it.")
            return
        text = self._studio.breakdown.find_beat(self.current)[1].text
        first = max(word, 0)
        punch = Punch(self.current, looked.take.id, first, to_next_pause(text, first, len(words_of(text))))
        self.listening.stop()
        self.booth.record(Subject(TakeOf.BEAT, self.current), punch=punch)

    def talk(self) -> None:
        """Talk while watching, from where the picture stands."""
        if self.booth.state in (State.IDLE, State.OFFERING):
            self.listening.stop()
            self.booth.put_aside()
            self.talking.begin()

    def _begin(self, subject: Subject) -> None:
        self.listening.stop()
        self.booth.record(subject)

    def keep(self) -> None:
        """Keep what was recorded, and go to the next line."""
        if self.booth.state is State.OFFERING:
            self._fit.begin()
        if self.booth.keep():
            self._take = ""
            subject = self.booth.subject
            if subject.of is TakeOf.BEAT:
                self.step(1)

    # ── following ────────────────────────────────────────────────────────────────────────────────────────
    def showEvent(self, event: QShowEvent | None) -> None:
        """What changed meanwhile is shown now."""
        super().showEvent(event)
        self.follow()

    def follow(self) -> None:
        """Show how things stand."""
        if not self.isVisible():
            return
        made = self._studio.production
        if self.current and self.current not in self._ids():
            self.current = next(iter(self._ids()), "")
        self.head.follow()
        self.talking.follow()
        self.beats.show_rows(beat_rows(made.breakdown, made, self.who.proposed), self.current)
        self.who.look()
        offered = self.booth.offer
        shown = next((t for t in offered.takes if self.current in t.lines), None) if offered else None
        self.takes.look_at(self.current, self._take, shown)
        self._show_takes()
        self._follow_picture()

    def _show_takes(self) -> None:
        looked = self.takes.looked
        found = looked.strip if looked.beat == self.current else None
        self.strip.show_strip(found, waiting=not self.takes.is_settled)
        rows = take_rows(self._studio.breakdown, self.current, looked.lines)
        self.takes_list.show_rows(rows, looked.take.id if looked.take else "")
        self.takes_list.setFixedHeight(self.takes_list.height_of(MOST_TAKES) + (8 if rows else 0))
        self.takes_head.setText("Recordings of this line" if rows else "No recording of this line yet")
        self._follow_picture()
        self.hearing.follow()

    def _follow_picture(self) -> None:
        """The prompter shows what is due; while several lines are recorded it goes on from one to the next."""
        if not self.isVisible():
            return
        p, b = self._studio.programme, self._studio.breakdown
        at = self._player.head.frame / p.fps
        shown = self.current
        recording, subject = self.booth.state is State.RECORDING, self.booth.subject
        if recording and subject.of is not TakeOf.BEAT:
            shown = beat_due(p, at, self.booth.beats_of(subject)) or shown
            self.current = shown
        now = word_due(p, at, shown) if recording or self._player.playing else -1
        looked = self.takes.looked
        odd = words_otherwise(looked.line) if looked.beat == shown and not recording else ()
        self.prompter.show_reading(replace(reading(b, shown), now=now, odd=odd))

    def _go_to_word(self, number: int) -> None:
        p = self._studio.programme
        word = next((w for w in p.words if (w.beat, w.word) == (self.current, number)), None)
        if word is not None and not self._player.playing:
            self._player.show_frame(int(word.start * p.fps))

    def is_settled(self) -> bool:
        """Whether the takes of the line are there."""
        return self.takes.is_settled and self.booth.state is not State.FINDING and not self.talking.is_laying

    def stop(self) -> None:
        """Nothing is heard any more; what is recorded ends, and is offered or laid out."""
        self.listening.stop()
        self.booth.stop()
        self.talking.stop()

    def close_booth(self) -> None:
        """End what runs."""
        self.listening.stop()
        self.room.close()
        self.loopback.close()
        self.talking.close()
        self.booth.close()
