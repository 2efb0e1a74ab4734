"""What was said against what was to be said: word for word, by edit distance."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from enum import StrEnum

import numpy as np
from rapidfuzz.distance import Levenshtein

from chapto.pacing.talked.words import FILLERS
from chapto.voice.finding.recogniser import MISFIT, UNKNOWN, Heard

SURE = 3
"""Words at each end of a row that is the same in script and recording; what lies between them is paired for sure."""
Pair = tuple[int | None, int | None]
LONGEST_FILLER = 1.2
"""Seconds; longer than that it was a word."""


class Said(StrEnum):
    """What became of a word of the script."""

    AS_WRITTEN = "said"
    OTHERWISE = "other"
    LEFT_OUT = "missing"


@dataclass(frozen=True)
class FoundWord:
    """A word of the script in the recording: half-open seconds, None where it was left out or has no sound of its own;
    `heard` is what was understood instead, where that is known. Where noise kept it from being measured, its times are
    not `sure`."""

    state: Said
    span: tuple[float, float] | None
    heard: str = ""
    sure: bool = True

    @property
    def said_as_written(self) -> bool:
        """Whether nothing is wrong with it."""
        return self.state is Said.AS_WRITTEN


@dataclass(frozen=True)
class AddedWord:
    """A word that the script does not have, said before the script's word number `before`."""

    before: int
    heard: str
    span: tuple[float, float]

    @property
    def is_filler(self) -> bool:
        """Whether it only filled a pause: it is one, or a short sound that is none of the words there could be."""
        return self.heard in FILLERS or (self.heard == UNKNOWN and self.span[1] - self.span[0] < LONGEST_FILLER)


@dataclass(frozen=True)
class Comparison:
    """Every word of the script, and what was said besides."""

    words: tuple[FoundWord, ...]
    added: tuple[AddedWord, ...]


def compared(forms: Sequence[str], heard: Sequence[Heard]) -> Comparison:
    """`forms` of the script (empty for a mark that is not said) against what was `heard`, in order."""
    said = [i for i, form in enumerate(forms) if form]
    words = [FoundWord(Said.AS_WRITTEN, None) for _ in forms]
    added: list[AddedWord] = []
    before = len(forms)
    for i, j in reversed(paired([forms[i] for i in said], heard)):
        if i is None:
            assert j is not None
            added.append(AddedWord(before, heard[j].form, (heard[j].start, heard[j].end)))
            continue
        before = said[i]
        words[before] = FoundWord(Said.LEFT_OUT, None) if j is None else _found(forms[before], heard[j])
    added.reverse()
    return Comparison(tuple(words), tuple(added))


def _found(form: str, heard: Heard) -> FoundWord:
    span = (heard.start, heard.end)
    if heard.form != form:
        return FoundWord(Said.OTHERWISE, span, heard.form)
    if not heard.fit:
        return FoundWord(Said.AS_WRITTEN, span, sure=False)
    return FoundWord(Said.AS_WRITTEN if heard.worst > MISFIT else Said.OTHERWISE, span)


def paired(forms: Sequence[str], heard: Sequence[Heard]) -> list[tuple[int | None, int | None]]:
    """Pairs of (script, heard) places with the fewest changes; None where one has no partner.

    Where many words in a row are the same they stay together, so that long recordings take no longer than they must.
    """
    said = [h.form for h in heard]
    pairs: list[Pair] = []
    i = j = 0
    runs = [
        (op.src_start + SURE, op.src_end - SURE, op.dest_start + SURE)
        for op in Levenshtein.opcodes(forms, said)
        if op.tag == "equal" and op.src_end - op.src_start > 2 * SURE
    ]
    for a, a_end, b in [*runs, (len(forms), len(forms), len(said))]:
        between = _fewest_changes(forms[i:a], heard[j:b])
        pairs += [(None if x is None else x + i, None if y is None else y + j) for x, y in between]
        pairs += [(a + k, b + k) for k in range(a_end - a)]
        i, j = a_end, b + a_end - a
    return pairs


def _fewest_changes(forms: Sequence[str], heard: Sequence[Heard]) -> list[Pair]:
    n, m = len(forms), len(heard)
    same = np.array([[f == h.form for h in heard] for f in forms], dtype=bool).reshape(n, m)
    cost = np.zeros((n + 1, m + 1))
    cost[:, 0], cost[0, :] = np.arange(n + 1), np.arange(m + 1)
    for i in range(1, n + 1):
        for j in range(1, m + 1):
            cost[i, j] = min(
                cost[i - 1, j - 1] + (0.0 if same[i - 1, j - 1] else 1.2), cost[i - 1, j] + 1, cost[i, j - 1] + 1
            )
    pairs: list[Pair] = []
    i, j = n, m
    while i or j:
        if i and j and np.isclose(cost[i, j], cost[i - 1, j - 1] + (0.0 if same[i - 1, j - 1] else 1.2)):
            i, j = i - 1, j - 1
            pairs.append((i, j))
        elif i and np.isclose(cost[i, j], cost[i - 1, j] + 1):
            i -= 1
            pairs.append((i, None))
        else:
            j -= 1
            pairs.append((None, j))
    return pairs[::-1]
