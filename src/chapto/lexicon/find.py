"""Quick find: a few letters of a few words in any order, or something that sounds like the name."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass

import numpy as np

from chapto.lexicon.lexicon import Named
from chapto.lexicon.likeness import Likeness, words

SURE, SURE_OF_ONE = 0.82, 0.92
"""Likeness (0.96 for the very name) from which a name is taken for meant without asking; more is wanted where only one
word, or a name in another language, could be meant."""


@dataclass(frozen=True)
class Found:
    """One hit: the thing, the name by which it was found, how well it fits, and how like the whole name it is (0…1)."""

    item: Named
    name: str
    score: float
    likeness: float = 0.0


class Finder:
    """Finds among `items`; made once, asked often."""

    def __init__(self, items: Iterable[Named]) -> None:
        self._rows: list[tuple[Named, str]] = []
        for item in items:
            self._rows += [(item, name) for name in (*item.names(), *item.wrong)]
        self._likeness = Likeness([name for _, name in self._rows])
        self._tokens = self._likeness.tokens

    def find(self, asked: str, *, most: int = 8, recent: Sequence[str] = ()) -> list[Found]:
        """The best `most` items for `asked`, best first, each once; among equals the `recent` ids (newest first)."""
        tokens = words(asked)
        if not tokens:
            known = {item.id: item for item, _ in self._rows}
            return [Found(known[i], known[i].en, 0.0) for i in recent if i in known][:most]
        whole = self._likeness.whole([tokens])[0]
        starts = np.array([_prefixes(tokens, t) for t in self._tokens])
        scores = np.maximum(whole, starts)
        best: dict[str, Found] = {}
        for row in np.argsort(-scores, kind="stable")[: 12 * most]:
            item, name = self._rows[row]
            if item.id not in best:
                best[item.id] = Found(item, name, float(scores[row]), float(whole[row]))
        rank = {i: n for n, i in enumerate(recent)}
        order = sorted(best.values(), key=lambda f: (-round(f.score, 2), rank.get(f.item.id, len(rank))))
        return order[:most]

    def sure(self, asked: str) -> Named | None:
        """The one that is meant, if the best hit is good and clearly better than the next."""
        found = sorted(self.find(asked), key=lambda f: -f.likeness)
        asked_words = words(asked)
        if not found:
            return None
        strict = len(asked_words) == 1 or found[0].name == found[0].item.ja
        if found[0].likeness < (SURE_OF_ONE if strict else SURE):
            return None
        shared = {item.id for (item, _), t in zip(self._rows, self._tokens, strict=True) if set(asked_words) <= set(t)}
        named = {n.casefold() for n in found[0].item.names()}
        if len(shared) > (2 if len(asked_words) == 1 else 1) and " ".join(asked_words) not in named:
            return None
        clear = len(found) == 1 or found[0].likeness - found[1].likeness >= 0.05
        return found[0].item if clear else None


def _prefixes(asked: tuple[str, ...], name: tuple[str, ...]) -> float:
    """1 where the words are the same, less where each word asked only begins another word of the name."""
    left = list(name)
    matched = 0
    for part in sorted(asked, key=len, reverse=True):
        hit = next((w for w in left if w == part), None) or next((w for w in left if w.startswith(part)), None)
        if hit is None:
            return 0.0
        left.remove(hit)
        matched += len(part)
    letters = sum(map(len, name))
    in_order = all(a.startswith(b) for a, b in zip(name, asked, strict=False))
    return 0.72 + 0.25 * matched / letters + (0.03 if in_order else 0.0)
