"""Points on paper: what the log is worth by the rules, what the referee gave, and where the two differ."""

from __future__ import annotations

from functools import partial

from PyQt6.QtWidgets import QWidget

from chapto.app import layouts
from chapto.app.footage.fields import Answer
from chapto.app.log.log_controller import LogController
from chapto.app.screen.player import Player
from chapto.app.studio import Studio
from chapto.app.widgets import Pressable, button, ground, label
from chapto.clock.timecode import clock_text
from chapto.document import edit_positions
from chapto.document.bout_rules import CallKind, RefereeCall, Result
from chapto.document.breakdown import Breakdown
from chapto.document.people import Side
from chapto.matlog.bout_clock import BoutClock
from chapto.matlog.ledger import Ledger
from chapto.matlog.overtime import overtime
from chapto.matlog.rules import NOTICE, RuleSet
from chapto.paint.colours import TIES
from chapto.programme.programme import TieState

HOW = ("points", "submission", "decision", "overtime", "advantage", "injury", "disqualification")


class PointsPage(QWidget):
    """Follows the round at the picture."""

    def __init__(self, studio: Studio, player: Player, pen: LogController) -> None:
        super().__init__()
        self._studio, self._player, self._pen = studio, player, pen
        ground(self, "paper")
        column = layouts.column(self, margins=(16, 12, 14, 12))
        head = layouts.row()
        head.addWidget(label("By these rules", soft=True))
        self._rules = button("", self._next_rules, tip="Press for the next rule set")
        head.addWidget(self._rules, 1)
        column.addLayout(head)
        self.score_text = label("", size="head")
        column.addWidget(self.score_text)
        self.columns_text = label("")
        column.addWidget(self.columns_text)
        result = layouts.row()
        result.addWidget(label("Result", soft=True))
        self._winner = Answer(
            (("open", "not noted"), (Side.FIRST, "the first won"), (Side.SECOND, "the second won"), (None, "a draw")),
            self._put_result, tip="Result of the bout",
        )  # fmt: skip
        self._how = Answer([(h, f"by {h}") for h in HOW], self._put_how, tip="How it ended")
        result.addWidget(self._winner, 1)
        result.addWidget(self._how, 1)
        column.addLayout(result)
        self._rows = layouts.column(spacing=4)
        column.addLayout(self._rows)
        self._edition = label("", soft=True, wrap=True)
        column.addWidget(self._edition)
        column.addWidget(label(NOTICE, soft=True, wrap=True))
        column.addStretch(1)
        self._made: list[QWidget] = []
        self._shown: object = None
        studio.changed.connect(self.follow)
        player.moved.connect(self.follow)
        self.follow()

    def follow(self) -> None:
        """The ledger of the round at the picture."""
        if not self.isVisible() and self._shown is not None:
            return
        b = self._studio.breakdown
        here = BoutClock(b).round_at(self._player.head.seen_mat(self._studio.programme))
        rules, found = self._pen.ledger(here)
        start = here.start if here else None
        names = {side: b.athlete(side, start).name for side in Side}
        now = (found, rules.title, here, tuple(names.values()), b.ruling)
        if now == self._shown:
            return
        self._shown = now
        self._rules.setText(rules.title)
        kept = b.ruling.result
        self._winner.show_answer(kept.winner if kept else "open", is_open=kept is None)
        self._how.show_answer(kept.how if kept and kept.how in HOW else HOW[0], is_open=False)
        self._how.setVisible(kept is not None)
        first, second = found.score()
        by_rules = found.derived_score()
        text = f"{here.name if here else 'Everything'}: {names[Side.FIRST]} {first}, {names[Side.SECOND]} {second}"
        if found.differences and by_rules != (first, second):
            text += f"   (the log alone {by_rules[0]}–{by_rules[1]})"
        self.score_text.setText(text)
        self.columns_text.setText(_columns(found))
        self.columns_text.setVisible(bool(self.columns_text.text()))
        usual = f", bouts of {clock_text(rules.usual_length)}" if rules.usual_length else ""
        self._edition.setText(f"After the {rules.edition}{usual}." if rules.edition else "")
        for made in self._made:
            self._rows.removeWidget(made)
            made.hide()
            made.deleteLater()
        self._made = []
        for q in found.questions:
            self._row(clock_text(q.at), q.sentence, partial(self._player.show_mat, q.at), odd=True)
        for entry in found.derived:
            self._row(clock_text(entry.start), entry.reason, partial(self._player.show_mat, entry.start))
        if found.referee:
            self._made.append(label("The referee called", soft=True))
            self._rows.addWidget(self._made[-1])
        for g in found.referee:
            name = names[g.side]
            note = f" for {g.note}" if g.note else ""
            self._row(
                clock_text(g.at), f"{_called(g)} {name}{note}", partial(self._player.show_mat, g.at),
                remove=partial(self._take_back, g.id),
            )  # fmt: skip
        for c in found.consequences:
            self._row(clock_text(c.at), c.sentence, partial(self._player.show_mat, c.at))
        if rules.overtime or b.ruling.overtime:
            self._overtime(b, rules)
        for d in found.differences:
            self._row(clock_text(d.at), d.sentence, partial(self._player.show_mat, d.at), odd=True)

    def _overtime(self, b: Breakdown, rules: RuleSet) -> None:
        stands = overtime(b.ruling.overtime)
        names = {Side.FIRST: b.first.name, Side.SECOND: b.second.name}
        rode = ", ".join(f"{names[side]} rode {float(stands.riding[side]):.1f} s" for side in Side)
        ahead = f" {names[stands.ahead]} is ahead." if stands.ahead else ""
        self._made.append(label(f"Overtime: {rode}. {stands.sentence}{ahead}", wrap=True))
        self._rows.addWidget(self._made[-1])
        starts = [known.en for p in rules.overtime_starts if (known := self._pen.lexicon.position(p)) is not None]
        limits = (
            f"{rules.overtime_pairs} pairs of turns, each up to {rules.overtime_riding} s, from {' or '.join(starts)}."
        )
        self._made.append(label(limits, soft=True, wrap=True))
        self._rows.addWidget(self._made[-1])
        for t in b.ruling.overtime:
            end = "finished" if t.finished else "the other escaped"
            text = f"{names[t.attacker]} attacked for {float(t.end - t.start):.1f} s, {end}"
            self._row(clock_text(t.start), text, partial(self._player.show_mat, t.start))

    def _put_result(self, winner: object) -> None:
        kept = self._studio.breakdown.ruling.result
        how = kept.how if kept else "points"
        result = None if winner == "open" else Result(winner=winner if isinstance(winner, Side) else None, how=how)
        self._studio.edit("note the result", lambda b: edit_positions.change_ruling(b, result=result))

    def _put_how(self, how: object) -> None:
        kept = self._studio.breakdown.ruling.result
        if kept is not None:
            result = Result(winner=kept.winner, how=str(how))
            self._studio.edit("note how it ended", lambda b: edit_positions.change_ruling(b, result=result))

    def showEvent(self, event: object) -> None:
        """Catch up when it comes into view."""
        self.follow()

    def _row(self, when: str, text: str, go: object, *, remove: object = None, odd: bool = False) -> None:
        row = QWidget()
        line = layouts.row(row, spacing=8)
        time = label(when, size="time", soft=True)
        time.setFixedWidth(40)
        line.addWidget(time)
        words = Pressable(go)  # type: ignore[arg-type]
        words.setText(text)
        words.setWordWrap(True)
        if odd:
            words.setStyleSheet(f"color: {TIES[TieState.BROKEN]};")
        line.addWidget(words, 1)
        if callable(remove):
            line.addWidget(button("", remove, tip="Take these points back", sign="cross", kind="quiet"))
        self._made.append(row)
        self._rows.addWidget(row)

    def _take_back(self, points_id: str) -> None:
        self._studio.edit("take points back", lambda b: edit_positions.take_points_back(b, points_id))

    def _next_rules(self) -> None:
        names = list(self._studio.known.rules)
        now = self._studio.breakdown.ruling.rules
        following = names[(names.index(now) + 1) % len(names)] if now in names else names[0]
        self._studio.edit(f"rules: {following}", lambda b: edit_positions.change_ruling(b, rules=following))


def _columns(found: Ledger) -> str:
    """Advantages, penalties and near submissions, as far as there are any: “advantages 1–0”."""
    rows = (
        ("advantages", found.advantages()),
        ("penalties", found.count(CallKind.PENALTY)),
        ("near submissions", found.count(CallKind.NEAR_SUBMISSION)),
    )
    return ", ".join(f"{name} {first}–{second}" for name, (first, second) in rows if first or second)


def _called(g: RefereeCall) -> str:
    """A call up to the name it is for."""
    return {
        CallKind.POINTS: f"{g.points} to".replace("-", "−"),
        CallKind.ADVANTAGE: "advantage to",
        CallKind.PENALTY: "penalty for",
        CallKind.NEAR_SUBMISSION: "near submission by",
        CallKind.EDGE: "at the edge:",
    }[g.kind]
