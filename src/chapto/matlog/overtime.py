"""Overtime by turns from a set position: who finished, who escaped sooner, who rode longer."""

from __future__ import annotations

from dataclasses import dataclass
from fractions import Fraction

from chapto.document.bout_rules import OvertimeTurn
from chapto.document.people import Side

ZERO = Fraction(0)


@dataclass(frozen=True)
class Overtime:
    """Seconds each rode (held the other) in all their turns, their finishes, and who is ahead (None: nobody)."""

    riding: dict[Side, Fraction]
    finishes: dict[Side, int]
    ahead: Side | None
    sentence: str


def overtime(turns: tuple[OvertimeTurn, ...]) -> Overtime:
    """Overtime as it stands (common practice). Turns go in pairs, one of each side, and a pair decides at once.

    In a pair, a finish that the other does not answer decides; of two finishes the quicker one. Where no pair decides,
    the longer riding time of all complete pairs does, which is the other's shorter escape.
    """
    riding, finishes = {Side.FIRST: ZERO, Side.SECOND: ZERO}, {Side.FIRST: 0, Side.SECOND: 0}
    for t in turns:
        riding[t.attacker] += t.end - t.start
        finishes[t.attacker] += t.finished
    if not turns:
        return Overtime(riding, finishes, None, "No turn was logged.")
    pairs = _pairs(turns)
    for pair in pairs:
        done = {side: t for side, t in pair.items() if t.finished}
        if len(pair) == 2 and len(done) == 1:
            return Overtime(riding, finishes, next(iter(done)), "A finish that was not answered decides.")
        took = {side: t.end - t.start for side, t in done.items()}
        if len(done) == 2 and took[Side.FIRST] != took[Side.SECOND]:
            quicker = min(took, key=lambda side: took[side])
            return Overtime(riding, finishes, quicker, "The quicker finish of the two decides.")
    if len(pairs[-1]) < 2:
        return Overtime(riding, finishes, None, "The other's turn is still to come.")
    if riding[Side.FIRST] == riding[Side.SECOND]:
        return Overtime(riding, finishes, None, "Both rode equally long.")
    return Overtime(riding, finishes, max(Side, key=lambda s: riding[s]), "Riding time decides.")


def _pairs(turns: tuple[OvertimeTurn, ...]) -> list[dict[Side, OvertimeTurn]]:
    """Turns in pairs, in order; one side's further turn begins the next pair."""
    pairs: list[dict[Side, OvertimeTurn]] = []
    for t in sorted(turns, key=lambda t: t.start):
        if not pairs or t.attacker in pairs[-1] or len(pairs[-1]) == 2:
            pairs.append({})
        pairs[-1][t.attacker] = t
    return pairs
