"""A plan of weeks: what is to go out on which day, and whether the hours that are free suffice until then."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from datetime import date, timedelta

from chapto.shelf.book import Book, Planned
from chapto.shelf.edit_book import plan

SHOWN = 6
"""Weeks."""


@dataclass(frozen=True)
class Day:
    """One day: hours that are free, and what is to go out then."""

    day: date
    free: float
    planned: tuple[Planned, ...]


@dataclass(frozen=True)
class Load:
    """A planned video with the hours free for it: from today, or from the day the one before it is out, to its day.
    `missing` hours are too few."""

    planned: Planned
    hours: float
    needed: float

    @property
    def missing(self) -> float:
        """Hours that are too few; 0 where it fits."""
        return max(self.needed - self.hours, 0.0)


def weeks(book: Book, today: date, *, count: int = SHOWN) -> tuple[tuple[Day, ...], ...]:
    """Weeks from Monday on, the first with today in it."""
    monday = today - timedelta(today.weekday())
    found = []
    for week in range(count):
        days = [monday + timedelta(7 * week + i) for i in range(7)]
        found.append(tuple(_day(book, d, today) for d in days))
    return tuple(found)


def loads(book: Book, today: date) -> tuple[Load, ...]:
    """Every planned video that is not done and whose day is still to come, in the order of its day: each has the hours
    that those before it leave."""
    left, found = 0.0, []
    at = today
    for p in _to_come(book, today):
        day = date.fromisoformat(p.day)
        left += sum(book.free[d.weekday()] for d in _days(at, day))
        at = max(at, day)
        needed = p.minutes / 60
        found.append(Load(p, left, needed))
        left = max(left - needed, 0.0)
    return tuple(found)


def overdue(book: Book, today: date) -> tuple[Planned, ...]:
    """What was to be out before today and is not done."""
    return tuple(p for p in book.plan if not p.done and date.fromisoformat(p.day) < today)


def first_day_for(book: Book, minutes: int, today: date) -> date:
    """The first day by which a new video of so many minutes' work is done, after all that is planned; at most a year
    away."""
    planned = sum(p.minutes for p in book.plan if not p.done) / 60 + minutes / 60
    day, hours = today, 0.0
    for _ in range(366):
        hours += book.free[day.weekday()]
        if hours >= planned:
            return day
        day += timedelta(1)
    return day


def planned_soon(book: Book, subject: str, minutes: int, today: date, *, promise: str = "") -> Book:
    """With a video of so many minutes' work planned for the first day by which it can be done."""
    return plan(book, subject, first_day_for(book, minutes, today), minutes=minutes, promise=promise)


def _day(book: Book, day: date, today: date) -> Day:
    there = tuple(p for p in book.plan if p.day == day.isoformat())
    return Day(day, book.free[day.weekday()] if day >= today else 0.0, there)


def _to_come(book: Book, today: date) -> Sequence[Planned]:
    return [p for p in book.plan if not p.done and date.fromisoformat(p.day) >= today]


def _days(start: date, end: date) -> Iterator[date]:
    """The days `start ≤ d < end`."""
    for i in range((end - start).days):
        yield start + timedelta(i)
