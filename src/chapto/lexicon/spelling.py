"""Names of the sport that are written wrong in running text, over one to five words: usual misspellings by the lexicon,
and words that look and sound nearly like a name."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from functools import lru_cache

import numpy as np
from rapidfuzz import fuzz

from chapto.document.script import MARKS, words_of
from chapto.lexicon.lexicon import DATA, Lexicon, Named
from chapto.lexicon.likeness import SPOKEN, WRITTEN, Likeness, words
from chapto.lexicon.ordinary import UNKNOWN, commonness

LONGEST = 5
"""Words of the longest stretch that is held against the names."""
SHORTEST = 6
"""Letters; shorter names are too often other words."""
LIKE = {UNKNOWN: 0.74, 50: 0.84, 35: 0.86, 20: 0.88, 10: 0.9}
ALONE = 0.8
"""The same for a word that stands alone."""
"""Likeness (of `WRITTEN + SPOKEN` at most 1) from which a stretch is taken for a name, by how common its rarest word
is: a word that is in no dictionary is likelier a name than words that everybody uses."""
HEAD = 0.06
"""So much less is asked where the last word is the name's own (“laugh so guard”)."""
LEAST = 0.5
"""Likeness of letters or of sound under which nothing is looked at more closely."""
SMALL = 35
"""Size of the dictionary whose words are never taken for a misspelling when they stand alone."""
CLEAR = 0.02
"""So much liker than any name of another thing."""
SAME_LETTERS = 0.8
"""Likeness from which a stretch with the very letters of a name is that name, split or joined otherwise."""
_ENDINGS = ("s", "es", "ed", "d", "ing", "er", "ers", "r", "'s", "’s")
_EDGES = frozenset(
    words(
        "a an the of to and or in is it its his her my your our their this that he she i we you they so but for with "
        "on at by as if be was were are do does did has have had not no then than when from there here what who how "
        "very just can"
    )
)
"""Words with which no name begins or ends that is not written so."""
_WHO = frozenset(words("he she i we they it him her his my me you your them their us our is are was were i'm"))
"""Words that tell of somebody: a stretch with one of them is a sentence, not a name."""
_LOOSE = _EDGES | frozenset(words("out up down by over under through back off behind around"))
LOOSE = 0.08
"""So much more is asked of names that are manners of speaking (“sits down”, “takes the back”)."""
SINGLE = 0.86
"""Likeness from which one word is taken for one of a name."""
KNOWN = 0.97
"""Likeness of a usual misspelling to its name."""
LONGER = 0.03
"""What a longer stretch is worth a word: it explains more."""


@dataclass(frozen=True, slots=True)
class Slip:
    """Words `first … end` (half-open) of a text, as they stand and as they should be."""

    first: int
    end: int
    written: str
    right: str


Span = tuple[int, int]
"""Numbers of the first word and of the one after the last."""
Hit = tuple[float, int, int, str]
"""How surely, the first word and the end (half-open), and the name."""


class Spelling:
    """Checks texts against the names of a lexicon; made once, asked often."""

    def __init__(self, lexicon: Lexicon) -> None:
        named: Iterable[Named] = (*lexicon.techniques.values(), *lexicon.positions.values())
        self._wrong: dict[tuple[str, ...], str] = {}
        self._right: dict[tuple[str, ...], str] = {}
        self._words: set[str] = set()
        rows: list[tuple[str, str]] = []
        wrong: list[tuple[str, Named]] = []
        for item in named:
            for name in item.names():
                self._right.setdefault(words(name), name)
                self._words |= set(words(name))
                rows.append((item.id, name))
            wrong += [(w, item) for w in item.wrong]
        for text, item in wrong:
            if words(text) not in self._right:
                self._wrong[words(text)] = max(item.names(), key=lambda n: fuzz.ratio(text, n))
        # A long word of a name may be all that is written wrong in it.
        self._singles = {w for w in self._words if len(w) >= SHORTEST and (w,) not in self._right and w.isalpha()}
        rows = [row for row in rows if len("".join(words(row[1]))) >= SHORTEST]
        rows += [(f"word {w}", w) for w in sorted(self._singles)]
        self._items, self._names = [i for i, _ in rows], [n for _, n in rows]
        self._likeness = Likeness(self._names)
        ids = np.array(self._items)
        self._others = ids[:, None] != ids[None, :]
        self._longest = max(map(len, self._right))

    def words(self) -> frozenset[str]:
        """Every single word of the lexicon's names, in small letters."""
        return frozenset(self._words)

    def slips(self, text: str) -> tuple[Slip, ...]:
        """What is written wrong in `text`, in order; no two overlap."""
        tokens = [w.strip(MARKS) for w in words_of(text)]
        plain = [words(t) for t in tokens]
        ends = [w.rstrip("\"'”’)]")[-1:] in ".,;:!?…" for w in words_of(text)]
        found: list[Slip] = []
        taken = [False] * len(plain)
        hits = (*self._known(plain), *self._alike(plain, ends, tokens))
        for _, first, end, right in sorted(hits, key=lambda h: -h[0]):
            if not any(taken[first:end]):
                found.append(_slip(tokens, first, end, right))
                taken[first:end] = [True] * (end - first)
        return tuple(sorted(found, key=lambda s: s.first))

    def _right_names(self, plain: list[tuple[str, ...]]) -> list[Span | None]:
        """For each word the right name in which it stands, of several words or of one that is in no dictionary."""
        found: list[Span | None] = [None] * len(plain)
        for i in range(len(plain)):
            for end in range(min(i + self._longest, len(plain)), i, -1):
                said = _joined(plain[i:end])
                tells = end - i > 1 or (len(said) == 1 and commonness(said[0]) == UNKNOWN)
                if found[i] is None and tells and self._is_right(said):
                    found[i:end] = [(i, end)] * (end - i)
                    break
        return found

    def _known(self, plain: list[tuple[str, ...]]) -> Iterable[Hit]:
        never = ordinary_phrases()
        for i in range(len(plain)):
            for end in range(min(i + LONGEST, len(plain)), i, -1):
                said = _joined(plain[i:end])
                right = self._wrong.get(said)
                if right is not None and said not in never and (len(said) > 1 or commonness(said[0]) > SMALL):
                    yield KNOWN + LONGER * (end - i), i, end, right
                    break

    def _alike(self, plain: list[tuple[str, ...]], ends: list[bool], tokens: list[str]) -> Iterable[Hit]:
        """Stretches that are like a name without being one."""
        rare = [self._rarity(t, p, i == 0 or ends[i - 1]) for i, (t, p) in enumerate(zip(tokens, plain, strict=True))]
        right = self._right_names(plain)
        spans = [span for span in _spans(plain, ends, right) if self._may_be(plain[span[0] : span[1]])]
        if not spans:
            return
        like = self._likeness.whole([_joined(plain[a:z]) for a, z in spans], least=LEAST) / (WRITTEN + SPOKEN)
        best = like.argmax(1)
        for (first, end), row, at in zip(spans, like, best, strict=True):
            said, name = _joined(plain[first:end]), self._likeness.tokens[at]
            held = {w for span in right[first:end] if span for word in plain[span[0] : span[1]] for w in word}
            if set(name) < set(said) or not held <= set(name) or row[at] < self._asked(said, name, rare[first:end]):
                continue
            same = "".join(said) == "".join(name)
            if same or row[at] - row[self._others[at]].max(initial=0.0) >= CLEAR:
                surely = (1.0 if same else float(row[at])) + LONGER * (end - first) - LOOSE * _loose_edges(said, name)
                yield surely, first, end, self._names[at]

    def _may_be(self, stretch: list[tuple[str, ...]]) -> bool:
        said = _joined(stretch)
        letters = "".join(said)
        if not SHORTEST <= len(letters) <= 40 or not letters.isalpha():
            return False
        if said in ordinary_phrases() or any((w,) in ordinary_phrases() for w in said):
            return False
        inner = _without_edges(said)
        if not inner or self._is_right(inner) or self._is_right(said):
            return False
        return len(said) > 1 or (commonness(said[0]) == UNKNOWN and not self._is_a_form(said[0]))

    def _is_right(self, said: tuple[str, ...]) -> bool:
        return said in self._right or _singular(said) in self._right

    def _asked(self, said: tuple[str, ...], name: tuple[str, ...], rare: list[int]) -> float:
        """How like it has to be; more than it can be where it is a sentence."""
        if _WHO & (set(said) - set(name)):
            return 2.0
        if name[0] in self._singles and len(name) == 1:
            return SINGLE if len(said) == 1 and said[0][0] == name[0][0] else 2.0
        if "".join(said) == "".join(name):
            return SAME_LETTERS
        own = [r for w, r in zip(said, rare, strict=False) if w not in name] or [10]
        asked = max(LIKE[max(own)], ALONE if len(said) == 1 else 0.0)
        if len(said) > 1 and said[-1] == name[-1] and not set(name) & _LOOSE:
            asked = max(asked - HEAD, LIKE[UNKNOWN])
        asked += LOOSE * (_loose_edges(said, name) + bool(set(name) & _LOOSE))
        asked += LOOSE * any(len(w) == 1 and w not in name for w in said)
        return asked + (0.03 if len("".join(said)) < 8 else 0.0)

    def _rarity(self, token: str, plain: tuple[str, ...], begins: bool) -> int:
        """How common a word is. A name of somebody is as common as any, and so are ordinary words of the lexicon and
        its words with an ending; a bare one that is in no dictionary stands where it does not belong."""
        if not plain or (token[:1].isupper() and not begins):
            return 10
        found, word = commonness(token.strip("<>`*_[]{}")), "".join(plain)
        bare = found == UNKNOWN and word in self._words
        return 10 if self._is_a_form(word) and not bare else found

    def _is_a_form(self, word: str) -> bool:
        stems = {word, *(word.removesuffix(e) for e in _ENDINGS if word.endswith(e))}
        stems |= {s[:-1] for s in stems if len(s) > 2 and s[-1] == s[-2]} | {s + "e" for s in stems}
        return bool(stems & self._words)


@lru_cache(maxsize=1)
def ordinary_phrases() -> frozenset[tuple[str, ...]]:
    """Words together that are ordinary talk, however like a name they are; see `never.txt`."""
    lines = (DATA / "never.txt").read_text("utf-8").splitlines()
    return frozenset(words(line) for line in lines if line and not line.startswith("#"))


def _spans(plain: list[tuple[str, ...]], ends: list[bool], right: list[Span | None]) -> Iterable[Span]:
    """Stretches of up to `LONGEST` words in one clause that tear no right name."""
    for i in range(len(plain)):
        for end in range(i + 1, min(i + LONGEST, len(plain)) + 1):
            if not plain[end - 1]:
                break
            held = [span for span in right[i:end] if span]
            if all(i <= a and z <= end for a, z in held) and (i, end) not in held:
                yield i, end
            if ends[end - 1]:
                break


def _loose_edges(said: tuple[str, ...], name: tuple[str, ...]) -> int:
    """How many ends of a stretch are words with which no name begins or ends, unless this one does."""
    return sum(word in _EDGES and word not in name for word in (said[0], said[-1]))


def _without_edges(said: tuple[str, ...]) -> tuple[str, ...]:
    while said and said[0] in _EDGES:
        said = said[1:]
    while said and said[-1] in _EDGES:
        said = said[:-1]
    return said


def _joined(stretch: list[tuple[str, ...]]) -> tuple[str, ...]:
    return tuple(w for word in stretch for w in word)


def _singular(said: tuple[str, ...]) -> tuple[str, ...]:
    return (*said[:-1], said[-1].removesuffix("s")) if said else said


def _slip(tokens: list[str], first: int, end: int, right: str) -> Slip:
    """With a capital where there was one."""
    right = right[:1].upper() + right[1:] if tokens[first][:1].isupper() else right
    return Slip(first, end, " ".join(tokens[first:end]), right)
