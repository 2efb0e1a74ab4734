"""Words as the index finds them: small, without accents, each the beginning of one that stands there."""

from __future__ import annotations

import re
import unicodedata
from collections.abc import Iterable

_WORD = re.compile(r"[^\W_]+")


def tokens(text: str) -> list[str]:
    """The words of a text as SQLite's `unicode61` takes them apart: runs of letters and digits, without accents, in
    small letters (sqlite.org/fts5.html, from memory)."""
    plain = unicodedata.normalize("NFKD", text)
    return _WORD.findall("".join(c for c in plain if not unicodedata.combining(c)).lower())


def match(words: Iterable[str]) -> str:
    """The same words as a question to FTS5; empty for none. Nothing that is typed can be taken for its signs."""
    return " AND ".join(f'"{token}"*' for word in words for token in tokens(word))


def stand_in(words: Iterable[str], text: str) -> bool:
    """Whether each of some words begins a word of a text: what the index answers, found by plain looking."""
    there = tokens(text)
    return all(any(t.startswith(token) for t in there) for word in words for token in tokens(word))
