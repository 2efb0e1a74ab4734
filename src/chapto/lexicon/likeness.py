"""How like some words are to names: by their letters and by their sound."""

from __future__ import annotations

import re
import unicodedata
from collections.abc import Sequence

import jellyfish
import numpy as np
from numpy.typing import NDArray
from rapidfuzz import fuzz, process

WRITTEN, SPOKEN = 0.62, 0.34
"""Weights of letters and of sound: the very name has 0.96, so that what only begins a name can stand above it."""
_WORD = re.compile(r"[a-z0-9]+")


class Likeness:
    """Compares with `names`; made once, asked often."""

    def __init__(self, names: Sequence[str]) -> None:
        self.tokens = [words(name) for name in names]
        self._plain = ["".join(t) for t in self.tokens]
        self._sounds = [sound(" ".join(t)) for t in self.tokens]

    def whole(self, asked: Sequence[tuple[str, ...]], *, least: float = 0.0) -> NDArray[np.float64]:
        """How like each of `asked` (words of each) is to each name as a whole: (asked, names), 0…0.96. Letters or
        sounds that are less like than `least` (0…1) count as not like at all, which is quicker."""
        cut = 100 * least
        written = process.cdist(["".join(t) for t in asked], self._plain, scorer=fuzz.ratio, score_cutoff=cut) / 100
        heard = [sound(" ".join(t)) for t in asked]
        spoken = process.cdist(heard, self._sounds, scorer=fuzz.ratio, score_cutoff=cut) / 100
        return WRITTEN * written.astype(np.float64) + SPOKEN * spoken.astype(np.float64)


def words(text: str) -> tuple[str, ...]:
    """The words of a name in small plain letters."""
    plain = unicodedata.normalize("NFKD", text.casefold().replace("’", "").replace("'", ""))
    return tuple(_WORD.findall("".join(c for c in plain if not unicodedata.combining(c))))


def sound(text: str) -> str:
    """How a name sounds: its Metaphone code (Philips 1990) without spaces, vowels of its beginning kept."""
    return str(jellyfish.metaphone(text)).replace(" ", "").replace("0", "T")
