"""What a bout is worth: the log's own points by a rule set, the referee's word, and where the two differ.

The log's points stand. The referee's word wins where it contradicts them: other points for the same side at the same
moment, or none at all. What only the referee gave counts as well. The difference is always said.
"""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from dataclasses import dataclass
from fractions import Fraction

from msgspec.structs import replace

from chapto.clock.timecode import clock_text
from chapto.document.bout import Round
from chapto.document.bout_rules import CallKind, RefereeCall
from chapto.document.breakdown import Breakdown
from chapto.document.people import Side
from chapto.lexicon.lexicon import Lexicon
from chapto.matlog.awards import Entry, Question, awards
from chapto.matlog.penalties import Consequence, consequences
from chapto.matlog.rules import RuleSet

SAME_DECISION = Fraction(8)
"""Mat seconds within which a referee's points are for what the ledger found (common practice)."""


@dataclass(frozen=True)
class Difference:
    """Where ledger and referee differ, in a sentence."""

    at: Fraction
    sentence: str


@dataclass(frozen=True)
class Ledger:
    """What the log is worth, what the referee called, what follows from penalties, where log and referee differ, and
    what the log leaves open."""

    derived: tuple[Entry, ...]
    referee: tuple[RefereeCall, ...]
    differences: tuple[Difference, ...]
    questions: tuple[Question, ...]
    consequences: tuple[Consequence, ...]
    _overruled: frozenset[int]

    def derived_score(self, mat: Fraction | None = None) -> tuple[int, int]:
        """(first, second) by the rules alone, up to and with `mat` (the whole bout by default)."""
        return _sum((e.side, e.points, e.at) for e in self.derived if e.counts and _by(e.at, mat))

    def score(self, mat: Fraction | None = None) -> tuple[int, int]:
        """(first, second) as it stands: the log's points but where the referee contradicts them, and his own."""
        return _sum(row for row in self.standing() if _by(row[2], mat))

    def standing(self) -> tuple[tuple[Side, int, Fraction], ...]:
        """All points that stand, as (side, points, mat)."""
        own = ((e.side, e.points, e.at) for i, e in enumerate(self.derived) if e.counts and i not in self._overruled)
        given = ((c.side, c.points, c.at) for c in self.referee if c.kind is CallKind.POINTS)
        follows = ((c.side, c.points, c.at) for c in self.consequences)
        return tuple(sorted((row for row in (*own, *given, *follows) if row[1]), key=lambda row: row[2]))

    def advantages(self, mat: Fraction | None = None) -> tuple[int, int]:
        """(first, second): advantages called, and those that follow from penalties of the other."""
        called = ((c.side, 1, c.at) for c in self.referee if c.kind is CallKind.ADVANTAGE)
        follows = ((c.side, c.advantages, c.at) for c in self.consequences)
        return _sum(row for row in (*called, *follows) if _by(row[2], mat))

    def count(self, kind: CallKind, mat: Fraction | None = None) -> tuple[int, int]:
        """(first, second): how many calls of one kind."""
        return _sum((c.side, 1, c.at) for c in self.referee if c.kind is kind and _by(c.at, mat))


def ledger(b: Breakdown, lexicon: Lexicon, rules: RuleSet, within: Round | None = None) -> Ledger:
    """The ledger of one round of `b`, or of the whole track where none is given."""
    spans, given = b.positions, b.ruling.points
    if within is not None:
        spans = tuple(
            replace(p, start=max(p.start, within.start), end=min(p.end, within.end))
            for p in spans
            if p.end > within.start and p.start < within.end
        )
        given = tuple(c for c in given if within.start <= c.at <= within.end)
    derived, questions = awards(spans, b, lexicon, rules)
    differences, overruled = _compared(derived, given)
    return Ledger(derived, given, differences, questions, consequences(given, rules), overruled)


def _compared(
    derived: tuple[Entry, ...], given: tuple[RefereeCall, ...]
) -> tuple[tuple[Difference, ...], frozenset[int]]:
    """Where the two differ, and the numbers of the entries that the referee's points stand in the place of."""
    left = [c for c in given if c.kind is CallKind.POINTS]
    if not left:
        return (), frozenset()
    found: list[Difference] = []
    overruled: set[int] = set()
    open_entries = [(i, e) for i, e in enumerate(derived) if e.counts]
    for exact in (True, False):
        for i, e in list(open_entries):
            near = [c for c in left if c.side is e.side and abs(c.at - e.at) <= SAME_DECISION and _may_be(c, e, exact)]
            if not near:
                continue
            call = min(near, key=lambda c: abs(c.at - e.at))
            left.remove(call)
            open_entries.remove((i, e))
            overruled.add(i)
            if not exact:
                found.append(Difference(e.at, f"The referee gave {call.points}; the log has {_small(e.reason)}."))
    found += [
        Difference(e.at, f"The log has {_small(e.reason)}; the referee gave nothing like it.") for _, e in open_entries
    ]
    found += [
        Difference(c.at, f"The referee gave {c.points} at {clock_text(c.at, tenths=True)}; the log does not show why.")
        for c in left
        if c.points
    ]
    return tuple(sorted(found, key=lambda d: d.at)), frozenset(overruled)


def _may_be(call: RefereeCall, entry: Entry, exact: bool) -> bool:
    """Whether a call is for what an entry says: of the same points, or (not `exact`) instead of them. A penalty is
    never instead of points."""
    if exact:
        return call.points == entry.points
    return (call.points >= 0) == (entry.points >= 0)


def _small(reason: str) -> str:
    return reason[:1].lower() + reason[1:-1]


def _by(at: Fraction, mat: Fraction | None) -> bool:
    return mat is None or at <= mat


def _sum(rows: Iterable[tuple[Side, int, Fraction]] | Iterator[tuple[Side, int, Fraction]]) -> tuple[int, int]:
    first = second = 0
    for side, points, _ in rows:
        if side is Side.FIRST:
            first += points
        else:
            second += points
    return first, second
