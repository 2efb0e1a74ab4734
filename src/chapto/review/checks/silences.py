"""Stretches in which nobody speaks for too long."""

from __future__ import annotations

from collections.abc import Iterator
from itertools import pairwise

from chapto.clock.passage import STILL
from chapto.review.finding import Finding, Reviewed, Weight, Where


def find(r: Reviewed) -> Iterator[Finding]:
    """Silences between two words; it weighs more where the picture stands meanwhile."""
    limit = r.limits["silence-longest"]
    for one, other in pairwise(r.programme.words):
        silent = other.start - one.end
        if silent <= limit.value:
            continue
        stands = any(
            p.kind in STILL and r.seconds(p.watch_in) < other.start and r.seconds(p.watch_out) > one.end
            for p in r.programme.passages
        )
        sentence = f"Nobody speaks for {limit.said(silent)} after “{one.text}”."
        weight = Weight.SHOULD if stands else Weight.MAY
        yield Finding(weight, sentence, Where(one.end, one.beat, one.word), limit.said(silent), limit)
