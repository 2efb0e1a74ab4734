"""Everything that is logged goes through here: what a key or press means at the picture, and the edit it makes."""

from __future__ import annotations

from collections.abc import Callable
from fractions import Fraction

from PyQt6.QtCore import QObject, pyqtSignal

from chapto.app.screen.player import Player
from chapto.app.studio import Studio
from chapto.document import edit_log, edit_positions
from chapto.document.bout import Exchange, Moment, MomentKind, Outcome, Round
from chapto.document.bout_rules import CallKind
from chapto.document.breakdown import Breakdown
from chapto.document.people import Side
from chapto.lexicon.lexicon import Lexicon, Technique
from chapto.matlog.ledger import Ledger, ledger
from chapto.matlog.rules import RuleSet

Logged = Round | Exchange | Moment


class LogController(QObject):
    """Writes into the log at the picture. While it plays, what is pressed happened a reaction time ago.

    `wrote` carries the id of what was added, `begun_changed` follows exchanges and rounds being begun.
    """

    wrote = pyqtSignal(str)
    begun_changed = pyqtSignal()

    def __init__(self, studio: Studio, player: Player) -> None:
        super().__init__()
        self._studio, self._player = studio, player
        self.begun: dict[str, Fraction] = {}
        self.chosen = ""
        self.last_moment = ""
        self.recent: list[str] = []
        self.top: Side | None = None
        self._meant: Fraction | None = None
        self._ledger: tuple[Breakdown, Round | None, RuleSet, Ledger] | None = None

    @property
    def reaction(self) -> Fraction:
        """Seconds from seeing to pressing a key."""
        return Fraction(str(self._studio.preferences.now.reaction))

    @property
    def lexicon(self) -> Lexicon:
        """Names as they are known now, also those that were kept a moment ago."""
        return self._studio.known.lexicon

    def mat(self) -> Fraction:
        """The mat time that is meant now: of the first key, where several belong together."""
        if self._meant is not None:
            return self._meant
        head = self._player.head
        mat = head.seen_mat(self._studio.programme)
        if self._player.playing:
            mat -= self.reaction * head.speed
        return max(mat, Fraction(0)).limit_denominator(1000)

    def ledger(self, within: Round | None) -> tuple[RuleSet, Ledger]:
        """The rules of the bout and the ledger of a round by them, worked out once for a document and round; by
        positional points where the named rules are not to be had."""
        b = self._studio.breakdown
        kept = self._ledger
        if kept is None or kept[0] is not b or kept[1] != within:
            known = self._studio.known.rules
            rules = known.get(b.ruling.rules) or known["positional"]
            kept = self._ledger = b, within, rules, ledger(b, self.lexicon, rules, within)
        return kept[2], kept[3]

    def keep(self, *, meant: bool) -> None:
        """Keep the mat time of now for what is still being typed, or let go of it."""
        self._meant = None
        self._meant = self.mat() if meant else None

    def exchange(self, outcome: Outcome | None = None) -> None:
        """Begin an exchange, or end the one begun; with an outcome, end it so, or say so of the chosen one."""
        if outcome is not None and "x" not in self.begun:
            x = self.chosen_exchange()
            if x is None:
                self._studio.message.emit("Choose or begin an exchange first.")
            else:
                self.edit("say how it ended", lambda b: edit_log.change_exchange(b, x.id, outcome=outcome))
            return
        span = self._toggle("x")
        if span:
            # Who was on top as it began most often began it; a press on the row says otherwise.
            top = self._top_now(edit_positions.position_at(self._studio.breakdown, span[0]))
            self._add("add an exchange", lambda b: edit_log.add_exchange(b, *span, by=top, outcome=outcome))

    def round(self) -> None:
        """Begin a round, or end the one begun."""
        span = self._toggle("r")
        if span:
            self._add("add a round", lambda b: edit_log.add_round(b, *span))

    def stop_clock(self) -> None:
        """The bout's clock stops here, or runs on."""
        span = self._toggle("k")
        if span:
            self.edit("stop the bout's clock", lambda b: edit_positions.stop_clock(b, *span))

    def turn(self, *, finished: bool = False) -> None:
        """A turn of overtime begins here for the one on top, or ends: by escape, or by a finish."""
        here = edit_positions.position_at(self._studio.breakdown, self.mat())
        attacker = self._top_now(here)
        if attacker is None:
            self._studio.message.emit("Say first who attacks in this turn: A or D.")
            return
        span = self._toggle("o")
        if span:
            self.edit("a turn of overtime", lambda b: edit_positions.add_turn(b, attacker, *span, finished=finished))

    def split(self) -> None:
        """Cut the chosen exchange in two here."""
        x, at = self.chosen_exchange(), self.mat()
        if x is not None:
            self.edit("split the exchange", lambda b: edit_log.split_exchange(b, x.id, at))

    def join(self) -> None:
        """Make the chosen exchange and the next one."""
        x = self.chosen_exchange()
        if x is not None:
            self.edit("join two exchanges", lambda b: edit_log.join_exchange(b, x.id))

    def moment(self, kind: MomentKind = MomentKind.POINT) -> None:
        """Note a moment."""
        at = self.mat()
        self.last_moment = (
            self._add(f"note: {kind}", lambda b: edit_log.add_moment(b, at, kind=kind)) or self.last_moment
        )

    def position(self, position_id: str, *, retype: bool = False) -> None:
        """From here on the two are in this position; `retype` changes what was said of the stretch here."""
        known = self.lexicon.positions[position_id]
        at = self.mat()
        here = edit_positions.position_at(self._studio.breakdown, at)
        top = None if known.control == "none" and known.group in ("standing", "scramble") else self._top_now(here)
        if retype:
            self.edit(
                f"call it {known.en}",
                lambda b: edit_positions.change_position(b, at, position=position_id, top=top),
            )  # fmt: skip
        else:
            self.edit(known.en, lambda b: edit_positions.position_from(b, at, position_id, top))

    def control(self, side: Side | None) -> None:
        """From here on this one has the upper or attacking part."""
        at = self.mat()
        self.top = side
        self.edit("say who is on top", lambda b: edit_positions.control_from(b, at, side))

    def began(self, side: Side) -> None:
        """Say who began the chosen exchange."""
        x = self.chosen_exchange()
        if x is None:
            self._studio.message.emit("Choose an exchange first.")
        else:
            self.edit("say who began it", lambda b: edit_log.change_exchange(b, x.id, by=side))

    def technique(self, technique: Technique) -> None:
        """Name the chosen or last exchange; without one, begin one of that name here."""
        self.recent = [technique.id, *(t for t in self.recent if t != technique.id)][:12]
        x = self.chosen_exchange()
        if x is None:
            self._studio.message.emit("Log the exchange first (E … E), then name it.")
        else:
            self.edit("name the technique", lambda b: edit_log.change_exchange(b, x.id, technique=technique.en))

    def same_technique(self) -> None:
        """The technique that was named last, once more."""
        last = self.lexicon.techniques.get(self.recent[0]) if self.recent else self._named_last()
        if last is None:
            self._studio.message.emit("No technique was named yet; / finds one.")
        else:
            self.technique(last)

    def _named_last(self) -> Technique | None:
        """That of the last exchange before the picture, if the lexicon knows it."""
        x = self.chosen_exchange()
        before = [e for e in self._studio.breakdown.exchanges if e.technique and (x is None or e.start < x.start)]
        return self.lexicon.technique_named(before[-1].technique) if before else None

    def points(self, side: Side, points: int) -> None:
        """The referee gave points."""
        at = self.mat()
        self.edit(f"the referee gave {points}", lambda b: edit_positions.give_points(b, at, side, points))

    def call(self, side: Side, kind: CallKind) -> None:
        """The referee called something that gives no points."""
        at = self.mat()
        self.edit(f"the referee: {kind.value}", lambda b: edit_positions.call(b, at, side, kind))

    def show(self, mat: Fraction) -> None:
        """Look at a mat time."""
        self._player.show_mat(mat)

    def play_last(self) -> None:
        """Play the chosen or last exchange again."""
        x = self.chosen_exchange()
        if x is not None:
            self._player.show_mat(x.start)
            if not self._player.playing:
                self._player.play()

    def loop_last(self) -> None:
        """Play the chosen or last exchange over and over, or stop doing so."""
        x = self.chosen_exchange()
        self._player.loop = None if self._player.loop is not None or x is None else (x.start, x.end)
        if self._player.loop is not None:
            self.play_last()
            self._studio.message.emit("This exchange plays over and over; Shift+L ends that.")

    @property
    def is_looping(self) -> bool:
        """Whether an exchange plays over and over."""
        return self._player.loop is not None

    def chosen_exchange(self) -> Exchange | None:
        """The chosen exchange, or the last that began before the picture."""
        b = self._studio.breakdown
        chosen = next((x for x in b.exchanges if x.id == self.chosen), None)
        before = [x for x in b.exchanges if x.start <= self.mat()]
        return chosen or (before[-1] if before else None)

    def edit(self, what: str, change: Callable[[Breakdown], Breakdown]) -> bool:
        """One step of the log."""
        return self._studio.edit(what, change)

    def _top_now(self, here: object) -> Side | None:
        top = getattr(here, "top", None)
        return top if top is not None else self.top

    def _toggle(self, key: str) -> tuple[Fraction, Fraction] | None:
        """Begin here, or end: the span, in order whichever way the creator went."""
        mat = self.mat()
        since = self.begun.pop(key, None)
        if since is None:
            self.begun[key] = mat
        self.begun_changed.emit()
        if since is None:
            return None
        if abs(mat - since) < edit_log.SHORTEST_SPAN:
            self._studio.message.emit("That ended where it began; nothing was logged.")
            return None
        return min(since, mat), max(since, mat)

    def _add(self, what: str, change: Callable[[Breakdown], Breakdown]) -> str:
        """Make an edit that adds one thing; its id, or nothing."""
        before = {x.id for x in logged(self._studio.breakdown)}
        self.edit(what, change)
        made = next((x.id for x in logged(self._studio.breakdown) if x.id not in before), "")
        if made:
            self.chosen = made
            self.wrote.emit(made)
        return made


def logged(b: Breakdown) -> list[Logged]:
    """Everything in the running list in the order of the mat clock; what begins earlier or lasts longer first."""

    def order(item: Logged) -> tuple[Fraction, int]:
        return (item.at, 2) if isinstance(item, Moment) else (item.start, 1 if isinstance(item, Exchange) else 0)

    return sorted((*b.rounds, *b.exchanges, *b.moments), key=order)
