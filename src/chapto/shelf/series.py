"""Parts of one subject: which there are, and what comes next."""

from __future__ import annotations

import re
from dataclasses import dataclass

from chapto.shelf.database import Database

NUMBERS = ("one", "two", "three", "four", "five", "six", "seven", "eight", "nine", "ten")
_PART = re.compile(rf"\b(?:part|no\.?|number|episode|#)\s*(\d+|{'|'.join(NUMBERS)})\b", re.IGNORECASE)


@dataclass(frozen=True)
class Part:
    """One breakdown of a series: its number, title, path, and whether it went out."""

    number: int
    title: str
    path: str
    is_out: bool


@dataclass(frozen=True)
class Series:
    """A subject with its parts in order; `next` is the first number that is not there."""

    subject: str
    parts: tuple[Part, ...]

    @property
    def next(self) -> int:
        """The first number that is missing."""
        there = {p.number for p in self.parts}
        return next(n for n in range(1, len(there) + 2) if n not in there)


def part_number(text: str) -> int | None:
    """The number of a part that a title or a part's name gives; None where it gives none."""
    found = _PART.search(text)
    if found is None:
        return None
    said = found[1].casefold()
    return int(said) if said.isdigit() else NUMBERS.index(said) + 1


def subject_of(title: str) -> str:
    """A title without the number of its part."""
    return _PART.sub("", title).strip(" ,:;–—-()")


def all_series(database: Database) -> tuple[Series, ...]:
    """Every subject of which a breakdown says that it is a part, those worked on last first."""
    found: dict[str, list[tuple[str, Part]]] = {}
    rows = database.rows(
        "SELECT path, title, part, day, EXISTS (SELECT 1 FROM out WHERE out.breakdown = breakdown.id "
        "AND withdrawn = '') AS is_out FROM breakdown WHERE state = 'here'"
    )
    for r in rows:
        number = part_number(r["title"]) or part_number(r["part"])
        if number is not None:
            part = Part(number, r["title"], r["path"], bool(r["is_out"]))
            found.setdefault(subject_of(r["title"]), []).append((r["day"], part))
    made = [
        (max(day for day, _ in parts), Series(subject, tuple(sorted((p for _, p in parts), key=lambda p: p.number))))
        for subject, parts in found.items()
    ]
    return tuple(s for _, s in sorted(made, key=lambda row: row[0], reverse=True))
