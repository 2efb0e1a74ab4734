"""What is promised, a link, another part, an earlier video, and does not stand in the description."""

from __future__ import annotations

import re
from collections.abc import Iterator

from chapto.document.edit_breakdown import add_about
from chapto.review.finding import Ask, Finding, Weight, Where
from chapto.review.phrases import found_in, phrases
from chapto.review.reviewed import Part
from chapto.review.texts import read

KEPT = {
    "link": "put the link into the description",
    "part": "say in the description when it comes, or leave it out",
    "earlier": "put the link to it into the description",
}
ASKED = {
    "link": "The link, as it will stand in the description",
    "part": "What is said of it in the description",
    "earlier": "The link to it, as it will stand in the description",
}
ADDRESS = re.compile(r"\b(https?://|www\.)\S+|\b[\w-]+\.[a-z]{2,}/\S+", re.IGNORECASE)


def find(part: Part) -> Iterator[Finding]:
    """Each promise that the description does not keep, once a beat."""
    about = part.b.about
    for beat in part.read():
        text = read(beat.text)
        for kind, wanted in phrases()["promises"].items():
            for first, end in list(found_in(text, wanted))[:1]:
                quote = text.quote(first, end)
                if settled_key(beat.id, kind, quote) in part.settled or _is_kept(kind, quote, about):
                    continue
                where = Where(part.said_at(beat.id, first), beat.id, first)
                ask = Ask(ASKED[kind], add_about)
                yield Finding(Weight.SHOULD, f"You promise “{quote}”: {KEPT[kind]}.", where, quote, ask=ask)


def settled_key(beat: str, kind: str, quote: str) -> str:
    """By what a promise is known again in its breakdown, wherever its words have moved to."""
    return f"{beat}/{kind}/{quote.casefold()}"


def _is_kept(kind: str, quote: str, about: str) -> bool:
    """Whether the creator's words under the video have an address; or speak of the part that is to come."""
    if kind == "part":
        return quote.casefold() in about.casefold()
    return bool(ADDRESS.search(about))
