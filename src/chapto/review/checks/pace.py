"""Lines that are said too fast to follow."""

from __future__ import annotations

from collections.abc import Iterator
from itertools import groupby

from chapto.review.finding import Finding, Reviewed, Weight, Where

FEWEST = 8
"""Words of a line from which its pace can be told."""


def find(r: Reviewed) -> Iterator[Finding]:
    """Lines over the pace that anybody follows."""
    limit = r.limits["pace-most"]
    for beat, row in groupby(r.programme.words, key=lambda w: w.beat):
        words = list(row)
        seconds = words[-1].end - words[0].start
        if len(words) < FEWEST or seconds <= 0:
            continue
        pace = 60 * len(words) / seconds
        if pace > limit.value:
            sentence = f"“{words[0].text} {words[1].text} …” is hurried: {limit.said(pace)}."
            yield Finding(Weight.SHOULD, sentence, Where(words[0].start, beat), limit.said(pace), limit)
