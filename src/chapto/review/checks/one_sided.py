"""One athlete who is praised again and again, and another who never is."""

from __future__ import annotations

from collections.abc import Iterator
from fractions import Fraction
from functools import lru_cache

from chapto.document.people import Side
from chapto.review.finding import Finding, Weight, Where
from chapto.review.phrases import phrases, stands_after
from chapto.review.reviewed import Reviewed
from chapto.review.texts import read
from chapto.review.who import bare, terms_of


def find(r: Reviewed) -> Iterator[Finding]:
    """Praise of one from the limit on, where there is none of the other."""
    limit = r.limits["praise-alone"]
    terms = frozenset(terms_of(r.b.first, r.b.second).items())
    praised: dict[Side, list[Where]] = {Side.FIRST: [], Side.SECOND: []}
    for _, beat in r.b.read_beats():
        for side, i in _praise(beat.text, terms):
            praised[side].append(Where(r.said_at(beat.id, i), beat.id, i))
    for side, other in ((Side.FIRST, Side.SECOND), (Side.SECOND, Side.FIRST)):
        places = praised[side]
        if len(places) >= limit.value and not praised[other]:
            sentence = f"{r.b.athlete(side).name} is praised {len(places)} times, {r.b.athlete(other).name} never."
            yield Finding(
                Weight.MAY, sentence, places[0], side.value, Fraction(len(places)), limit, more=tuple(places[1:])
            )  # fmt: skip


@lru_cache(maxsize=8192)
def _praise(said: str, terms: frozenset[tuple[str, Side]]) -> tuple[tuple[Side, int], ...]:
    """Who is praised, and by which word, in the sentences of a text that are about one of the two only."""
    words, unless = phrases()["praise"]["words"], phrases()["praise"]["unless_after"]
    text, named = read(said), dict(terms)
    found = []
    for first, end in text.sentences:
        sides = {named[w] for i in range(first, end) if (w := bare(text.plain[i])) in named}
        if len(sides) == 1:
            (side,) = sides
            found += [
                (side, i) for i in range(first, end) if text.plain[i] in words and not stands_after(text, i, unless)
            ]
    return tuple(found)
