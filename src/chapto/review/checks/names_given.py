"""Names that are still to be given, and a title that is cut in lists."""

from __future__ import annotations

from collections.abc import Iterator

from chapto.document.placeholders import placeholders
from chapto.review.finding import Finding, Reviewed, Weight


def find(r: Reviewed) -> Iterator[Finding]:
    """One finding a name, and one for a long title."""
    for sentence in placeholders(r.b):
        yield Finding(Weight.SHOULD, sentence)
    limit, b = r.limits["title-longest"], r.b
    title = b.title.strip()
    if len(title) > limit.value:
        yield Finding(Weight.MAY, f"The title has {limit.said(len(title))}.", value=limit.said(len(title)), limit=limit)
