"""How long each had control, by position; how long nobody had; how long it is unsure."""

from __future__ import annotations

from dataclasses import dataclass, field
from fractions import Fraction

from chapto.document.bout import Round
from chapto.document.breakdown import Breakdown
from chapto.document.people import Side
from chapto.lexicon.lexicon import Lexicon

ZERO = Fraction(0)


@dataclass(frozen=True)
class ControlTimes:
    """Mat seconds. `held[side][position]` is control; everything together is the round's length."""

    held: dict[Side, dict[str, Fraction]] = field(default_factory=dict)
    neutral: Fraction = ZERO
    unsure: Fraction = ZERO

    def total(self, side: Side) -> Fraction:
        """All control of one side."""
        return sum(self.held.get(side, {}).values(), ZERO)


def controller(position: str, top: Side | None, lexicon: Lexicon) -> tuple[Side | None, int]:
    """Who controls in a position, and how dominant it is (0 to 10); nobody where neither does."""
    known = lexicon.position(position)
    if known is None or top is None or known.control == "none":
        return None, 0
    other = Side.SECOND if top is Side.FIRST else Side.FIRST
    return (top if known.control == "top" else other), known.level


def control_times(b: Breakdown, lexicon: Lexicon, span: Round) -> ControlTimes:
    """Control inside a round."""
    held: dict[Side, dict[str, Fraction]] = {Side.FIRST: {}, Side.SECOND: {}}
    neutral = known = ZERO
    for p in b.positions:
        length = min(p.end, span.end) - max(p.start, span.start)
        if length <= 0:
            continue
        known += length
        side, _ = controller(p.position, p.top, lexicon)
        if side is None:
            neutral += length
        else:
            held[side][p.position] = held[side].get(p.position, ZERO) + length
    return ControlTimes(held, neutral, span.end - span.start - known)
