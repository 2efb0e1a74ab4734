"""Cuts so near to each other that nobody sees what was between them."""

from __future__ import annotations

from collections.abc import Iterator
from itertools import pairwise

from chapto.clock.passage import Passage
from chapto.review.finding import Finding, Weight, Where
from chapto.review.reviewed import Reviewed

SAME = 0.2
"""Mat seconds by which a picture may be elsewhere and still go on."""


def find(r: Reviewed) -> Iterator[Finding]:
    """Two cuts within the limit."""
    limit = r.limits["cuts-apart"]
    cuts = [b.watch_in for a, b in pairwise(r.programme.passages) if is_cut(a, b)]
    for one, other in pairwise(cuts):
        apart = r.seconds(other - one)
        if apart < limit.value:
            said = next((w for w in r.programme.words if w.end > r.seconds(one)), None)
            where = Where(r.seconds(one), said.beat if said else "", said.word if said else 0)
            yield Finding(Weight.MAY, f"Two cuts come within {limit.said(apart)}.", where, "", apart, limit)


def is_cut(one: Passage, other: Passage) -> bool:
    """Whether the picture is another from one passage to the next."""
    return one.footage != other.footage or abs(one.mat_out - other.mat_in) > SAME
