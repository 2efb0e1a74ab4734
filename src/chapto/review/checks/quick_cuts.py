"""Cuts so near to each other that nobody sees what was between them."""

from __future__ import annotations

from collections.abc import Iterator
from functools import lru_cache
from itertools import pairwise
from math import ceil

from chapto.clock.passage import Passage
from chapto.programme.block import Block
from chapto.review.finding import Finding, Weight
from chapto.review.reviewed import Reviewed

SAME = 0.2
"""Mat seconds by which a picture may be elsewhere and still go on."""


def find(r: Reviewed) -> Iterator[Finding]:
    """Two cuts within the limit."""
    limit = r.limits["cuts-apart"]
    cuts: list[int] = []
    last: Passage | None = None
    for x in r.programme.blocks:
        passages = x.block.passages
        if passages and last is not None and is_cut(last, passages[0]):
            cuts.append(x.start)
        cuts += [x.start + frame for frame in _cuts(x.block)]
        last = passages[-1] if passages else last
    nearest = ceil(limit.value * r.fps)
    for one, other in pairwise(cuts):
        if other - one < nearest:
            apart = r.seconds(other - one)
            sentence = f"Two cuts come within {limit.said(apart)}."
            yield Finding(Weight.MAY, sentence, r.where(r.seconds(one)), "", apart, limit)


@lru_cache(maxsize=1024)
def _cuts(block: Block) -> tuple[int, ...]:
    """Frames of a section at which the picture becomes another."""
    return tuple(b.watch_in for a, b in pairwise(block.passages) if is_cut(a, b))


def is_cut(one: Passage, other: Passage) -> bool:
    """Whether the picture is another from one passage to the next."""
    return one.footage != other.footage or abs(one.mat_out - other.mat_in) > SAME
