"""Captions that are too fast, too long or too wide."""

from __future__ import annotations

from collections.abc import Iterator
from fractions import Fraction

from chapto.document.script import words_of
from chapto.review.finding import Finding, Reviewed, Weight, Where

HURRIED = Fraction(4, 3)
"""A single caption may be so much faster than the limit: others round it give the time back."""


def find(r: Reviewed) -> Iterator[Finding]:
    """What a reader could not follow, one finding a caption, and one where all of them go by too fast."""
    pace, lines, wide = (r.limits[n] for n in ("caption-pace", "caption-lines", "caption-line"))
    said = shown = Fraction(0)
    for c in r.programme.captions:
        rows, words = c.text.split("\n"), words_of(c.text)
        widest = max(map(len, rows))
        speed = 60 * len(words) / (c.end - c.start) if c.end > c.start else Fraction(0)
        said, shown = said + len(words), shown + c.end - c.start
        begins = f"The caption “{' '.join(words[:4])} …”"
        if len(rows) > lines.value:
            value, limit, weight, sentence = len(rows), lines, Weight.SHOULD, f"{begins} has {len(rows)} lines."
        elif widest > wide.value:
            value, limit, weight, sentence = widest, wide, Weight.MAY, f"{begins} is wide: {widest} letters."
        elif speed > pace.value * HURRIED:
            value, limit, weight, sentence = round(speed), pace, Weight.MAY, f"{begins} goes by fast."
        else:
            continue
        yield Finding(weight, sentence, Where(c.start), limit.said(value), limit)
    if shown and (mean := 60 * said / shown) > pace.value:
        sentence = f"The captions as a whole go by fast: {round(mean)} words a minute. Leave words out, or pauses in."
        yield Finding(Weight.MAY, sentence, value=pace.said(round(mean)), limit=pace)
