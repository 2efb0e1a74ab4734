"""Names of the sport that are written wrong in running text: usual misspellings by the lexicon, and words that look and
sound nearly like a name."""

from __future__ import annotations

import re
from collections.abc import Iterable
from dataclasses import dataclass

import jellyfish
from rapidfuzz import fuzz

from chapto.document.script import MARKS, words_of
from chapto.lexicon.lexicon import Lexicon, Named

LIKE = 0.84
"""Likeness (0…1) from which one word is taken for another of the same sound and first letter."""
VERY_LIKE, LONG = 0.92, 8
"""Likeness from which one word of so many letters is taken for another however it sounds: a slip of the fingers."""
ORDINARY = frozenset({"regard", "regards"})
"""Everyday words that look like names."""
SHORTEST = 6
"""Letters; shorter words are too often other words."""
LONGEST = 5
"""Words of the longest name looked for."""
_ENDINGS = ("s", "es", "ed", "d", "ing", "er", "ers", "r", "'s", "’s")


@dataclass(frozen=True, slots=True)
class Slip:
    """Words `first … end` (half-open) of a text, as they stand and as they should be."""

    first: int
    end: int
    written: str
    right: str


class Spelling:
    """Checks texts against the names of a lexicon; made once, asked often."""

    def __init__(self, lexicon: Lexicon) -> None:
        named: Iterable[Named] = (*lexicon.techniques.values(), *lexicon.positions.values())
        self._wrong: dict[tuple[str, ...], str] = {}
        self._right: set[tuple[str, ...]] = set()
        self._words: set[str] = set()
        wrong: list[tuple[str, Named]] = []
        for item in named:
            for name in item.names():
                self._right.add(_plain(name))
                self._words |= set(_plain(name))
            wrong += [(w, item) for w in item.wrong]
        for text, item in wrong:
            if _plain(text) not in self._right:
                self._wrong[_plain(text)] = _nearest(text, item.names())
        self._single = {w for w in self._words if len(w) >= SHORTEST and w.isalpha()}
        self._sounds: dict[str, list[str]] = {}
        for word in sorted(self._single):
            self._sounds.setdefault(_sound(word), []).append(word)

    def words(self) -> frozenset[str]:
        """Every single word of the lexicon's names, in small letters."""
        return frozenset(self._words)

    def slips(self, text: str) -> tuple[Slip, ...]:
        """What is written wrong in `text`, in order; no two overlap."""
        tokens = [w.strip(MARKS) for w in words_of(text)]
        plain = [t.casefold().replace("’", "'") for t in tokens]
        found: list[Slip] = []
        i = 0
        while i < len(tokens):
            slip = self._known(tokens, plain, i) or self._sounding(tokens, plain, i)
            if slip is not None:
                found.append(slip)
            i = slip.end if slip is not None else i + 1
        return tuple(found)

    def _known(self, tokens: list[str], plain: list[str], i: int) -> Slip | None:
        for end in range(min(i + LONGEST, len(tokens)), i, -1):
            right = self._wrong.get(tuple(w for p in plain[i:end] for w in _plain(p)))
            if right is not None:
                return Slip(i, end, " ".join(tokens[i:end]), _like(tokens[i], right))
        return None

    def _sounding(self, tokens: list[str], plain: list[str], i: int) -> Slip | None:
        """A single word that is none of the lexicon's, nor one of them with an ending, but sounds like one."""
        word = plain[i]
        if len(word) < SHORTEST or not word.isalpha() or word in ORDINARY or self._is_a_form(word):
            return None
        heard = [w for w in self._sounds.get(_sound(word), ()) if fuzz.ratio(word, w) / 100 >= LIKE]
        seen = [w for w in self._single if len(w) >= LONG and fuzz.ratio(word, w) / 100 >= VERY_LIKE]
        near = [w for w in (*heard, *seen) if w[0] == word[0]]
        if not near:
            return None
        best = max(near, key=lambda w: fuzz.ratio(word, w))
        return Slip(i, i + 1, tokens[i], _like(tokens[i], best))

    def _is_a_form(self, word: str) -> bool:
        stems = {word, *(word.removesuffix(e) for e in _ENDINGS if word.endswith(e))}
        stems |= {s[:-1] for s in stems if len(s) > 2 and s[-1] == s[-2]} | {s + "e" for s in stems}
        return bool(stems & self._words)


def _plain(name: str) -> tuple[str, ...]:
    return tuple(re.findall(r"[a-z0-9]+", name.casefold().replace("’", "").replace("'", "")))


def _sound(word: str) -> str:
    return str(jellyfish.metaphone(word))


def _nearest(text: str, names: tuple[str, ...]) -> str:
    """The right name that a misspelling is for: of several the one most like it."""
    return max(names, key=lambda n: fuzz.ratio(text, n))


def _like(written: str, right: str) -> str:
    """With a capital where there was one."""
    return right[:1].upper() + right[1:] if written[:1].isupper() else right
