"""What hangs on the words of a beat, when its words change: ties, times that came with it, turns of the picture."""

from __future__ import annotations

from collections.abc import Iterable
from difflib import SequenceMatcher
from typing import TypeVar

from msgspec.structs import replace

from chapto.document.script import Stamp, Tie, Turn

Hung = TypeVar("Hung", Tie, Stamp, Turn)
"""What hangs on one word of a beat."""


def carried(hung: tuple[Hung, ...], old: tuple[str, ...], new: tuple[str, ...]) -> tuple[Hung, ...]:
    """Where what is `hung` on the words `old` stands among the words `new`; what hangs on deleted words is gone."""
    if not hung or old == new:
        return hung
    place = places_of(old, new)
    return tuple(replace(t, word=place[t.word]) for t in hung if t.word in place)


def left_of(hung: tuple[Hung, ...], first: int, end: int) -> tuple[Hung, ...]:
    """What is left when the words `first … end` (half-open) go."""
    return tuple(t for t in hung if t.word < first) + shifted((t for t in hung if t.word >= end), first - end)


def shifted(hung: Iterable[Hung], by: int) -> tuple[Hung, ...]:
    """The same, so many words further on."""
    return tuple(replace(t, word=t.word + by) for t in hung)


def places_of(old: tuple[str, ...], new: tuple[str, ...]) -> dict[int, int]:
    """By the number of an old word, that of the new word which it is, or which took its place."""
    one, other = [w.casefold() for w in old], [w.casefold() for w in new]
    # Most edits change one place: only what lies between what stayed before and behind it is compared.
    most = min(len(one), len(other))
    before = next((k for k in range(most) if one[k] != other[k]), most)
    behind = next((k for k in range(most - before) if one[-1 - k] != other[-1 - k]), most - before)
    place = {k: k for k in range(before)}
    place |= {len(one) - 1 - k: len(other) - 1 - k for k in range(behind)}
    middle = one[before : len(one) - behind], other[before : len(other) - behind]
    for tag, i1, i2, j1, j2 in SequenceMatcher(None, *middle, autojunk=False).get_opcodes():
        if tag in ("equal", "replace"):
            place |= {before + i1 + k: before + j1 + k for k in range(min(i2 - i1, j2 - j1))}
    return place
