"""Seeing the exchange clean: once at full speed before the talk, or once more after it."""

from __future__ import annotations

from dataclasses import replace
from fractions import Fraction

from chapto.clock.passage import Kind
from chapto.pacing.fitted import FitExchange, Fitted, Leg


def shown_around(
    fitted: Fitted, exchange: FitExchange, *, first: str | None = None, once_more: str | None = None
) -> Fitted:
    """`fitted` with the whole exchange at full speed and without words before it, after it, or both: each as the camera
    of that name saw it, or the angle track's where the name is empty; None leaves it out."""
    length = exchange.end - exchange.start
    if first is not None:
        clean = Leg(Kind.RUN, exchange.start, Fraction(1), length, camera=first)
        fitted = replace(
            fitted,
            legs=(clean, *fitted.legs),
            phrases=tuple(replace(p, at=p.at + length) for p in fitted.phrases),
            ties=tuple(
                replace(t, said=t.said + length, shown=None if t.shown is None else t.shown + length)
                for t in fitted.ties
            ),
            insets=tuple(replace(i, at=i.at + length) for i in fitted.insets),
            seconds=fitted.seconds + length,
        )
    if once_more is not None:
        clean = Leg(Kind.AGAIN, exchange.start, Fraction(1), length, camera=once_more)
        fitted = replace(fitted, legs=(*fitted.legs, clean), seconds=fitted.seconds + length)
    return fitted
