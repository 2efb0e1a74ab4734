"""Points worked out from the position track by a rule set, each with its reason and the span that earned it.

Control is followed in runs. While one of the two is on top without a break, that is their *domination*; within it,
what they have passed to is a *passed* run; and knee on belly, mount and back are runs of exactly that. A run counts
when it lasts as long as the rule set's `control_seconds`. Coming up on somebody who turtles is no sweep by itself,
and tangled legs are nobody's top: what came before them decides what comes after.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from fractions import Fraction
from itertools import groupby

from msgspec.structs import replace

from chapto.clock.timecode import clock_text
from chapto.document.bout import Exchange, Round
from chapto.document.bout_rules import PositionSpan, RefereePoints
from chapto.document.breakdown import Breakdown
from chapto.document.people import Side
from chapto.lexicon.lexicon import Lexicon
from chapto.matlog.bout_clock import BoutClock
from chapto.matlog.rules import RuleSet

PASSED = ("passed", "knee on belly", "mount", "back")
SCORED_ALONE = ("knee on belly", "mount", "back")
NEAR_PULL = Fraction(3)
"""Mat seconds round a change within which a logged guard pull explains it."""
SAME_DECISION = Fraction(8)
"""Mat seconds within which a referee's points are for what the ledger found."""


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
class Difference:
    """Where ledger and referee differ, in a sentence."""

    at: Fraction
    sentence: str


@dataclass(frozen=True)
class Ledger:
    """What the log is worth, what the referee gave, and where the two differ. The referee's points decide."""

    derived: tuple[Entry, ...]
    referee: tuple[RefereePoints, ...]
    differences: tuple[Difference, ...]

    def derived_score(self, mat: Fraction | None = None) -> tuple[int, int]:
        """(first, second) by the rules, up to and with `mat` (the whole bout by default)."""
        return _sum((e.side, e.points, e.at) for e in self.derived if e.counts and (mat is None or e.at <= mat))

    def score(self, mat: Fraction | None = None) -> tuple[int, int]:
        """(first, second) as it stands: by the referee's points where any were logged, else by the rules."""
        if not self.referee:
            return self.derived_score(mat)
        return _sum((p.side, p.points, p.at) for p in self.referee if mat is None or p.at <= mat)


def ledger(b: Breakdown, lexicon: Lexicon, rules: RuleSet, within: Round | None = None) -> Ledger:
    """The ledger of one round of `b`, or of the whole track where none is given."""
    spans, given = b.positions, b.ruling.points
    if within is not None:
        spans = tuple(
            replace(p, start=max(p.start, within.start), end=min(p.end, within.end))
            for p in spans
            if p.end > within.start and p.start < within.end
        )
        given = tuple(p for p in given if within.start <= p.at <= within.end)
    found = [e for e in _entries(spans, b, lexicon, rules, BoutClock(b)) if e.points]
    derived = tuple(sorted(found, key=lambda e: (e.at, e.side, e.kind)))
    return Ledger(derived, given, tuple(_differences(derived, given)))


@dataclass(frozen=True)
class _Stay:
    """A stretch in one group of positions with one side on top."""

    start: Fraction
    end: Fraction
    group: str
    side: Side | None
    position: str


def _stays(spans: Sequence[PositionSpan], lexicon: Lexicon) -> list[_Stay]:
    """Spans as stays; unsure stretches and scrambles are left out, but break what they part."""
    stays = []
    for p in spans:
        known = lexicon.position(p.position)
        group = known.group if known else "scramble"
        side = p.top if group not in ("standing", "scramble") or p.position == "in-on-the-leg" else None
        stays.append(_Stay(p.start, p.end, group, side, p.position))
    return stays


def _entries(
    spans: Sequence[PositionSpan], b: Breakdown, lexicon: Lexicon, rules: RuleSet, clock: BoutClock
) -> Iterator[Entry]:
    stays = _stays(spans, lexicon)
    before: _Stay | None = None
    scored: set[str] = set()
    for run in _dominations(stays):
        first = run[0]
        length = run[-1].end - first.start
        name = b.athlete(first.side or Side.SECOND, first.start).name
        kind, why = _gained(before, first, b, lexicon, name)
        if kind == "guard pull":
            yield _pull(first, b, rules, clock)
        elif kind and length >= _hold(rules):
            yield _entry(kind, first.side, first.start, run[-1].end, rules, clock, f"{why}, and kept on top")
        if before is None or before.side is not first.side or not _unbroken(before, first, rules):
            scored = set()
        yield from _within(run, before, scored, rules, clock, lexicon, name)
        # Legs are tangled from guard or top alike: what came before them decides what comes after.
        before = before if run[-1].group == "legs" and before is not None else run[-1]


def _dominations(stays: list[_Stay]) -> Iterator[list[_Stay]]:
    """Runs of stays that touch, each with one side on top throughout; standing and tangled legs stand alone, and a
    scramble is passed over."""
    run: list[_Stay] = []
    for s in stays:
        alone = s.group in ("standing", "scramble", "legs")
        if run and (alone or s.side is not run[-1].side or s.start != run[-1].end):
            yield run
            run = []
        if s.group in ("standing", "legs"):
            yield [s]
        elif s.side is not None and s.group != "scramble":
            run.append(s)
    if run:
        yield run


def _gained(
    before: _Stay | None, now: _Stay, b: Breakdown, lexicon: Lexicon, name: str
) -> tuple[str, str]:  # fmt: skip
    """How somebody came on top: ("takedown", why), ("sweep", why), ("guard pull", "") or ("", "")."""
    if now.side is None or now.group in ("standing", "legs") or before is None:
        return "", ""
    other = Side.SECOND if now.side is Side.FIRST else Side.FIRST
    if before.group == "standing":
        pulled = _pulled(b, lexicon, now.start, other)
        if pulled and not (before.position == "in-on-the-leg" and before.side is now.side):
            return "guard pull", ""
        how = (
            f"{name} had the leg when guard was pulled and came up"
            if pulled
            else f"{name} took it from standing to the mat"
        )
        return "takedown", how
    if before.side is other and before.group == "guard" and now.group != "turtle":
        return "sweep", f"{name} came from the guard to the top"
    return "", ""


def _pulled(b: Breakdown, lexicon: Lexicon, at: Fraction, side: Side) -> Exchange | None:
    """A logged guard pull by `side` at about `at`."""
    for x in b.exchanges:
        t = lexicon.technique_named(x.technique)
        if t is not None and t.family == "pull" and x.by is side and x.start - NEAR_PULL <= at <= x.end + NEAR_PULL:
            return x
    return None


def _unbroken(before: _Stay, now: _Stay, rules: RuleSet) -> bool:
    """Whether control went on from one domination to the next without the other really getting out: a scramble
    shorter than a position has to be held loses nothing."""
    return now.start - before.end < _hold(rules) and before.group in PASSED and now.group in PASSED


def _within(
    run: list[_Stay],
    before: _Stay | None,
    scored: set[str],
    rules: RuleSet,
    clock: BoutClock,
    lexicon: Lexicon,
    name: str,
) -> Iterator[Entry]:
    """Passes and positions inside one domination. `scored` remembers what was scored since control was won."""
    stays = [(s.group if s.group in PASSED else "other", s) for s in run]
    last_guard = before is not None and before.group == "guard" and before.side is run[0].side
    for is_passed, part in groupby(stays, key=lambda x: x[0] in PASSED):
        members = [s for _, s in part]
        if not is_passed:
            last_guard = members[-1].group == "guard"
            if any(s.group in ("guard", "legs") for s in members):
                scored.clear()
            continue
        start, end = members[0].start, members[-1].end
        if last_guard and end - start >= _hold(rules):
            yield _entry("pass", members[0].side, start, end, rules, clock, f"{name} passed the guard")
        last_guard = False
        for group, same in groupby(members, key=lambda s: s.group):
            stay = list(same)
            a, z = stay[0].start, stay[-1].end
            if group in SCORED_ALONE and group not in scored and z - a >= _hold(rules):
                scored.add(group)
                known = lexicon.position(stay[0].position)
                yield _entry(group, stay[0].side, a, z, rules, clock, f"{name} reached {known.en if known else group}")


def _hold(rules: RuleSet) -> Fraction:
    return Fraction(str(rules.control_seconds))


def _entry(
    kind: str, side: Side | None, start: Fraction, end: Fraction, rules: RuleSet, clock: BoutClock, why: str
) -> Entry:  # fmt: skip
    assert side is not None
    at = start + _hold(rules)
    points = rules.points.get(kind, 0)
    counts = rules.counts_from == "start" or clock.is_second_half(at)
    held = f"for {rules.control_seconds:g} s from {clock_text(start, tenths=True)}"
    early = "" if counts else "; points do not count before half time"
    return Entry(side, kind, points, at, start, end, counts, f"{points} for {kind}: {why} {held}{early}.")


def _pull(now: _Stay, b: Breakdown, rules: RuleSet, clock: BoutClock) -> Entry:
    """A penalty for the one who pulled guard: the other is on top now."""
    side = Side.SECOND if now.side is Side.FIRST else Side.FIRST
    name = b.athlete(side, now.start).name
    late = clock.is_second_half(now.start)
    counts = rules.pull_counts == "always" or (rules.pull_counts == "second half") == late
    points = rules.pull if counts else 0
    when = clock_text(now.start, tenths=True)
    return Entry(
        side,
        "guard pull",
        points,
        now.start,
        now.start,
        now.end,
        counts,
        f"{points} for pulling guard: {name} sat down at {when}.",
    )


def _differences(derived: tuple[Entry, ...], given: tuple[RefereePoints, ...]) -> Iterator[Difference]:
    """What only one of the two has; nothing where the referee's points were not logged at all."""
    if not given:
        return
    left = list(given)
    for e in (x for x in derived if x.counts):
        same = [p for p in left if p.side is e.side and p.points == e.points and abs(p.at - e.at) <= SAME_DECISION]
        if same:
            left.remove(min(same, key=lambda p: abs(p.at - e.at)))
        else:
            yield Difference(
                e.at, f"The log gives {e.reason[0].lower()}{e.reason[1:-1]}, the referee gave nothing like it."
            )
    for p in left:
        yield Difference(
            p.at, f"The referee gave {p.points} at {clock_text(p.at, tenths=True)}, the log does not show why."
        )


def _sum(rows: Iterator[tuple[Side, int, Fraction]]) -> tuple[int, int]:
    first = second = 0
    for side, points, _ in rows:
        if side is Side.FIRST:
            first += points
        else:
            second += points
    return first, second
