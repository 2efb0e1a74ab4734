"""Exchanges that are like another one: the same way in, the same answer, another end.

How alike two are is the edit distance (Levenshtein 1966) between what happens in them, step by step: positions as the
one who begins sees them, the technique, moments, the outcome.
"""

from __future__ import annotations

import heapq
import json
from collections.abc import Iterable
from dataclasses import dataclass
from pathlib import Path

from rapidfuzz.distance import Levenshtein

from chapto.lexicon.lexicon import Lexicon
from chapto.shelf.asking import SAID
from chapto.shelf.database import Database
from chapto.shelf.search import Found, Search
from chapto.shelf.viewed import said

FARTHEST = 0.55
"""Share of the steps that may be others in what is still offered as alike."""


_Row = tuple[str, str, str, str, str, str, tuple[str, ...]]
"""Path and key, by what it is known again, outcome, technique, where it begins, steps."""


@dataclass(frozen=True)
class Alike:
    """A place, how far it is from the other one (0: the same steps, 1: none), and what they share and do not."""

    found: Found
    distance: float
    words: str


def steps(way: Iterable[str], technique: str, moments: Iterable[tuple[str, float]], outcome: str) -> tuple[str, ...]:
    """What happens in an exchange, as steps: first where it begins, then what is tried, the moments in their order, the
    positions gone through, and how it ends."""
    way = tuple(way)
    return (*way[:1], f"try {technique}", *(f"at {k}" for k, _ in moments), *way[1:], f"end {outcome}")


class Likes:
    """Looks for what is like an exchange on one shelf."""

    def __init__(self, database: Database, search: Search, lexicon: Lexicon) -> None:
        self._db, self._search, self._lexicon = database, search, lexicon
        self._known: tuple[tuple[int, int], list[_Row]] | None = None

    def of(self, place: Found, *, most: int = 6) -> list[Alike]:
        """The exchanges most alike, the nearest first; of equally near ones those with another end first."""
        mine = steps(place.way, place.technique, place.moments, place.outcome)
        near: list[tuple[float, bool, str, str]] = []
        for path, key, same, outcome, technique, before, theirs in self._every():
            # What has neither the same beginning nor the same try is no example of it.
            tried = technique == place.technique != ""
            if same != place.same and (tried or before == place.before != ""):
                far = Levenshtein.normalized_distance(mine, theirs, score_cutoff=FARTHEST)
                if far <= FARTHEST:
                    near.append((far, outcome == place.outcome, path, key))
        found = []
        for far, _, path, key in heapq.nsmallest(most, near):
            other = self._search.one(Path(path), key)
            if other is not None:
                found.append(Alike(other, far, self.compared(place, other)))
        return found

    def _every(self) -> list[_Row]:
        """Every exchange once, with its steps; worked out again when the index is another."""
        if self._known is None or self._known[0] != self._db.stamp:
            rows = self._db.rows(
                "SELECT breakdown.path, place.key, place.same, before, way, technique, moments, outcome FROM place "
                "JOIN breakdown ON breakdown.id = place.breakdown WHERE is_exchange ORDER BY explained > 0 DESC"
            )
            once = {
                r["same"]: (
                    r["path"], r["key"], r["same"], r["outcome"], r["technique"], r["before"],
                    steps(json.loads(r["way"]), r["technique"], json.loads(r["moments"]), r["outcome"]),
                )
                for r in reversed(rows)
            }  # fmt: skip
            self._known = self._db.stamp, list(once.values())
        return self._known[1]

    def compared(self, one: Found, other: Found) -> str:
        """What two exchanges share and where they part, in words."""
        same, parts = [], []
        if one.before and one.before == other.before:
            same.append(f"from {said(one.before, self._lexicon).lower()}")
        elif other.before:
            parts.append(f"from {said(other.before, self._lexicon).lower()}")
        if one.technique and one.technique == other.technique:
            same.append(self._technique(one.technique))
        elif other.called:
            parts.append(self._technique(other.technique) or other.called)
        answers = [next((k for k, _ in x.moments if k in ("frame", "base")), "") for x in (one, other)]
        if answers[0] and answers[0] == answers[1]:
            same.append(f"answered by {answers[0]}")
        elif answers[1]:
            parts.append(f"answered by {answers[1]}")
        if other.outcome:
            ended = next(text for o, text in SAID.items() if o.value == other.outcome)
            (same if one.outcome == other.outcome else parts).append(ended)
        whole = f"The same: {', '.join(same)}" if same else "Little is the same"
        return f"{whole}; other: {', '.join(parts)}." if parts else f"{whole}."

    def _technique(self, technique: str) -> str:
        known = self._lexicon.techniques.get(technique)
        return known.en.lower() if known is not None else ""
