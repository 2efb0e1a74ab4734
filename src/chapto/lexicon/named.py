"""The names of techniques and positions that stand in a text, as they are written right."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from chapto.lexicon.lexicon import Lexicon, Named
from chapto.lexicon.likeness import words
from chapto.lexicon.ordinary import commonness

EVERYDAY = 10
"""How common a word is that says too little alone, “post” or “nobody”: see `commonness`."""


@dataclass(frozen=True, slots=True)
class NameInText:
    """Words `first ≤ i < end` of a text are a name of `item`."""

    first: int
    end: int
    item: Named


class Names:
    """Looks for the names of a lexicon; made once, asked often."""

    def __init__(self, lexicon: Lexicon) -> None:
        self._names: dict[tuple[str, ...], Named] = {}
        for item in (*lexicon.techniques.values(), *lexicon.positions.values()):
            for name in item.names():
                # A word that everybody uses every day names nothing by itself.
                if len(words(name)) > 1 or commonness(name) > EVERYDAY:
                    self._names.setdefault(words(name), item)
        self._longest = max(map(len, self._names), default=0)

    def within(self, text: Sequence[str]) -> tuple[NameInText, ...]:
        """Every name in the words of a text, in order; of names that overlap the longest."""
        plain = [words(w) for w in text]
        found: list[NameInText] = []
        i = 0
        while i < len(plain):
            end, item = self._at(plain, i)
            if item is not None:
                found.append(NameInText(i, end, item))
            i = max(end, i + 1)
        return tuple(found)

    def _at(self, plain: Sequence[tuple[str, ...]], first: int) -> tuple[int, Named | None]:
        for end in range(min(first + self._longest, len(plain)), first, -1):
            item = self._names.get(tuple(part for word in plain[first:end] for part in word))
            if item is not None:
                return end, item
        return first, None
