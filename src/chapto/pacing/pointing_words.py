"""Words that point: "here", "right there", "this hand", "one more time"; forms are data."""

from __future__ import annotations

import tomllib
from collections.abc import Sequence
from functools import lru_cache
from pathlib import Path

import msgspec

from chapto.document.script import plain_word, words_of
from chapto.pacing.spoken import STOP_PAUSE, pause_after

DATA = Path(__file__).with_name("pointing.toml")


class Pointer(msgspec.Struct, frozen=True, kw_only=True, forbid_unknown_fields=True):
    """A word that points, except right after or right before some others."""

    word: str
    not_after: tuple[str, ...] = ()
    not_before: tuple[str, ...] = ()
    unless_before: tuple[str, ...] = ()


class Phrase(msgspec.Struct, frozen=True, kw_only=True, forbid_unknown_fields=True):
    """Words together that point: the word `points` of them, the last by default."""

    words: str
    points: str = ""
    not_after: tuple[str, ...] = ()


class Parts(msgspec.Struct, frozen=True, kw_only=True, forbid_unknown_fields=True):
    """“This hand”: things that are pointed at, and the words round them."""

    demonstratives: frozenset[str]
    things: frozenset[str]
    not_before: tuple[str, ...]
    between: frozenset[str]
    loose: frozenset[str]
    loose_not_after: tuple[str, ...]


class Calls(msgspec.Struct, frozen=True, kw_only=True, forbid_unknown_fields=True):
    """Calls for attention."""

    words: frozenset[str]
    not_after: tuple[str, ...]
    not_before: tuple[str, ...]


class Pointing(msgspec.Struct, frozen=True, kw_only=True, forbid_unknown_fields=True):
    """All of `pointing.toml`."""

    pointer: tuple[Pointer, ...]
    parts: Parts
    phrase: tuple[Phrase, ...]
    calls: Calls
    kinds: dict[str, tuple[str, ...]]


@lru_cache(maxsize=1)
def pointing() -> Pointing:
    """What ships."""
    return msgspec.convert(tomllib.loads(DATA.read_text("utf-8")), Pointing)


@lru_cache(maxsize=4096)
def pointing_words(text: str) -> tuple[int, ...]:
    """Numbers of the words that point. Calls for attention count in sentences without another; of two in a row the last
    counts."""
    found: list[int] = []
    words = words_of(text)
    for first, end in sentences(words):
        said = _Sentence(words[first:end])
        here = sorted({*_singles(said), *_parts(said), *_phrases(said)})
        here = [i for n, i in enumerate(here) if n + 1 == len(here) or here[n + 1] - i > 1]
        found += [first + i for i in here or _calls(said)[-1:]]
    return tuple(found)


def sentences(words: Sequence[str]) -> list[tuple[int, int]]:
    """Half-open ranges of words up to each stop."""
    ends = [i + 1 for i, w in enumerate(words) if pause_after(w) == STOP_PAUSE or i == len(words) - 1]
    return list(zip([0, *ends[:-1]], ends, strict=True)) if ends else []


class _Sentence:
    """The plain words of a sentence, and what stands round each without a mark between."""

    def __init__(self, words: Sequence[str]) -> None:
        self.plain = [plain_word(w) for w in words]
        self._ends = [pause_after(w) > 0 for w in words]

    def before(self, i: int) -> str:
        """The word right before word `i`."""
        return self.plain[i - 1] if i and not self._ends[i - 1] else ""

    def stands_after(self, i: int, phrases: Sequence[str]) -> bool:
        """Whether one of some phrases stands right before word `i`."""
        if i == 0 or self._ends[i - 1]:
            return False
        return any(self.plain[max(i - len(w), 0) : i] == w for w in (p.split() for p in phrases))

    def stands_before(self, i: int, phrases: Sequence[str]) -> bool:
        """Whether one of some phrases stands right behind word `i`."""
        if self._ends[i]:
            return False
        return any(self.plain[i + 1 : i + 1 + len(w)] == w for w in (p.split() for p in phrases))


def _singles(said: _Sentence) -> list[int]:
    by_word = {p.word: p for p in pointing().pointer}
    found = []
    for i, word in enumerate(said.plain):
        pointer = by_word.get(word)
        if pointer is None:
            continue
        # “Right there” points whatever stands around it.
        right = word in ("here", "there") and said.before(i) == "right"
        leads_in = said.stands_before(i, pointer.not_before) and not said.stands_before(i, pointer.unless_before)
        if right or not (leads_in or said.stands_after(i, pointer.not_after)):
            found.append(i)
    return found


def _parts(said: _Sentence) -> list[int]:
    parts = pointing().parts
    found = []
    for i, word in enumerate(said.plain):
        if word not in parts.things or said.stands_before(i, parts.not_before):
            continue
        first = i - 1 if said.before(i) in parts.between else i
        if said.before(first) not in parts.demonstratives:
            continue
        if word in parts.loose and (first < 2 or said.stands_after(first - 1, parts.loose_not_after)):
            continue
        found.append(i)
    return found


def _phrases(said: _Sentence) -> list[int]:
    found: list[int] = []
    for phrase in pointing().phrase:
        words = phrase.words.split()
        at = words.index(phrase.points) if phrase.points else len(words) - 1
        starts = (i for i in range(len(said.plain)) if said.plain[i : i + len(words)] == words)
        found += [i + at for i in starts if not said.stands_after(i, phrase.not_after)]
    return found


def _calls(said: _Sentence) -> list[int]:
    calls = pointing().calls
    return [
        i
        for i, word in enumerate(said.plain)
        if word in calls.words and not said.stands_after(i, calls.not_after)
        and not said.stands_before(i, calls.not_before)
    ]  # fmt: skip
