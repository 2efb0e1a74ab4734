"""The Log stage."""

from __future__ import annotations

from collections.abc import Callable
from fractions import Fraction
from functools import partial

from PyQt6.QtCore import Qt
from PyQt6.QtGui import QKeyEvent
from PyQt6.QtWidgets import QGridLayout, QHBoxLayout, QPushButton, QScrollArea, QSplitter, QVBoxLayout, QWidget

from chapto.app.log.entry import Entry, Logged
from chapto.app.log.strip import BoutStrip
from chapto.app.screen.player import Player
from chapto.app.screen.transport import SPEEDS
from chapto.app.studio import Studio
from chapto.app.widgets import button, ground, label
from chapto.clock.timecode import clock_text
from chapto.document import edit_log
from chapto.document.bout import Exchange, Moment, MomentKind
from chapto.document.breakdown import Breakdown
from chapto.document.people import Side

KEYS = (
    ("E", "an exchange begins here; E again ends it"),
    ("R", "a round begins here; R again ends it"),
    ("M", "a moment, here"),
    ("1 … 8", "kind of the last moment"),
    ("A  D", "the first, the second began it"),
    ("Delete", "take out what is chosen"),
    ("Q  W", "slower, faster"),
)


class LogPage(QWidget):
    """Picture and mat clock on dark; the pad and the running list on paper."""

    def __init__(self, studio: Studio, player: Player, screen: QWidget) -> None:
        super().__init__()
        self._studio, self._player = studio, player
        self._begun: dict[str, Fraction] = {}
        self._last_moment = ""
        self.chosen = ""
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.strip = BoutStrip(studio, player)
        self.strip.exchange_chosen.connect(self.choose)
        side = ground(QWidget(), "paper")
        column = QVBoxLayout(side)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        column.addWidget(self._pad())
        self._area = QScrollArea()
        self._area.setWidgetResizable(True)
        self._area.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self._list = ground(QWidget(), "paper")
        self._rows = QVBoxLayout(self._list)
        self._rows.setContentsMargins(0, 0, 0, 12)
        self._rows.setSpacing(0)
        self._area.setWidget(self._list)
        column.addWidget(self._area, 1)
        above = QSplitter(Qt.Orientation.Horizontal)
        above.setHandleWidth(3)
        above.addWidget(screen)
        above.addWidget(side)
        above.setSizes([740, 440])
        above.setStretchFactor(0, 1)
        above.setChildrenCollapsible(False)
        outer = QVBoxLayout(self)
        outer.setContentsMargins(0, 0, 0, 0)
        outer.setSpacing(0)
        outer.addWidget(above, 1)
        outer.addWidget(self.strip)
        self.entries: dict[str, Entry] = {}
        self._order: tuple[str, ...] = ()
        studio.changed.connect(self._follow)
        player.moved.connect(self._pad_follows)
        self._follow()

    # ── the pad ──────────────────────────────────────────────────────────────────────────────────────────
    def _pad(self) -> QWidget:
        pad = ground(QWidget(), "paper")
        grid = QGridLayout(pad)
        grid.setContentsMargins(14, 12, 12, 10)
        grid.setSpacing(6)
        self._exchange_button = button("", self.exchange, tip="An exchange begins or ends here", key="E")
        self._round_button = button("", self.round, tip="A round begins or ends here", key="R")
        self._moment_button = button(
            "Moment here   M", self.moment, tip="A moment worth pointing at", key="M", kind="main"
        )
        grid.addWidget(self._exchange_button, 0, 0, 1, 2)
        grid.addWidget(self._round_button, 0, 2, 1, 2)
        grid.addWidget(self._moment_button, 1, 0, 1, 4)
        self._kinds: list[QPushButton] = []
        for i, kind in enumerate(MomentKind):
            made = button(
                f"{i + 1}  {kind.value}", partial(self.kind, kind), tip="Kind of the last moment", key=str(i + 1)
            )
            self._kinds.append(made)
            grid.addWidget(made, 2 + i // 4, i % 4)
        about = QHBoxLayout()
        b = self._studio.breakdown
        self._first = button(f"A  {b.first.name}", lambda: self.began(Side.FIRST), tip="The first began it", key="A")
        self._second = button(
            f"D  {b.second.name}", lambda: self.began(Side.SECOND), tip="The second began it", key="D"
        )
        about.addWidget(self._first)
        about.addWidget(self._second)
        grid.addLayout(about, 4, 0, 1, 4)
        self._hint = label("", soft=True)
        grid.addWidget(self._hint, 5, 0, 1, 4)
        self._pad_follows()
        return pad

    def _pad_follows(self) -> None:
        mat = self._mat()
        for key, made, name in (("x", self._exchange_button, "Exchange"), ("r", self._round_button, "Round")):
            letter = "E" if key == "x" else "R"
            since = self._begun.get(key)
            made.setText(
                f"{name} begins   {letter}" if since is None else f"{name} ends   {letter}   {float(mat - since):.1f} s"
            )
        self._hint.setText(f"at mat {clock_text(mat, tenths=True)}")

    def _mat(self) -> Fraction:
        return self._player.head.seen_mat(self._studio.programme).limit_denominator(1000)

    def exchange(self) -> None:
        """Begin an exchange at the picture, or end the one begun."""
        span = self._toggle("x")
        if span:
            self._add("add an exchange", lambda b: edit_log.add_exchange(b, *span))

    def round(self) -> None:
        """Begin a round at the picture, or end the one begun."""
        span = self._toggle("r")
        if span:
            self._add("add a round", lambda b: edit_log.add_round(b, *span))

    def moment(self) -> None:
        """Note a moment at the picture."""
        at = self._mat()
        made = self._add("add a moment", lambda b: edit_log.add_moment(b, at))
        self._last_moment = made or self._last_moment

    def kind(self, kind: MomentKind) -> None:
        """Give the chosen or last moment a kind."""
        chosen = self.entries.get(self.chosen)
        moment = self.chosen if chosen and isinstance(chosen.item, Moment) else self._last_moment
        if moment in self.entries:
            self._studio.edit("change the kind", lambda b: edit_log.change_moment(b, moment, kind=kind))
        else:
            self._studio.said.emit("Note a moment first (M), then say of which kind it is.")

    def began(self, side: Side) -> None:
        """Say who began the chosen exchange."""
        chosen = self.entries.get(self.chosen)
        if chosen and isinstance(chosen.item, Exchange):
            item = chosen.item.id
            self._studio.edit("say who began it", lambda b: edit_log.change_exchange(b, item, by=side))
        else:
            self._studio.said.emit("Choose an exchange first.")

    def choose(self, item: str) -> None:
        """Look at one logged thing: its row and its picture."""
        self.chosen = item
        self.strip.chosen = item
        for row_id, row in self.entries.items():
            row.show_chosen(row_id == item)
        found = self.entries.get(item)
        if found is not None:
            self._area.ensureWidgetVisible(found, 0, 50)
            at = found.item.at if isinstance(found.item, Moment) else found.item.start
            self._player.show_mat(at)
        self.strip.update()

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        """The pad's keys."""
        assert event is not None
        key = event.text().lower()
        acts: dict[str, Callable[[], object]] = {
            "e": self.exchange,
            "r": self.round,
            "m": self.moment,
            "a": partial(self.began, Side.FIRST),
            "d": partial(self.began, Side.SECOND),
            "q": partial(self._speed, -1),
            "w": partial(self._speed, 1),
        }
        if event.modifiers() & (Qt.KeyboardModifier.ControlModifier | Qt.KeyboardModifier.AltModifier):
            super().keyPressEvent(event)
        elif key in acts:
            acts[key]()
        elif key.isdigit() and 1 <= int(key) <= len(MomentKind):
            self.kind(list(MomentKind)[int(key) - 1])
        elif event.key() == Qt.Key.Key_Delete and self.chosen in self.entries:
            self.entries[self.chosen].remove()
        else:
            super().keyPressEvent(event)

    def _speed(self, by: int) -> None:
        here = SPEEDS.index(self._player.head.speed) if self._player.head.speed in SPEEDS else 2
        self._player.set_speed(SPEEDS[min(max(here + by, 0), len(SPEEDS) - 1)])

    def _toggle(self, key: str) -> tuple[Fraction, Fraction] | None:
        """Begin at the picture, or end: the span, in order whichever way the creator went."""
        mat = self._mat()
        since = self._begun.pop(key, None)
        if since is None:
            self._begun[key] = mat
            self._pad_follows()
            return None
        self._pad_follows()
        if abs(mat - since) < edit_log.SHORTEST_SPAN:
            self._studio.said.emit("That ended where it began; nothing was logged.")
            return None
        return min(since, mat), max(since, mat)

    def _add(self, what: str, change: Callable[[Breakdown], Breakdown]) -> str:
        """Make an edit that adds one thing, choose its row without moving the picture; its id."""
        before = {x.id for x in _logged(self._studio.breakdown)}
        self._studio.edit(what, change)
        made = next((x.id for x in _logged(self._studio.breakdown) if x.id not in before), "")
        if made:
            self.chosen = self.strip.chosen = made
            for row_id, row in self.entries.items():
                row.show_chosen(row_id == made)
            self._area.ensureWidgetVisible(self.entries[made], 0, 50)
        return made

    # ── the list ─────────────────────────────────────────────────────────────────────────────────────────
    def _follow(self) -> None:
        b = self._studio.breakdown
        items = _logged(b)
        order = tuple(x.id for x in items)
        if order != self._order:
            self._order = order
            old, self.entries = self.entries, {}
            while self._rows.takeAt(0):
                pass
            for item in items:
                row = old.pop(item.id, None)
                if row is None:
                    row = Entry(self._studio, item)
                    row.chosen.connect(self.choose)
                self.entries[item.id] = row
                self._rows.addWidget(row)
            for row in old.values():
                row.deleteLater()
            self._rows.addStretch(1)
        for item in items:
            self.entries[item.id].show_item(item)
        self._first.setText(f"A  {b.first.name}")
        self._second.setText(f"D  {b.second.name}")


def _logged(b: Breakdown) -> list[Logged]:
    """Everything in the log in the order of the mat clock; what begins earlier or lasts longer comes first."""

    def order(item: Logged) -> tuple[Fraction, int]:
        return (item.at, 2) if isinstance(item, Moment) else (item.start, 1 if isinstance(item, Exchange) else 0)

    return sorted((*b.rounds, *b.exchanges, *b.moments), key=order)
