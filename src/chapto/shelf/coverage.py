"""What is covered and what is not yet: positions, and the ways between them, as the logs show them."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, field

from chapto.document.bout import Outcome
from chapto.lexicon.lexicon import Lexicon
from chapto.matlog.flow import GROUPS
from chapto.shelf.database import Database

_ONCE_STAY = "SELECT position, max(seconds) AS seconds, max(explained) AS told FROM stay GROUP BY position, same"
_ONCE_STEP = (
    'SELECT start, "end", max(outcome) AS outcome, max(explained) AS told FROM step GROUP BY start, "end", same'
)
_ONCE_PLACE = (
    "SELECT technique, max(outcome) AS outcome, max(explained > 0) AS told FROM place WHERE technique <> '' "
    "GROUP BY technique, same"
)
_ENDED = "sum(outcome = ?), sum(outcome = ?), sum(outcome = ?)"
# What several breakdowns show of one bout was seen once.

OFTEN = 3
"""Times that something was seen from which it is a gap that it was never explained."""


@dataclass(frozen=True)
class Ended:
    """How often the exchanges on a way landed, were stopped, or half landed; the rest was no exchange."""

    landed: int = 0
    stopped: int = 0
    half: int = 0


@dataclass(frozen=True)
class Node:
    """A position: how often somebody was in it, and seconds in all. So many of those stays were in what was
    `explained`; so many `techniques` of the lexicon begin there."""

    id: str
    name: str
    group: str
    seen: int = 0
    seconds: float = 0.0
    explained: int = 0
    techniques: int = 0

    @property
    def is_gap(self) -> bool:
        """Seen often and never explained; or never seen though techniques begin there."""
        return (self.seen >= OFTEN and not self.explained) or (not self.seen and self.techniques > 0)


@dataclass(frozen=True)
class Way:
    """From one position to another: how often, how often of that in what was explained, and how it ended."""

    start: str
    end: str
    seen: int
    explained: int
    ended: Ended = field(default=Ended())

    @property
    def is_gap(self) -> bool:
        """Seen often and never explained."""
        return self.seen >= OFTEN and not self.explained


@dataclass(frozen=True)
class Tried:
    """A technique: how often it was tried, how often that was explained, and how it ended."""

    id: str
    name: str
    family: str
    seen: int
    explained: int
    ended: Ended


@dataclass(frozen=True)
class Coverage:
    """All of it; the ways most seen first, techniques most tried first."""

    nodes: tuple[Node, ...]
    ways: tuple[Way, ...]
    techniques: tuple[Tried, ...]
    breakdowns: int

    def gaps(self) -> tuple[str, ...]:
        """What stands out as not covered, a sentence each, the most seen first."""
        names = {n.id: n.name for n in self.nodes}
        rows = [
            (t.seen, f"{t.name} was tried {t.seen} times and never explained.")
            for t in self.techniques
            if t.seen >= OFTEN and not t.explained
        ]
        rows += [
            (w.seen, f"From {names[w.start]} to {names[w.end]} was seen {w.seen} times and never explained.")
            for w in self.ways
            if w.is_gap and w.start in names and w.end in names
        ]
        rows += [
            (n.seen, f"{n.name.capitalize()} was seen {n.seen} times and never explained.")
            for n in self.nodes
            if n.seen and n.is_gap
        ]
        return tuple(text for _, text in sorted(rows, key=lambda r: -r[0]))


def coverage(database: Database, lexicon: Lexicon) -> Coverage:
    """What is covered on one shelf. Scrambles are passed over; who is on top is not asked."""
    return Coverage(
        nodes=tuple(_nodes(database, lexicon)),
        ways=tuple(_ways(database, lexicon)),
        techniques=tuple(_techniques(database, lexicon)),
        breakdowns=int(database.rows("SELECT count(*) FROM breakdown WHERE state = 'here'")[0][0]),
    )


def _nodes(database: Database, lexicon: Lexicon) -> Iterator[Node]:
    seen = {
        r[0]: r[1:]
        for r in map(
            tuple, database.rows(f"SELECT position, count(*), sum(seconds), sum(told) FROM ({_ONCE_STAY}) GROUP BY 1")
        )
    }
    begins: dict[str, int] = {}
    for t in lexicon.techniques.values():
        for start in t.start:
            begins[start] = begins.get(start, 0) + 1
    order = {group: i for i, group in enumerate(GROUPS)}
    for p in sorted(lexicon.positions.values(), key=lambda p: (order.get(p.group, len(order)), p.level)):
        if p.group in order:
            count, seconds, explained = seen.get(p.id, (0, 0.0, 0))
            yield Node(p.id, p.en, p.group, count, float(seconds), explained, begins.get(p.id, 0))


def _ways(database: Database, lexicon: Lexicon) -> Iterator[Way]:
    rows = database.rows(
        f'SELECT start, "end", count(*), sum(told), {_ENDED} FROM ({_ONCE_STEP}) '
        "GROUP BY 1, 2 ORDER BY 3 DESC, 1, 2",
        Outcome.LANDED.value, Outcome.STOPPED.value, Outcome.HALF.value,
    )  # fmt: skip
    for start, end, seen, explained, *ended in map(tuple, rows):
        groups = [p.group if (p := lexicon.position(x)) is not None else "" for x in (start, end)]
        if all(g in GROUPS for g in groups):
            yield Way(start, end, seen, explained, Ended(*ended))


def _techniques(database: Database, lexicon: Lexicon) -> Iterator[Tried]:
    rows = database.rows(
        f"SELECT technique, count(*), sum(told), {_ENDED} FROM ({_ONCE_PLACE}) "
        "GROUP BY 1 ORDER BY 2 DESC, 1",
        Outcome.LANDED.value, Outcome.STOPPED.value, Outcome.HALF.value,
    )  # fmt: skip
    for technique, seen, explained, *ended in map(tuple, rows):
        known = lexicon.techniques.get(technique)
        if known is not None:
            yield Tried(technique, known.en, known.family, seen, explained, Ended(*ended))
