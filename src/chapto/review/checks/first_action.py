"""A beginning in which nothing moves for too long."""

from __future__ import annotations

from collections.abc import Iterator
from fractions import Fraction

from chapto.clock.passage import STILL
from chapto.review.finding import Finding, Weight, Where
from chapto.review.reviewed import Reviewed


def find(r: Reviewed) -> Iterator[Finding]:
    """Where the first moving picture comes late, or never."""
    limit = r.limits["action-latest"]
    if not r.programme.frames:
        return
    first = r.seconds(next((p.watch_in for p in r.programme.passages if p.kind not in STILL), r.programme.frames))
    if first > limit.value:
        sentence = f"The first action comes after {limit.said(first)}; many have left by then."
        beat = next((w.beat for w in r.programme.words), "")
        yield Finding(Weight.SHOULD, sentence, Where(Fraction(0), beat), "", first, limit)
