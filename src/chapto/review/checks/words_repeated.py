"""Words that come again and again."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterator
from fractions import Fraction

from chapto.review.finding import Finding, Weight, Where
from chapto.review.reviewed import Reviewed
from chapto.review.texts import read

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
    places: dict[int, dict[tuple[str, ...], list[tuple[str, int]]]] = {n: defaultdict(list) for n in TOGETHER}
    names = _names(r)
    for _, beat in r.b.read_beats():
        text = read(beat.text)
        for first, end in text.sentences:
            for n in TOGETHER:
                for i in range(first, end - n + 1):
                    said = text.plain[i : i + n]
                    # Names and mere grammar come as often as they have to.
                    telling = sum(w not in _LINKS for w in said)
                    if telling >= (2 if n == 2 else 1) and not names.issuperset(said) and not names & set(said):
                        places[n][said].append((beat.id, i))
    told: set[tuple[str, int]] = set()
    for n in TOGETHER:
        for said, found in places[n].items():
            fresh = [(beat, i) for beat, i in found if not any((beat, i + k) in told for k in range(n))]
            if len(fresh) <= limit.value:
                continue
            told |= {(beat, i + k) for beat, i in fresh for k in range(n)}
            quote = " ".join(said)
            where = [Where(r.said_at(beat, i), beat, i) for beat, i in fresh]
            sentence = f"“{quote}” is said {len(fresh)} times."
            others = (where[0], *where[2:])
            yield Finding(Weight.MAY, sentence, where[1], quote, Fraction(len(fresh)), limit, more=others)


def _names(r: Reviewed) -> frozenset[str]:
    b = r.b
    people = [b.first.name, b.second.name, b.first.kit, b.second.kit, *(n.name for n in b.narrators)]
    return frozenset(w for name in people for w in read(name).plain)
