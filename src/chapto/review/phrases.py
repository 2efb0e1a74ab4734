"""Words that checks look for, read from data."""

from __future__ import annotations

import tomllib
from collections.abc import Iterator
from functools import lru_cache
from pathlib import Path

from chapto.review.texts import Text

DATA = Path(__file__).with_name("phrases.toml")


@lru_cache(maxsize=1)
def phrases() -> dict[str, dict[str, tuple[str, ...]]]:
    """All of `phrases.toml`, by subject and list."""
    tables = tomllib.loads(DATA.read_text("utf-8"))
    return {subject: {name: tuple(row) for name, row in lists.items()} for subject, lists in tables.items()}


def found_in(text: Text, wanted: tuple[str, ...]) -> Iterator[tuple[int, int]]:
    """Half-open ranges of the words where one of some phrases stands, in order; of those that overlap the longest."""
    hits = [(i, i + len(p)) for phrase in wanted for p in [phrase.split()] for i in text.places(p)]
    last = 0
    for first, end in sorted(hits, key=lambda hit: (hit[0], hit[0] - hit[1])):
        if first >= last:
            yield first, end
            last = end


def stands_after(text: Text, word: int, wanted: tuple[str, ...]) -> bool:
    """Whether one of some phrases stands right before a word."""
    return any(text.plain[max(word - len(p), 0) : word] == tuple(p) for phrase in wanted for p in [phrase.split()])
