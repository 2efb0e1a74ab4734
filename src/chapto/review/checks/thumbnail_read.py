"""The title on the thumbnail, where lists show it 168 pixels wide."""

from __future__ import annotations

from collections.abc import Iterator
from fractions import Fraction

from msgspec.structs import replace

from chapto.document.breakdown import Breakdown
from chapto.document.edit_publishing import set_thumbnail
from chapto.review.finding import Ask, Finding, Weight
from chapto.review.reviewed import Reviewed


def find(r: Reviewed) -> Iterator[Finding]:
    """One finding for a title that is too long to be read so small."""
    b, limit = r.b, r.limits["thumbnail-longest"]
    out = b.publishing
    title = (out.thumbnail.title or b.title).strip()
    if not out.thumbnail.title and len(title) > r.limits["title-longest"].value:
        # The title itself is too long, which is told already.
        return
    if len(title) > limit.value:
        sentence = f"The title on the thumbnail has {limit.said(len(title))}: too many to be read in a list."
        yield Finding(
            Weight.SHOULD,
            sentence,
            quote="thumbnail",
            measured=Fraction(len(title)),
            limit=limit,
            ask=Ask("What stands on the thumbnail, in a few words?", _titled),
        )


def _titled(b: Breakdown, text: str) -> Breakdown:
    out = b.publishing
    return set_thumbnail(b, replace(out.thumbnail, title=text))
