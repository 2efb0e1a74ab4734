"""The position track as who was on top of what: stays, and the runs in which one of the two dominates."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass
from fractions import Fraction

from chapto.document.bout_rules import PositionSpan
from chapto.document.people import Side
from chapto.lexicon.lexicon import Lexicon

PASSED = ("passed", "knee on belly", "mount", "back")
"""Groups of positions beyond the guard."""


@dataclass(frozen=True)
class Stay:
    """Mat seconds `start ≤ t < end` in one group of positions with one side on top (None: nobody)."""

    start: Fraction
    end: Fraction
    group: str
    side: Side | None
    position: str

    @property
    def seconds(self) -> Fraction:
        """How long it lasts."""
        return self.end - self.start


def other_side(side: Side) -> Side:
    """The one who is not `side`."""
    return Side.SECOND if side is Side.FIRST else Side.FIRST


def stays_of(spans: Sequence[PositionSpan], lexicon: Lexicon) -> list[Stay]:
    """Spans as stays. Nobody is on top standing, but for one who has hold of the other; nor in a scramble."""
    stays = []
    for p in spans:
        known = lexicon.position(p.position)
        group = known.group if known else "scramble"
        held = group == "standing" and known is not None and known.control == "top"
        side = p.top if group not in ("standing", "scramble") or held else None
        stays.append(Stay(p.start, p.end, group, side, p.position))
    return stays


def dominations(stays: Iterable[Stay]) -> Iterator[list[Stay]]:
    """Runs of stays that touch, each with one side on top throughout.

    Standing and tangled legs stand alone. A scramble is passed over, but parts what it lies between.
    """
    run: list[Stay] = []
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


def seconds_of(run: Sequence[Stay]) -> Fraction:
    """How long a run lasts."""
    return run[-1].end - run[0].start


def settled(run: Sequence[Stay], control: Fraction) -> Stay:
    """What a run settles in: its first stay of `control` seconds or more, with those of the same group counted
    together; the last one where there is none."""
    for i, s in enumerate(run):
        together = [t for t in run[i:] if t.group == s.group] if s.group in PASSED else [s]
        if sum((t.seconds for t in together), Fraction(0)) >= control:
            return s
    return run[-1]
