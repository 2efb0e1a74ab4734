"""Words that come again and again."""

from __future__ import annotations

from collections import Counter, defaultdict
from collections.abc import Iterator
from fractions import Fraction
from functools import lru_cache
from itertools import chain

from chapto.review.finding import Finding, Weight, Where
from chapto.review.reviewed import Reviewed
from chapto.review.texts import read

MOST, MOST_PLACES = 12, 24
"""Manners of speaking that are told, those said most often first, and places that are shown of each."""
TOGETHER = (4, 3, 2)
"""Words of a manner of speaking."""
_LINKS = frozenset(
    ["the", "a", "an", "and", "of", "to", "in", "on", "is", "it", "his", "her", "he", "she", "they", "them", "their",
     "with", "at", "from", "for", "that", "this", "so", "but", "as", "by", "or", "not", "you", "your", "i", "we",
     "are", "was", "be", "has", "have", "had", "will", "can", "out", "up", "down", "over", "under", "then", "when"]
)  # fmt: skip


def find(r: Reviewed) -> Iterator[Finding]:
    """Manners of speaking that are said more often than the limit, with each place; the longest that are always said
    alike."""
    limit = r.limits["repeats"]
    texts = [(beat.id, beat.text) for _, beat in r.b.read_beats()]
    counts = Counter(chain.from_iterable(_all_said(text) for _, text in texts))
    names = _names(r)
    # Names come as often as they have to.
    often = {said for said, n in counts.items() if n > limit.value and names.isdisjoint(said.split())}
    places: dict[int, dict[str, list[tuple[str, int]]]] = {n: defaultdict(list) for n in TOGETHER}
    for beat, text in texts if often else ():
        for n, said, i in _manners(text):
            if said in often:
                places[n][said].append((beat, i))
    told: set[tuple[str, int]] = set()
    findings = 0
    for n in TOGETHER:
        for said, found in sorted(places[n].items(), key=lambda row: -len(row[1])):
            if findings == MOST:
                return
            # What was told is at least as long: what overlaps it begins or ends inside of it.
            last = n - 1
            fresh = [(beat, i) for beat, i in found if (beat, i) not in told and (beat, i + last) not in told]
            if len(fresh) <= limit.value:
                continue
            told.update((beat, i + k) for beat, i in fresh for k in range(n))
            where = [Where(r.said_at(beat, i), beat, i) for beat, i in fresh[:MOST_PLACES]]
            sentence = f"“{said}” is said {len(fresh)} times."
            others = (where[0], *where[2:])
            findings += 1
            yield Finding(Weight.MAY, sentence, where[1], said, Fraction(len(fresh)), limit, more=others)


@lru_cache(maxsize=8192)
def _manners(text: str) -> tuple[tuple[int, str, int], ...]:
    """What is said together in the sentences of a text, mere grammar left out: how many words, which, and the number of
    the first."""
    plain = read(text).plain
    telling = [w not in _LINKS for w in plain]
    return tuple(
        (n, " ".join(plain[i : i + n]), i)
        for first, end in read(text).sentences
        for n in TOGETHER
        for i in range(first, end - n + 1)
        if sum(telling[i : i + n]) >= (2 if n == 2 else 1)
    )


@lru_cache(maxsize=8192)
def _all_said(text: str) -> tuple[str, ...]:
    return tuple(said for _, said, _ in _manners(text))


def _names(r: Reviewed) -> frozenset[str]:
    b = r.b
    people = [b.first.name, b.second.name, b.first.kit, b.second.kit, *(n.name for n in b.narrators)]
    return frozenset(w for name in people for w in read(name).plain)
