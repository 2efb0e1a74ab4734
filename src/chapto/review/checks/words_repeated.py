"""Words that come again and again."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from fractions import Fraction
from functools import lru_cache

import numpy as np
from numpy.typing import NDArray

from chapto.review.finding import Finding, Weight, Where
from chapto.review.reviewed import Reviewed
from chapto.review.texts import read

Numbers = NDArray[np.int64]
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
    script = _Script([(beat.id, beat.text) for _, beat in r.b.read_beats()])
    told, names, findings = np.zeros(script.words + max(TOGETHER), bool), _names(r), 0
    for n in TOGETHER:
        for places in script.alike(n, int(limit.value)):
            if findings == MOST:
                return
            at = script.word[places]
            # What was told is at least as long: what overlaps it begins or ends inside of it.
            places, at = (x[~told[at] & ~told[at + n - 1]] for x in (places, at))
            # Names come as often as they have to.
            if len(places) <= limit.value or not names.isdisjoint(script.said(places[0]).split()):
                continue
            told[(at[:, None] + np.arange(n)).ravel()] = True
            where = [Where(r.said_at(*x), *x) for x in map(script.place, places[:MOST_PLACES])]
            said, others = script.said(places[0]), (where[0], *where[2:])
            findings += 1
            sentence = f"“{said}” is said {len(places)} times."
            yield Finding(Weight.MAY, sentence, where[1], said, Fraction(len(places)), limit, more=others)


class _Script:
    """All manners of speaking of some texts (id, text), one after another, in arrays: there are hundreds of thousands
    of them in a long script, and few are told. `word` is the number of the first word of each among all `words`."""

    def __init__(self, texts: list[tuple[str, str]]) -> None:
        self._texts = texts
        said = [_said(text) for _, text in texts]
        self._text_of = np.repeat(np.arange(len(texts)), [len(x.keys) for x in said])
        before = np.cumsum([0, *(x.words for x in said)], dtype=np.int64)
        self.words = int(before[-1])
        self._first, self._long, self._keys = (
            np.concatenate([np.zeros(0, np.int64), *(getattr(x, name) for x in said)])
            for name in ("firsts", "long", "keys")
        )
        self.word = before[self._text_of] + self._first

    def alike(self, n: int, least: int) -> Iterator[Numbers]:
        """The manners of `n` words that are said more than `least` times: the numbers of each, most often first."""
        mine = np.flatnonzero(self._long == n)
        _, begun, which, counts = np.unique(
            self._keys[mine], return_index=True, return_inverse=True, return_counts=True
        )
        order, stops = np.argsort(which, kind="stable"), np.cumsum(counts)
        often = np.flatnonzero(counts > least)
        for i in often[np.lexsort((begun[often], -counts[often]))]:
            yield mine[order[stops[i] - counts[i] : stops[i]]]

    def place(self, number: int) -> tuple[str, int]:
        """The id of the text, and the number of the first word in it."""
        return self._texts[self._text_of[number]][0], int(self._first[number])

    def said(self, number: int) -> str:
        """What it is, in plain words."""
        first, n = self._first[number], self._long[number]
        return " ".join(read(self._texts[self._text_of[number]][1]).plain[first : first + n])


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


@dataclass(frozen=True)
class _Said:
    """The manners of a text as arrays: a key for each, the number of its first word, and how many words it has. The
    whole text has so many `words`."""

    keys: Numbers
    firsts: Numbers
    long: Numbers
    words: int


@lru_cache(maxsize=8192)
def _said(text: str) -> _Said:
    manners = _manners(text)
    keys, firsts, long = (
        np.array(row, np.int64)
        for row in ([hash(said) for _, said, _ in manners], [i for *_, i in manners], [n for n, _, _ in manners])
    )
    return _Said(keys, firsts, long, len(read(text).plain))


def _names(r: Reviewed) -> frozenset[str]:
    b = r.b
    people = [b.first.name, b.second.name, b.first.kit, b.second.kit, *(n.name for n in b.narrators)]
    return frozenset(w for name in people for w in read(name).plain)
