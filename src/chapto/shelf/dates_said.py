"""Days as people say them in a line: “march”, “since 2026-03”, “last month”, “before 2025”."""

from __future__ import annotations

import re
from collections.abc import Sequence
from datetime import date, timedelta

from chapto.shelf.query import Asks, Filter

MONTHS = ("january", "february", "march", "april", "may", "june", "july", "august", "september", "october", "november",
          "december")  # fmt: skip
FROM_ON, UP_TO = ("since", "after", "from"), ("before", "until", "till")
_DAY = re.compile(r"(\d{4})(?:-(\d{1,2})(?:-(\d{1,2}))?)?$")
Span = tuple[date, date]
"""Half-open."""


def dates_at(words: Sequence[str], at: int, today: date) -> tuple[int, tuple[Filter, ...]]:
    """How many of the words from `at` on say a time, and what they ask; 0 where none do."""
    first = words[at]
    if first in (*FROM_ON, *UP_TO) and at + 1 < len(words):
        used, span = _span(words, at + 1, today)
        if span is None:
            return 0, ()
        if first in FROM_ON:
            return used + 1, (Filter(Asks.SINCE, span[0].isoformat(), _label("since", span[0])),)
        return used + 1, (Filter(Asks.UNTIL, span[0].isoformat(), _label("before", span[0])),)
    used, span = _span(words, at, today)
    if span is None:
        return 0, ()
    since = Filter(Asks.SINCE, span[0].isoformat(), _label("since", span[0]))
    return used, (since, Filter(Asks.UNTIL, span[1].isoformat(), _label("before", span[1])))


def day_said(day: date | str) -> str:
    """A day as people write it: “3 March 2026”; a text that is none stays as it is."""
    try:
        at = day if isinstance(day, date) else date.fromisoformat(day)
    except ValueError:
        return str(day)
    return f"{at.day} {MONTHS[at.month - 1].title()} {at.year}"


def _label(word: str, day: date) -> str:
    return f"{word} {day_said(day)}"


def _span(words: Sequence[str], at: int, today: date) -> tuple[int, Span | None]:
    word, following = words[at], words[at + 1] if at + 1 < len(words) else ""
    if found := _DAY.match(word):
        return 1, _of_numbers(*(int(g) if g else 0 for g in found.groups()))
    if word in MONTHS:
        month = MONTHS.index(word) + 1
        if re.fullmatch(r"\d{4}", following):
            return 2, _of_numbers(int(following), month, 0)
        # Without a year it is the last one that has begun.
        return 1, _of_numbers(today.year if month <= today.month else today.year - 1, month, 0)
    if word == "today":
        return 1, (today, today + timedelta(1))
    if word == "yesterday":
        return 1, (today - timedelta(1), today)
    if word in ("this", "last") and following in ("week", "month", "year"):
        return 2, _turn(today, following, back=word == "last")
    return 0, None


def _of_numbers(year: int, month: int, day: int) -> Span | None:
    try:
        if day:
            start = date(year, month, day)
            return start, start + timedelta(1)
        if month:
            return date(year, month, 1), date(year + month // 12, month % 12 + 1, 1)
        return date(year, 1, 1), date(year + 1, 1, 1)
    except ValueError:
        return None


def _turn(today: date, what: str, *, back: bool) -> Span:
    if what == "week":
        start = today - timedelta(today.weekday() + 7 * back)
        return start, start + timedelta(7)
    if what == "year":
        return date(today.year - back, 1, 1), date(today.year - back + 1, 1, 1)
    months = today.year * 12 + today.month - 1 - back
    return date(months // 12, months % 12 + 1, 1), date((months + 1) // 12, (months + 1) % 12 + 1, 1)
