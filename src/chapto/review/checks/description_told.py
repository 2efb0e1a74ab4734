"""The description: as long as sites allow, with words of one's own, and with the coach in it where something can
hurt."""

from __future__ import annotations

from collections.abc import Iterator
from fractions import Fraction

from chapto.document.edit_breakdown import set_about
from chapto.programme.cautions import risks_shown
from chapto.publish.description import DescriptionError, description
from chapto.review.finding import Ask, Finding, Weight
from chapto.review.reviewed import NotChecked, Reviewed

COACH = "coach"


def find(r: Reviewed) -> Iterator[Finding]:
    """What is missing in it, and what is too long."""
    b = r.b
    if not r.programme.frames:
        return
    try:
        text = description(b, r.programme)
    except DescriptionError as error:
        raise NotChecked(str(error)) from None
    limit = r.limits["description-longest"]
    if len(text) > limit.value:
        sentence = f"The description has {limit.said(len(text))}; sites cut it off."
        yield Finding(Weight.SHOULD, sentence, quote="long", measured=Fraction(len(text)), limit=limit)
    if not b.about.strip():
        ask = Ask("What is it about, in a line or two?", set_about)
        sentence = "The description says nothing of its own; its first two lines are what lists show."
        yield Finding(Weight.MAY, sentence, quote="empty", ask=ask)
    if risks_shown(b, r.lexicon) and COACH not in text.casefold():
        sentence = "Something that can hurt is shown, and the description does not send anybody to a coach."
        yield Finding(Weight.SHOULD, sentence, quote=COACH)
