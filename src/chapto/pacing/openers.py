"""Words with which a narrator begins something new, read from data."""

from __future__ import annotations

import tomllib
from collections.abc import Sequence
from functools import lru_cache
from pathlib import Path

import msgspec

from chapto.lexicon.lexicon import shipped_lexicon

DATA = Path(__file__).with_name("openers.toml")
OPENS = 1.0
"""Weight from which an opener begins a beat; a lighter one only a phrase."""
NAME, DOER = 0.9, 0.45
"""Weights of a technique's name that begins a clause, and of who does something."""
NOTHING_BEGINS = -1.5
"""Weight of a word behind one that leans on it."""


class Opener(msgspec.Struct, frozen=True, kw_only=True, forbid_unknown_fields=True):
    """One row of `openers.toml`."""

    words: str
    weight: float
    not_after: frozenset[str] = frozenset()
    not_before: frozenset[str] = frozenset()
    before: frozenset[str] = frozenset()


class Openers(msgspec.Struct, frozen=True, kw_only=True, forbid_unknown_fields=True):
    """All of `openers.toml`."""

    leaning: frozenset[str]
    doers: frozenset[str]
    opener: tuple[Opener, ...]


def weights(plain: Sequence[str]) -> list[float]:
    """For each word (small letters, no marks) how much speaks for something new beginning with it: see `openers.toml`.
    The words inside an opener begin nothing."""
    known, longest, names = _known()
    found = [0.0] * len(plain)
    taken = 0
    for i, word in enumerate(plain):
        if i < taken:
            found[i] = NOTHING_BEGINS
            continue
        opener, name = _opener_at(plain, i, known, longest), _name_at(plain, i, names)
        taken = i + max(name, len(opener.words.split()) if opener else 0)
        if opener is not None:
            found[i] = opener.weight
        elif i and plain[i - 1] in openers().leaning:
            found[i] = NOTHING_BEGINS
        elif name:
            found[i] = NAME
        elif word in openers().doers:
            found[i] = DOER
    return found


@lru_cache(maxsize=1)
def openers() -> Openers:
    """What ships."""
    return msgspec.convert(tomllib.loads(DATA.read_text("utf-8")), Openers)


@lru_cache(maxsize=1)
def _known() -> tuple[dict[str, list[Opener]], int, frozenset[tuple[str, ...]]]:
    """Openers by their words, the most words of one, and names of several words."""
    by_words: dict[str, list[Opener]] = {}
    for opener in openers().opener:
        by_words.setdefault(opener.words, []).append(opener)
    lexicon = shipped_lexicon()
    named = (*lexicon.techniques.values(), *lexicon.positions.values())
    names = (tuple(n.casefold().split()) for item in named for n in item.names())
    return by_words, max(len(words.split()) for words in by_words), frozenset(n for n in names if len(n) > 1)


def _opener_at(plain: Sequence[str], i: int, known: dict[str, list[Opener]], longest: int) -> Opener | None:
    for count in range(min(longest, len(plain) - i), 0, -1):
        for opener in known.get(" ".join(plain[i : i + count]), ()):
            after = plain[i + count] if i + count < len(plain) else ""
            stands = not i or plain[i - 1] not in opener.not_after
            if stands and after not in opener.not_before and (not opener.before or after in opener.before):
                return opener
    return None


def _name_at(plain: Sequence[str], i: int, names: frozenset[tuple[str, ...]]) -> int:
    """How many words from `i` on are a name of several words, 0 for none."""
    return next((n for n in (4, 3, 2) if tuple(plain[i : i + n]) in names), 0)
