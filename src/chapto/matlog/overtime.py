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
    """Overtime as it stands (common practice): a finish that the other does not answer in their own turn decides;
    else the longer riding time, which is the other's shorter escape. Only complete pairs of turns decide."""
    riding, finishes = {Side.FIRST: ZERO, Side.SECOND: ZERO}, {Side.FIRST: 0, Side.SECOND: 0}
    counts = {side: sum(t.attacker is side for t in turns) for side in Side}
    for t in turns:
        riding[t.attacker] += t.end - t.start
        finishes[t.attacker] += t.finished
    if not turns:
        return Overtime(riding, finishes, None, "No turn was logged.")
    if counts[Side.FIRST] != counts[Side.SECOND]:
        return Overtime(riding, finishes, None, "The other's turn is still to come.")
    if finishes[Side.FIRST] != finishes[Side.SECOND]:
        ahead = max(Side, key=lambda s: finishes[s])
        return Overtime(riding, finishes, ahead, "A finish that was not answered decides.")
    if riding[Side.FIRST] == riding[Side.SECOND]:
        return Overtime(riding, finishes, None, "Both rode equally long.")
    # Whoever finishes sooner is ahead when both did; otherwise whoever rode longer.
    both_finished = finishes[Side.FIRST] > 0
    ahead = (min if both_finished else max)(Side, key=lambda s: riding[s])
    what = "The quicker finish decides." if both_finished else "Riding time decides."
    return Overtime(riding, finishes, ahead, what)
