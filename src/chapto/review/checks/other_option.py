"""Mistakes that are told without what would have been better."""

from __future__ import annotations

from collections.abc import Iterator

from chapto.document.script import BeatKind
from chapto.review.finding import Finding, Weight, Where
from chapto.review.reviewed import Part
from chapto.review.texts import read

ANSWERS = (BeatKind.OPTION, BeatKind.RULE, BeatKind.STEP, BeatKind.DEMONSTRATION)


def find(part: Part) -> Iterator[Finding]:
    """A mistake after which its section tells no option and no rule of thumb."""
    beats = [x for x in part.read() if x.text.strip()]
    for i, beat in enumerate(beats):
        if beat.kind is BeatKind.SLIP and not any(x.kind in ANSWERS for x in beats[i + 1 :]):
            text = read(beat.text)
            quote = text.quote(0, 4)
            sentence = f"“{quote} …” is a mistake, and what would have been better is not told."
            yield Finding(Weight.MAY, sentence, Where(part.said_at(beat.id), beat.id), quote)
