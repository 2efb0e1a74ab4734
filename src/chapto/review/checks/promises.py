"""What is promised: a link, another part, an earlier video."""

from __future__ import annotations

from collections.abc import Iterator

from chapto.review.finding import Finding, Weight, Where
from chapto.review.phrases import found_in, phrases
from chapto.review.reviewed import Part
from chapto.review.texts import read

KEPT = {
    "link": "put the link into the description",
    "part": "say when it comes, or leave it out",
    "earlier": "put the link to it into the description",
}


def find(part: Part) -> Iterator[Finding]:
    """Each promise, once a beat. How it is kept is its reason."""
    for beat in part.read():
        text = read(beat.text)
        for kind, wanted in phrases()["promises"].items():
            for first, end in list(found_in(text, wanted))[:1]:
                quote = text.quote(first, end)
                where = Where(part.said_at(beat.id, first), beat.id, first)
                yield Finding(Weight.SHOULD, f"You promise “{quote}”: {KEPT[kind]}.", where, quote)
