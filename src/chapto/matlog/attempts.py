"""Who tried what, how it ended, how soon it was answered, and where nothing changed for long."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from fractions import Fraction
from itertools import pairwise

import numpy as np

from chapto.document.bout import Exchange, MomentKind, Outcome, Round
from chapto.document.breakdown import Breakdown
from chapto.document.people import Side
from chapto.lexicon.lexicon import Lexicon

ANSWERS = (MomentKind.FRAME, MomentKind.BASE)
"""Kinds of moment that can be the answer to an attack."""


@dataclass(frozen=True)
class Tries:
    """All tries of one technique by one side: exchange ids by outcome (None: not said)."""

    side: Side
    technique: str
    by_outcome: dict[Outcome | None, tuple[str, ...]]

    @property
    def count(self) -> int:
        """How many tries."""
        return sum(len(x) for x in self.by_outcome.values())


@dataclass(frozen=True)
class Answer:
    """Seconds from the begin of an exchange to the moment that answered it."""

    exchange: str
    moment: str
    at: Fraction
    seconds: Fraction


@dataclass(frozen=True)
class Stall:
    """A stretch in which nothing was logged to change."""

    start: Fraction
    end: Fraction


def inside(b: Breakdown, within: Round) -> tuple[Exchange, ...]:
    """Exchanges that begin in a round."""
    return tuple(x for x in b.exchanges if within.start <= x.start < within.end)


def tries(b: Breakdown, lexicon: Lexicon, within: Round) -> tuple[Tries, ...]:
    """Tries by side and technique, most tried first. Names of one technique are one."""
    found: dict[tuple[Side, str], dict[Outcome | None, list[str]]] = {}
    for x in inside(b, within):
        if x.by is None or not x.technique:
            continue
        known = lexicon.technique_named(x.technique)
        name = known.en if known else x.technique
        found.setdefault((x.by, name), {}).setdefault(x.outcome, []).append(x.id)
    rows = [Tries(side, name, {k: tuple(v) for k, v in rows.items()}) for (side, name), rows in found.items()]
    return tuple(sorted(rows, key=lambda t: (-t.count, t.side, t.technique)))


def answers(b: Breakdown, within: Round) -> tuple[Answer, ...]:
    """The first answering moment of each exchange that has one."""
    found = []
    for x in inside(b, within):
        moment = next((m for m in b.moments if x.start < m.at < x.end and m.kind in ANSWERS), None)
        if moment is not None:
            found.append(Answer(x.id, moment.id, moment.at, moment.at - x.start))
    return tuple(found)


def trend(found: Iterable[Answer]) -> float | None:
    """Seconds by which answers grew slower a minute of mat time (least squares); None for fewer than three."""
    rows = [(float(a.at) / 60, float(a.seconds)) for a in found]
    if len(rows) < 3:
        return None
    minutes, seconds = np.array(rows).T
    return float(np.polyfit(minutes, seconds, 1)[0])


def stalls(b: Breakdown, within: Round, *, most: int = 3) -> tuple[Stall, ...]:
    """The longest stretches of a round without a change of position, an exchange or a moment."""
    marks = {within.start, within.end}
    marks |= {edge for p in b.positions for edge in (p.start, p.end)}
    marks |= {edge for x in b.exchanges for edge in (x.start, x.end)} | {m.at for m in b.moments}
    busy = [(x.start, x.end) for x in b.exchanges]
    places = sorted(m for m in marks if within.start <= m <= within.end)
    quiet = [Stall(a, z) for a, z in pairwise(places) if not any(s <= a and z <= e for s, e in busy)]
    return tuple(sorted(quiet, key=lambda s: s.start - s.end)[:most])
