"""Changes of the book, each a pure function of it."""

from __future__ import annotations

import os
from datetime import date
from itertools import count
from pathlib import Path
from typing import Any

from msgspec.structs import replace

from chapto.shelf.book import Book, Ended, Planned, Request, Settled
from chapto.shelf.errors import ShelfError
from chapto.shelf.forgotten import mark_of
from chapto.shelf.home import is_text

LONGEST = 400


def add_folder(book: Book, folder: Path) -> Book:
    """With a folder whose breakdowns belong on the shelf. `ShelfError` where it is none."""
    if not folder.is_dir():
        raise ShelfError(f"“{folder}” is no folder.")
    return replace(book, folders=_with(book.folders, os.path.abspath(folder)))


def drop_folder(book: Book, folder: str) -> Book:
    """Without a folder; nothing in it is touched."""
    return replace(book, folders=tuple(f for f in book.folders if f != folder))


def note_opened(book: Book, path: Path) -> Book:
    """With a breakdown that was opened, wherever it lies. `ShelfError` for a name that is no text."""
    if not is_text(str(path)):
        raise ShelfError(f"“{path.name.encode('utf-8', 'replace').decode()}” has a name that is no text.")
    return replace(book, opened=_with(book.opened, os.path.abspath(path)))


def forget_opened(book: Book, path: str) -> Book:
    """As if it had never been opened."""
    return replace(book, opened=tuple(p for p in book.opened if p != path))


def ask_for(book: Book, text: str, *, day: date, path: str = "") -> Book:
    """With a request as somebody typed it in. `ShelfError` for nothing."""
    text = " ".join(text.split())[:LONGEST]
    if not text:
        raise ShelfError("Write what is asked for first.")
    made = Request(id=_fresh("q", (r.id for r in book.requests)), text=text, day=day.isoformat(), path=path)
    return replace(book, requests=(*book.requests, made))


def settle(book: Book, key: str, path: str, how: Ended, *, day: date, words: str = "") -> Book:
    """With a promise or a request kept or let go."""
    made = Settled(key=key, path=path, how=how, day=day.isoformat(), words=words.strip()[:LONGEST])
    return replace(book, settled=(*_others(book, key, path), made))


def open_again(book: Book, key: str, path: str) -> Book:
    """With a promise open again."""
    return replace(book, settled=_others(book, key, path))


def plan(book: Book, subject: str, day: date, **fields: Any) -> Book:
    """With one more planned video. `ShelfError` without a subject."""
    subject = " ".join(subject.split())[:LONGEST]
    if not subject:
        raise ShelfError("Write what the video is to be about first.")
    made = Planned(id=_fresh("v", (p.id for p in book.plan)), subject=subject, day=day.isoformat(), **fields)
    return replace(book, plan=_in_order((*book.plan, made)))


def change_planned(book: Book, planned: str, **changes: Any) -> Book:
    """With one planned video changed: moved to another `day` (a date), called otherwise, done."""
    if isinstance(changes.get("day"), date):
        changes["day"] = changes["day"].isoformat()
    if not any(p.id == planned for p in book.plan):
        raise ShelfError("That is not planned any more.")
    return replace(book, plan=_in_order(tuple(replace(p, **changes) if p.id == planned else p for p in book.plan)))


def drop_planned(book: Book, planned: str) -> Book:
    """Without one planned video."""
    return replace(book, plan=tuple(p for p in book.plan if p.id != planned))


def set_free(book: Book, weekday: int, hours: float) -> Book:
    """With hours free on a weekday (0 is Monday)."""
    free = list(book.free)
    free[weekday] = round(min(max(hours, 0.0), 24.0) * 2) / 2
    return replace(book, free=tuple(free))


def note_times(book: Book, *, wanted: bool) -> Book:
    """Whether Chapto notes how long the stages take."""
    return replace(book, note_times=wanted)


def forget_person(book: Book, name: str) -> Book:
    """With somebody to be forgotten, whatever is read later. `ShelfError` without a name."""
    if not name.strip():
        raise ShelfError("Say whom to forget.")
    return replace(book, forgotten=_with(book.forgotten, mark_of(name)))


def moved(book: Book, old: str, new: str) -> Book:
    """With a breakdown at another place: what was decided about it goes along."""
    return replace(
        book,
        opened=tuple(dict.fromkeys(new if p == old else p for p in book.opened)),
        requests=tuple(replace(r, path=new) if r.path == old else r for r in book.requests),
        settled=tuple(replace(s, path=new) if s.path == old else s for s in book.settled),
        plan=tuple(replace(p, footage=tuple(new if f == old else f for f in p.footage)) for p in book.plan),
    )


def _with(items: tuple[str, ...], one: str) -> tuple[str, ...]:
    return items if one in items else (*items, one)


def _others(book: Book, key: str, path: str) -> tuple[Settled, ...]:
    return tuple(s for s in book.settled if (s.key, s.path) != (key, path))


def _in_order(items: tuple[Planned, ...]) -> tuple[Planned, ...]:
    return tuple(sorted(items, key=lambda p: (p.day, p.id)))


def _fresh(prefix: str, taken: Any) -> str:
    known = set(taken)
    return next(name for n in count(1) if (name := f"{prefix}{n}") not in known)
