"""Names that are still to be given, and a title that is cut in lists."""

from __future__ import annotations

from collections.abc import Iterator
from fractions import Fraction

from chapto.document.placeholders import placeholders
from chapto.review.finding import Finding, Weight
from chapto.review.reviewed import Reviewed
from chapto.review.work import Stage


def find(r: Reviewed) -> Iterator[Finding]:
    """One finding a name, and one for a long title."""
    limit, b = r.limits["title-longest"], r.b
    for sentence in placeholders(b):
        stage = Stage.LOG if "of the two" in sentence else Stage.FOOTAGE if "footage" in sentence else Stage.WRITE
        yield Finding(Weight.SHOULD, sentence, quote=sentence, stage=stage)
    title = b.title.strip()
    if len(title) > limit.value:
        sentence = f"The title has {limit.said(len(title))}."
        yield Finding(Weight.MAY, sentence, quote="title", measured=Fraction(len(title)), limit=limit)
