"""What the position track is worth by a rule set, entry by entry, each with its reason and the span that earned it.

Control is followed in runs (`stays.dominations`). Within one, what somebody has passed to is a *passed* run; and knee
on belly, mount and back are runs of exactly that. A run counts when it lasts as long as the rule set's
`control_seconds`. What is shorter changes nothing: neither a look at half guard on the way, nor two seconds on the
feet. Tangled legs are nobody's top: what came before them decides what comes after.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from fractions import Fraction
from itertools import groupby

from chapto.clock.timecode import clock_text
from chapto.document.bout import Exchange, Outcome
from chapto.document.bout_rules import PositionSpan
from chapto.document.breakdown import Breakdown
from chapto.document.people import Side
from chapto.lexicon.lexicon import Lexicon
from chapto.matlog.bout_clock import BoutClock
from chapto.matlog.rules import RuleSet
from chapto.matlog.stays import PASSED, Stay, dominations, other_side, seconds_of, settled, stays_of

SCORED_ALONE = ("knee on belly", "mount", "back")
TAKEN_HOLD = ("in-on-the-leg", "standing-back")
"""Standing, but with hold of the other so that coming on top from there is a takedown."""
NEAR_PULL = Fraction(3)
"""Mat seconds round a change within which a logged guard pull or takedown explains it."""


@dataclass(frozen=True)
class Entry:
    """`points` for `side`, earned by mat `start … end`, at the moment `at`; `counts` is False where the rule set does
    not count them (yet). `reason` is a sentence."""

    side: Side
    kind: str
    points: int
    at: Fraction
    start: Fraction
    end: Fraction
    counts: bool
    reason: str


@dataclass(frozen=True)
class Question:
    """What the log leaves open at mat `at`, and points hang on."""

    at: Fraction
    sentence: str


def awards(
    spans: Sequence[PositionSpan], b: Breakdown, lexicon: Lexicon, rules: RuleSet
) -> tuple[tuple[Entry, ...], tuple[Question, ...]]:
    """All entries that are worth something, by time, and all questions."""
    track = _Track(b, lexicon, rules)
    found = [e for e in track.entries(stays_of(spans, lexicon)) if e.points]
    return tuple(sorted(found, key=lambda e: (e.at, e.side, e.kind))), tuple(track.questions)


class _Track:
    """One pass over the stays of a round."""

    def __init__(self, b: Breakdown, lexicon: Lexicon, rules: RuleSet) -> None:
        self._b, self._lexicon, self._rules = b, lexicon, rules
        self._clock = BoutClock(b)
        self._control = Fraction(str(rules.control_seconds))
        self.questions: list[Question] = []

    def entries(self, stays: list[Stay]) -> Iterator[Entry]:
        """What each run of control earned."""
        before: Stay | None = None
        last: Stay | None = None
        scored: set[str] = set()
        for run in dominations(stays):
            yield from self._came_on_top(before, run)
            if last is None or last.side is not run[0].side or not self._unbroken(last, run[0]):
                scored = set()
            yield from self._inside(run, before, scored)
            last = run[-1]
            if before is None or self._settles(run, before):
                before = run[-1]

    def _settles(self, run: Sequence[Stay], before: Stay) -> bool:
        """Whether what comes after a run follows from it, and not from what was `before`."""
        if run[-1].group == "legs":
            return False
        return seconds_of(run) >= self._control or run[0].group == before.group == "standing"

    # ── coming on top ────────────────────────────────────────────────────────────────────────────────────
    def _came_on_top(self, before: Stay | None, run: list[Stay]) -> Iterator[Entry]:
        """A takedown or sweep, or a penalty for pulling guard; a question where the log does not say which."""
        first = run[0]
        if before is None or first.side is None or first.group in ("standing", "legs"):
            return
        side, landed = first.side, settled(run, self._control)
        name = self._name(side, first.start)
        if before.group == "standing":
            held = before.side is side and before.position in TAKEN_HOLD
            pulled = self._explained(first.start, other_side(side), "pull")
            if pulled and not held:
                yield from self._pull(first, other_side(side))
                return
            if not pulled and not held and landed.group == "guard" and not self._taken_down(before, first):
                self.questions.append(
                    Question(first.start, f"{name} is on top from standing: a takedown, or did the other sit?")
                )
                return
            how = f"{name} had the leg when guard was pulled and came up" if pulled else f"{name} took it to the mat"
            kind = "takedown"
            if landed.group == "back" and not self._rules.takedown_to_back:
                return
        elif before.side is other_side(side) and before.group == "guard":
            if landed.group == "back" or (landed.group == "turtle" and not self._rules.sweep_to_turtle):
                return
            kind, how = "sweep", f"{name} swept from guard"
        else:
            return
        if seconds_of(run) >= self._control:
            past = f"{kind} past the guard"
            if landed.group in PASSED and past in self._rules.points:
                kind = past
            yield self._entry(kind, side, first.start, run[-1].end, f"{how}, and kept on top")

    def _taken_down(self, before: Stay, now: Stay) -> bool:
        """Whether the log shows that somebody was brought down: an entry, a takedown, or a scramble on the way."""
        assert now.side is not None
        return now.start > before.end or self._explained(now.start, now.side, "takedown") is not None

    def _explained(self, at: Fraction, side: Side, family: str) -> Exchange | None:
        """A logged exchange of a family by `side` (or by both) at about `at` that was not stopped."""
        for x in self._b.exchanges:
            t = self._lexicon.technique_named(x.technique)
            by = x.by is side or (family == "pull" and x.by is None)
            near = x.start - NEAR_PULL <= at <= x.end + NEAR_PULL
            if t is not None and t.family == family and by and near and x.outcome is not Outcome.STOPPED:
                return x
        return None

    def _pull(self, now: Stay, side: Side) -> Iterator[Entry]:
        """A penalty for the one who pulled guard: the other is on top now. Where both pulled there is none."""
        x = self._explained(now.start, side, "pull")
        if x is None or x.by is None:
            return
        late = self._clock.is_second_half(now.start)
        counts = self._rules.pull_counts == "always" or (self._rules.pull_counts == "second half") == late
        why = f"{self._rules.pull} for pulling guard: {self._name(side, now.start)} sat down at"
        when = clock_text(now.start, tenths=True)
        points = self._rules.pull if counts else 0
        yield Entry(side, "guard pull", points, now.start, now.start, now.end, counts, f"{why} {when}.")

    # ── inside a run ─────────────────────────────────────────────────────────────────────────────────────
    def _unbroken(self, last: Stay, now: Stay) -> bool:
        """Whether control went on from one run to the next without the other really getting out: what is shorter than
        a position has to be held loses nothing."""
        return now.start - last.end < self._control and last.group in PASSED and now.group in PASSED

    def _inside(self, run: list[Stay], before: Stay | None, scored: set[str]) -> Iterator[Entry]:
        """Passes and positions inside one run. `scored` remembers what was scored since control was won."""
        guarded = before is not None and before.group == "guard" and before.side is run[0].side
        for is_passed, part in groupby(run, key=lambda s: s.group in PASSED):
            members = list(part)
            if not is_passed:
                in_guard = sum((s.seconds for s in members if s.group in ("guard", "legs")), Fraction(0))
                if in_guard >= self._control:
                    guarded = members[-1].group == "guard"
                    scored.clear()
                elif members[-1].group == "turtle":
                    # Who turtles to get away from a pass has not been passed.
                    guarded = False
                continue
            yield from self._passed(members, scored, guarded=guarded)
            guarded = False

    def _passed(self, members: list[Stay], scored: set[str], *, guarded: bool) -> Iterator[Entry]:
        side, start, end = members[0].side, members[0].start, members[-1].end
        assert side is not None
        name = self._name(side, start)
        # The back taken straight from the guard is no pass.
        if guarded and members[0].group != "back" and end - start >= self._control:
            yield self._entry("pass", side, start, end, f"{name} passed the guard")
        for group, same in groupby((s for s in members if self._is_held(s)), key=lambda s: s.group):
            stay = list(same)
            a, z = stay[0].start, stay[-1].end
            if group in SCORED_ALONE and group not in scored and z - a >= self._control:
                scored.add(group)
                known = self._lexicon.position(stay[0].position)
                yield self._entry(group, side, a, z, f"{name} reached {known.en if known else group}")

    def _is_held(self, s: Stay) -> bool:
        return self._rules.body_triangle_is_back or s.position != "body-triangle"

    # ── writing down ─────────────────────────────────────────────────────────────────────────────────────
    def _name(self, side: Side, at: Fraction) -> str:
        return self._b.athlete(side, at).name

    def _entry(self, kind: str, side: Side, start: Fraction, end: Fraction, why: str) -> Entry:
        at = start + self._control
        points = self._rules.points.get(kind, 0)
        counts = self._rules.counts_from == "start" or self._clock.is_second_half(at)
        held = f"for {self._rules.control_seconds:g} s from {clock_text(start, tenths=True)}"
        early = "" if counts else "; points do not count before half time"
        return Entry(side, kind, points, at, start, end, counts, f"{points} for {kind}: {why} {held}{early}.")
