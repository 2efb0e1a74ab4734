"""The Log stage."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial
from pathlib import Path

from PyQt6.QtCore import Qt, QTimer
from PyQt6.QtGui import QKeyEvent, QKeySequence, QShortcut
from PyQt6.QtWidgets import (
    QPushButton,
    QStackedWidget,
    QWidget,
)

from chapto.app import layouts
from chapto.app.choosing import Choosing
from chapto.app.log.compare import CompareView
from chapto.app.log.entry import Entry
from chapto.app.log.figures_page import FiguresPage
from chapto.app.log.find_line import FindLine
from chapto.app.log.log_controller import LogController, logged
from chapto.app.log.pad import Pad
from chapto.app.log.points_page import PointsPage
from chapto.app.log.score_bar import ScoreBar
from chapto.app.log.strip import BoutStrip
from chapto.app.screen.player import Player
from chapto.app.screen.transport import next_speed
from chapto.app.studio import Studio
from chapto.app.widgets import button, ground
from chapto.document.bout import Moment, MomentKind, Outcome
from chapto.document.bout_rules import CallKind
from chapto.document.people import Side
from chapto.errors import ChaptoError
from chapto.publish.log_csv import from_csv, to_csv, to_webvtt_metadata
from chapto.store.outputs import OutputGate

KEYS = (
    ("E  R", "an exchange, a round begins here; again: ends"),
    ("0  −  =", "it landed, was defended, went partly"),
    ("/  .", "find a technique or position; the last technique again"),
    ("A  S  D", "the first, nobody, the second is on top"),
    ("Shift+A  D", "who began the chosen exchange"),
    ("Z X C F G T Y H N J", "position from here; with Shift: rename"),
    ("1 … 9", "a moment of that kind"),
    ("P A 2, P D 3", "the referee gave the first 2, the second 3"),
    ("P A  A P N E", "advantage, penalty, near submission, edge"),
    ("L  Shift+L", "the last exchange again, over and over"),
    ("I  U", "split it here, join it with the next"),
    ("K  O", "bout clock stops; overtime turn (Shift+O: finished)"),
    ("Q  W  Shift+M", "slower, faster; who is on the mat"),
    ("Ctrl+plus  minus  0", "mat clock: closer, wider, whole"),
    ("Delete  Ctrl+F", "take out what is chosen; find in the log"),
)


CALLS = {"a": CallKind.ADVANTAGE, "p": CallKind.PENALTY, "n": CallKind.NEAR_SUBMISSION, "e": CallKind.EDGE}
CALLS_SAID = "A advantage, P penalty, N near submission, E edge"


class LogPage(QWidget):
    """Score, picture and mat clock on dark; the pad, the running list, points and figures on paper."""

    def __init__(
        self, studio: Studio, player: Player, screen: QWidget, lively: Callable[[], dict[str, float]] = dict
    ) -> None:
        super().__init__()
        self._studio, self._player, self._lively = studio, player, lively
        self.pen = LogController(studio, player)
        self._chord: tuple[str, ...] = ()
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName("Log")
        self.strip = BoutStrip(studio, player)
        self.strip.exchange_chosen.connect(self.choose)
        self.strip.menu_asked.connect(lambda item, at: self.entries[item].open_menu(at))
        self.score = ScoreBar(studio, player, self.pen)
        self.pad = Pad(studio, self.pen)
        left = QWidget()
        stack = layouts.column(left, self.score, spacing=0)
        self._pictures = QStackedWidget()
        self._pictures.addWidget(screen)
        self.comparison = CompareView(studio)
        self._pictures.addWidget(self.comparison)
        self.comparison.done.connect(self.end_comparison)
        stack.addWidget(self._pictures, 1)
        left.setMinimumWidth(480)
        above = layouts.split(Qt.Orientation.Horizontal, left, self._paper(), sizes=(716, 480), stretch=(1,))
        outer = layouts.column(self, spacing=0)
        outer.addWidget(above, 1)
        outer.addWidget(self.strip)
        self._into_view = QTimer(self)
        self._into_view.setSingleShot(True)
        self._into_view.timeout.connect(self._show_row)
        self.entries: dict[str, Entry] = {}
        self._order: tuple[str, ...] = ()
        studio.changed.connect(self._follow)
        self.pen.wrote.connect(self._show_written)
        for keys, act in (
            ("Ctrl++", partial(self.strip.zoom, 1.4)),
            ("Ctrl+=", partial(self.strip.zoom, 1.4)),
            ("Ctrl+-", partial(self.strip.zoom, 1 / 1.4)),
            ("Ctrl+0", self.strip.show_all),
            ("Ctrl+F", self.begin_find),
        ):
            shortcut = QShortcut(QKeySequence(keys), self, act)
            shortcut.setContext(Qt.ShortcutContext.WidgetWithChildrenShortcut)
        self._follow()

    def _say_soon(self, sentence: str) -> None:
        """Say it once the window is there to show it."""
        QTimer.singleShot(0, lambda: self._studio.message.emit(sentence))

    @property
    def chosen(self) -> str:
        """The id of what is chosen in the running list."""
        return self.pen.chosen

    def choose(self, item: str) -> None:
        """Look at one logged thing: its row and its picture."""
        self._show_written(item)
        found = self.entries.get(item)
        if found is not None:
            at = found.item.at if isinstance(found.item, Moment) else found.item.start
            self._player.show_mat(at)

    def compare(self, one: str, other: str) -> None:
        """Show two exchanges side by side, from their begin."""
        b = self._studio.breakdown
        self._player.pause()
        self._pictures.setCurrentWidget(self.comparison)
        self.comparison.begin(b.exchange(one), b.exchange(other))

    def is_settled(self) -> bool:
        """Whether every picture in view has arrived."""
        compared = self._pictures.currentIndex() == 0 or self.comparison.is_settled()
        return compared and self.strip.film.is_settled()

    def close_feeds(self) -> None:
        """End the threads that fetch pictures."""
        self.strip.film.close()
        self.comparison.feed.close()

    def end_comparison(self) -> None:
        """The one picture again."""
        self._pictures.setCurrentIndex(0)
        self.setFocus()

    def show_sheet(self, number: int) -> None:
        """Show what happened, the points or the figures."""
        self._sheets.setCurrentIndex(number)
        for i, made in enumerate(self._tabs):
            made.setChecked(i == number)

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        """The pad's keys."""
        assert event is not None
        if event.modifiers() & (Qt.KeyboardModifier.ControlModifier | Qt.KeyboardModifier.AltModifier):
            super().keyPressEvent(event)
            return
        shift = bool(event.modifiers() & Qt.KeyboardModifier.ShiftModifier)
        key = chr(event.key()).lower() if 32 < event.key() < 127 else ""
        if self._chord or (key == "p" and not shift):
            self._points_chord(key)
        elif key and self._act(key, shift):
            pass
        elif event.key() == Qt.Key.Key_Delete and self.chosen in self.entries:
            self.entries[self.chosen].remove()
        else:
            super().keyPressEvent(event)

    def take_in(self) -> None:
        """Choose a log to take in."""
        path = Choosing(self, self._studio.preferences, "log").file("Import a log", "Log (*.csv *.txt)")
        if path is not None:
            self.read_log(path)

    def read_log(self, path: Path) -> None:
        """Take in a log, in one step; what was not clear in it is said."""
        try:
            found = from_csv(self._studio.breakdown, path.read_text("utf-8"), self.pen.lexicon)
        except ChaptoError as error:
            self._studio.message.emit(str(error))
        except (OSError, UnicodeDecodeError):
            self._studio.message.emit(f"“{path.name}” can't be read as text.")
        else:
            self._studio.edit(f"take in {path.name}", lambda _: found.breakdown)
            if found.unclear:
                more = f"  And {len(found.unclear) - 2} more." if len(found.unclear) > 2 else ""
                self._studio.message.emit("  ".join(found.unclear[:2]) + more)

    def hand_out(self) -> None:
        """Choose where the log goes."""
        choosing = Choosing(self, self._studio.preferences, "log")
        path, _ = choosing.new_file("Export the log", Path("log.csv"), "CSV (*.csv);;WebVTT (*.vtt)", asks=True)
        if path is not None:
            b = self._studio.breakdown
            text = to_webvtt_metadata(b) if path.suffix == ".vtt" else to_csv(b)
            gate = OutputGate(b, self._studio.session.path, replacing=True)
            try:
                gate.write(path, text.encode())
            except ChaptoError as error:
                self._studio.message.emit(str(error))

    # ── inside ───────────────────────────────────────────────────────────────────────────────────────────
    def _act(self, key: str, shift: bool) -> bool:
        """Do what a key stands for; whether it stands for anything."""
        lexicon = self.pen.lexicon
        positions = {p.key: p.id for p in lexicon.positions.values() if p.key}
        if key in positions:
            self.pen.position(positions[key], retype=shift)
            return True
        if key.isdigit() and 1 <= int(key) <= len(MomentKind):
            self.pen.moment(list(MomentKind)[int(key) - 1])
            return True
        acts: dict[str, Callable[[], object]] = {
            "e": self.pen.exchange,
            "r": self.pen.round,
            "m": self.score.standing.say_who if shift else self.pen.moment,
            "0": partial(self.pen.exchange, Outcome.LANDED),
            "-": partial(self.pen.exchange, Outcome.STOPPED),
            "=": partial(self.pen.exchange, Outcome.HALF),
            "a": partial(self.pen.began if shift else self.pen.control, Side.FIRST),
            "s": partial(self.pen.control, None),
            "d": partial(self.pen.began if shift else self.pen.control, Side.SECOND),
            "q": partial(self._speed, -1),
            "w": partial(self._speed, 1),
            "l": self.pen.loop_last if shift else self.pen.play_last,
            "k": self.pen.stop_clock,
            "o": partial(self.pen.turn, finished=shift),
            "i": self.pen.split,
            "u": self.pen.join,
            "/": self.pad.finder.begin,
            ".": self.pen.same_technique,
        }
        if key in acts:
            acts[key]()
        return key in acts

    def _points_chord(self, key: str) -> None:
        """P, then A or D for whom, then what: 0 to 9 points (a minus before it takes them away), or a letter."""
        chord = (*self._chord, key)
        if chord == ("p",) or (len(chord) == 2 and key in "ad") or (len(chord) == 3 and key == "-"):
            self._chord = chord
            if len(chord) == 1:
                self._studio.message.emit(f"The referee: A or D for whom, then how many points, or {CALLS_SAID}.")
            return
        self._chord = ()
        side = Side.FIRST if chord[1:2] == ("a",) else Side.SECOND
        if key.isdigit() and len(chord) >= 3:
            self.pen.points(side, -int(key) if "-" in chord else int(key))
        elif key in CALLS and len(chord) == 3:
            self.pen.call(side, CALLS[key])
        else:
            self._studio.message.emit(f"Nothing was called: P, then A or D, then a digit, or {CALLS_SAID}.")

    def _speed(self, by: int) -> None:
        self._player.set_speed(next_speed(self._player.head.speed, by))

    def _paper(self) -> QWidget:
        side = ground(QWidget(), "paper")
        column = layouts.column(side, self.pad, spacing=0)
        tabs = layouts.row(margins=(14, 2, 12, 6), spacing=5)
        self._tabs: list[QPushButton] = []
        for i, (name, tip) in enumerate(
            (
                ("What happened", "The running list"),
                ("Points", "Points with their reasons"),
                ("Stats", "Stats of the bout"),
            )
        ):
            made = button(name, partial(self.show_sheet, i), tip=tip)
            made.setCheckable(True)
            self._tabs.append(made)
            tabs.addWidget(made)
        tabs.addStretch(1)
        self.finding = FindLine(lambda: {i: self.entries[i] for i in self._order if i in self.entries})
        self.finding.went.connect(self.choose)
        tabs.addWidget(self.finding)
        tabs.addWidget(button("Import…", self.take_in, tip="Import a log from a spreadsheet (CSV)", kind="quiet"))
        tabs.addWidget(button("Export…", self.hand_out, tip="Export the log as CSV or WebVTT", kind="quiet"))
        column.addLayout(tabs)
        self._sheets = QStackedWidget()
        self._list = ground(QWidget(), "paper")
        self._rows = layouts.column(self._list, margins=(0, 0, 0, 12), spacing=0)
        self.points = PointsPage(self._studio, self._player, self.pen)
        self.figures = FiguresPage(self._studio, self._player, self.pen, self._lively)
        self.figures.compare.connect(self.compare)
        areas = []
        for page in (self._list, self.points, self.figures):
            area = layouts.scrolled(page)
            self._sheets.addWidget(area)
            areas.append(area)
        self._area = areas[0]
        column.addWidget(self._sheets, 1)
        self.show_sheet(0)
        return side

    def _show_written(self, item: str) -> None:
        self.pen.chosen = self.strip.chosen = item
        for row_id, row in self.entries.items():
            row.show_chosen(row_id == item)
        # A row that was just added has its place only once it is laid out.
        self._into_view.start()
        self.strip.refresh()

    def _show_row(self) -> None:
        row = self.entries.get(self.pen.chosen)
        if row is not None:
            self._area.ensureWidgetVisible(row, 0, 50)

    def begin_find(self) -> None:
        """Type what is looked for in the log."""
        self.show_sheet(0)
        self.finding.begin()

    def _follow(self) -> None:
        items = logged(self._studio.breakdown)
        order = tuple(x.id for x in items)
        if order != self._order:
            self._order = order
            old, self.entries = self.entries, {}
            while self._rows.takeAt(0):
                pass
            for item in items:
                row = old.pop(item.id, None)
                if row is None:
                    row = Entry(self._studio, self.pen, item)
                    row.chosen.connect(self.choose)
                self.entries[item.id] = row
                self._rows.addWidget(row)
            for row in old.values():
                row.hide()
                row.deleteLater()
            self._rows.addStretch(1)
        for item in items:
            self.entries[item.id].show_item(item)
        if self.finding.text():
            self.finding.show_found()
