"""The mat clock with stretches cut out, and which idle stretches of an exchange may be cut."""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from dataclasses import replace
from fractions import Fraction

from chapto.clock.passage import STILL, Kind
from chapto.pacing.fitted import FitExchange, Leg

Span = tuple[Fraction, Fraction]
ROUND_A_MOMENT = Fraction(1)
"""Mat seconds kept before and after a moment that something is tied to."""
WORTH_SKIPPING = Fraction(1)


class ShortClock:
    """The mat clock from `start` on with stretches cut out; short seconds equal mat seconds until the first cut."""

    def __init__(self, cuts: Iterable[Span]) -> None:
        self.cuts = tuple(sorted(cuts))

    def short(self, mat: Fraction) -> Fraction:
        """The short time of `mat`; all of a cut lies at one short time."""
        return mat - sum((min(mat, end) - start for start, end in self.cuts if start < mat), Fraction(0))

    def long(self, short: Fraction) -> Fraction:
        """The mat time of a short time; at a cut, the time after it."""
        gone = Fraction(0)
        for start, end in self.cuts:
            if short < start - gone:
                break
            gone += end - start
        return short + gone

    def legs(self, leg: Leg) -> Iterator[Leg]:
        """A leg on the short clock as legs on the mat clock: one more for each cut it runs over."""
        if leg.kind is Kind.CUTAWAY:
            yield leg
            return
        if leg.kind in STILL:
            yield replace(leg, mat_in=self.long(leg.mat_in))
            return
        at, left = leg.mat_in, leg.seconds * leg.rate
        while left > 0:
            mat = self.long(at)
            room = min((start - mat for start, _ in self.cuts if start > mat), default=left)
            part = min(room, left)
            yield replace(leg, mat_in=mat, seconds=part / leg.rate)
            at, left = at + part, left - part


def idle_in(exchange: FitExchange, idle: Iterable[Span], gone: Iterable[Span] = ()) -> tuple[Span, ...]:
    """Idle stretches inside the exchange, in order and apart, without what lies round the moments its beats need and
    without what is `gone` already."""
    needed = [s.mat for b in exchange.beats for s in b.stops]
    needed += [b.hold_at for b in exchange.beats if b.hold_at is not None]
    joined: list[Span] = []
    for start, end in sorted((max(a, exchange.start), min(z, exchange.end)) for a, z in idle):
        if joined and start <= joined[-1][1]:
            joined[-1] = (joined[-1][0], max(end, joined[-1][1]))
        elif start < end:
            joined.append((start, end))
    for low, high in [*((mat - ROUND_A_MOMENT, mat + ROUND_A_MOMENT) for mat in needed), *gone]:
        joined = [part for a, z in joined for part in ((a, min(z, low)), (max(a, high), z)) if part[0] < part[1]]
    return tuple((a, z) for a, z in joined if z - a >= WORTH_SKIPPING)
