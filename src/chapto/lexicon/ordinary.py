"""Ordinary English words, and how common they are."""

from __future__ import annotations

from functools import lru_cache

from chapto.lexicon.lexicon import DATA

UNKNOWN = 100
"""How common a word is that is not in the list: less than any."""


def commonness(word: str) -> int:
    """10 for the four thousand words that everybody uses, 20 for seven thousand more, 35 for the rest of a small
    dictionary. 50 is for a larger one and for names of people and places, `UNKNOWN` for what is in none. Capitals don't
    count. From SCOWL, see `ordinary.txt`."""
    return ordinary_words().get(word.casefold().replace("’", "'").removesuffix("'s"), UNKNOWN)


def is_ordinary(word: str) -> bool:
    """Whether a word stands in a dictionary of English, in either spelling."""
    return commonness(word) < UNKNOWN


@lru_cache(maxsize=1)
def ordinary_words() -> dict[str, int]:
    """Every word of the list with how common it is."""
    found: dict[str, int] = {}
    size = 0
    for line in (DATA / "ordinary.txt").read_text("utf-8").splitlines():
        if line.isdigit():
            size = int(line)
        elif not line.startswith("#"):
            found[line] = size
    return found
