"""Words and pictures that were tied and do not meet."""

from __future__ import annotations

from collections.abc import Iterator

from chapto.pacing.fitted import Lack
from chapto.programme.placed import TieState
from chapto.review.finding import Finding, Weight, Where
from chapto.review.mends import best_way
from chapto.review.reviewed import Part

LACKS = (Lack.LATE, Lack.PAST, Lack.ELSEWHERE, Lack.UNFILMED)


def find(part: Part) -> Iterator[Finding]:
    """Every tie that is late or broken."""
    for t in part.block.ties:
        if t.state is TieState.MET:
            continue
        lag = t.lag
        off = "the moment is never shown" if lag is None else f"they miss each other by {abs(float(lag)):.2f} s"
        sentence = f"“{t.text.strip('.,;:!?')}” and its moment do not meet: {off}."
        mend = best_way(part.r, t.beat, LACKS, word=t.word)
        yield Finding(Weight.MUST, sentence, Where(t.said, t.beat, t.word), t.text, mend=mend)
