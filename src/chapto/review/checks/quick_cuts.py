"""Cuts so near to each other that nobody sees what was between them."""

from __future__ import annotations

from collections.abc import Iterator
from itertools import pairwise

from chapto.clock.passage import Passage
from chapto.review.finding import Finding, Reviewed, Weight, Where

SAME = 0.2
"""Mat seconds by which a picture may be elsewhere and still go on."""


def find(r: Reviewed) -> Iterator[Finding]:
    """Two cuts within the limit."""
    limit = r.limits["cuts-apart"]
    cuts = [b.watch_in for a, b in pairwise(r.programme.passages) if _is_cut(a, b)]
    for one, other in pairwise(cuts):
        apart = r.seconds(other) - r.seconds(one)
        if apart < limit.value:
            sentence = f"Two cuts come within {limit.said(apart)}."
            yield Finding(Weight.MAY, sentence, Where(r.seconds(one)), limit.said(apart), limit)


def _is_cut(one: Passage, other: Passage) -> bool:
    return one.footage != other.footage or abs(one.mat_out - other.mat_in) > SAME
