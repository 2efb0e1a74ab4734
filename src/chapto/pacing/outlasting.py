"""Words that outlast their exchange: the picture must not run into the next one unsaid."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from fractions import Fraction

from chapto.clock.passage import Kind
from chapto.pacing import shortfalls
from chapto.pacing.fitted import FitExchange, Leg, Phrase, Shortfall

GIVEN = Fraction(1, 2)
"""Mat seconds past the end that nobody minds: a moment at the very end is seen for as long."""
RUNS = (Kind.RUN, Kind.SLOW)


def outlasting(exchange: FitExchange, legs: Sequence[Leg], phrases: Sequence[Phrase]) -> Iterator[Shortfall]:
    """What of an exchange runs past its end into what comes after; at most one shortfall, at the first word said over
    it."""
    if exchange.room is None or not exchange.beats:
        return
    last = exchange.end + max(exchange.room, GIVEN)
    at, first, seconds = Fraction(0), None, Fraction(0)
    for leg in legs:
        if leg.kind in RUNS:
            past = min(leg.mat_in + leg.rate * leg.seconds - last, leg.rate * leg.seconds)
            if past > 0:
                seconds += past / leg.rate
                first = at + leg.seconds - past / leg.rate if first is None else first
        at += leg.seconds
    if first is None or seconds < GIVEN:
        return
    beat, word = _said(exchange, phrases, first)
    yield shortfalls.outlasted(beat, word, seconds)


def _said(exchange: FitExchange, phrases: Sequence[Phrase], at: Fraction) -> tuple[str, int]:
    """The beat that is said at a watch second, and the first word of what is said in one go there."""
    here = [p for p in phrases if p.at <= at]
    return (here[-1].beat, here[-1].first) if here else (exchange.beats[0].id, 0)
