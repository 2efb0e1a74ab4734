"""A beginning in which nothing moves for too long."""

from __future__ import annotations

from collections.abc import Iterator
from fractions import Fraction

from chapto.clock.passage import STILL
from chapto.review.finding import Finding, Reviewed, Weight, Where


def find(r: Reviewed) -> Iterator[Finding]:
    """Where the first moving picture comes late, or never."""
    limit = r.limits["action-latest"]
    if not r.programme.frames:
        return
    first = next((p.watch_in for p in r.programme.passages if p.kind not in STILL), r.programme.frames)
    if r.seconds(first) > limit.value:
        sentence = f"The first action comes after {limit.said(r.seconds(first))}; many have left by then."
        yield Finding(Weight.SHOULD, sentence, Where(Fraction(0)), limit.said(r.seconds(first)), limit)
