"""Words that come again and again."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterator

from chapto.document.script import plain_word, words_of
from chapto.review.finding import Finding, Reviewed, Weight, Where

TOGETHER = 3
"""Words of a manner of speaking."""
_LINKS = frozenset(["the", "a", "an", "and", "of", "to", "in", "on", "is", "it", "his", "her", "he", "she"])


def find(r: Reviewed) -> Iterator[Finding]:
    """Manners of speaking that are said more often than the limit, at their second place."""
    limit = r.limits["repeats"]
    found: dict[tuple[str, ...], list[tuple[str, int]]] = defaultdict(list)
    for _, beat in r.b.beats():
        plain = [plain_word(w) for w in words_of(beat.text)]
        for i in range(len(plain) - TOGETHER + 1):
            said = tuple(plain[i : i + TOGETHER])
            if sum(w in _LINKS for w in said) < TOGETHER:
                found[said].append((beat.id, i))
    for said, places in found.items():
        if len(places) > limit.value:
            where, word = places[1]
            sentence = f"“{' '.join(said)}” is said {len(places)} times."
            yield Finding(Weight.MAY, sentence, Where(beat=where, word=word), limit.said(len(places)), limit)
