"""What the creator decided about the shelf. It belongs to no single breakdown, and it is never made anew: folders that
are looked through, what was opened, promises let go or kept, requests of viewers, the plan."""

from __future__ import annotations

import fcntl
import os
from collections.abc import Callable
from contextlib import suppress
from datetime import date
from enum import StrEnum
from pathlib import Path

import msgspec

from chapto.shelf.errors import DamagedBook, ShelfError
from chapto.shelf.home import book_file
from chapto.store.atomic import write_atomically
from chapto.store.errors import plain_reason
from chapto.store.outputs import free_name

FORMAT, VERSION = "chapto shelf", 1


class Ended(StrEnum):
    """What became of a promise."""

    KEPT = "kept"
    LET_GO = "let go"


class Settled(msgspec.Struct, frozen=True, kw_only=True, forbid_unknown_fields=True):
    """What became of a promise (its `key` is that of `indexed.Promise`) or of a request (its id), and on which `day`
    (ISO 8601). It was made in the breakdown at `path`. `words` say how: an address, a title, a reason."""

    key: str
    path: str = ""
    how: Ended = Ended.KEPT
    day: str = ""
    words: str = ""


class Request(msgspec.Struct, frozen=True, kw_only=True, forbid_unknown_fields=True):
    """What a viewer or a guest asked for, as it was typed in on a `day`; `path` is the breakdown it was asked under."""

    id: str
    text: str
    day: str
    path: str = ""


class Planned(msgspec.Struct, frozen=True, kw_only=True, forbid_unknown_fields=True):
    """A video that is planned, and the `day` it is to go out. `footage` are paths of what is at hand. So many `minutes`
    of work are thought to be left. `promise` is the key of what it keeps."""

    id: str
    subject: str
    day: str
    minutes: int = 0
    footage: tuple[str, ...] = ()
    promise: str = ""
    done: bool = False


class Book(msgspec.Struct, frozen=True, kw_only=True, forbid_unknown_fields=True):
    """All of it. `note_times` is None until the creator was asked; `free` are hours in a week from Monday on;
    `forgotten` are digests of names."""

    format: str = FORMAT
    version: int = VERSION
    folders: tuple[str, ...] = ()
    opened: tuple[str, ...] = ()
    requests: tuple[Request, ...] = ()
    settled: tuple[Settled, ...] = ()
    plan: tuple[Planned, ...] = ()
    free: tuple[float, float, float, float, float, float, float] = (0.0, 2.0, 0.0, 2.0, 0.0, 3.0, 0.0)
    note_times: bool | None = None
    forgotten: tuple[str, ...] = ()


def read_book(shelf: Path) -> Book:
    """The book of a shelf; a new one where there is none. `ShelfError` where it can't be read: it is not replaced."""
    place = book_file(shelf)
    try:
        data = place.read_bytes()
    except FileNotFoundError:
        return Book()
    except OSError as error:
        raise ShelfError(f"“{place}” can't be read: {plain_reason(error)}.") from None
    try:
        book = msgspec.json.decode(data, type=Book)
    except (msgspec.DecodeError, UnicodeDecodeError, RecursionError) as error:
        raise DamagedBook(f"“{place}” is damaged: {error}. Put it right, or aside: then it begins anew.") from None
    try:
        for day in (*(r.day for r in book.requests), *(s.day for s in book.settled), *(p.day for p in book.plan)):
            date.fromisoformat(day)
    except ValueError as error:
        raise DamagedBook(f"“{place}” is damaged: {error}. Put it right, or aside: then it begins anew.") from None
    if book.format != FORMAT or book.version > VERSION:
        raise ShelfError(f"“{place}” was written by a newer Chapto; it was left as it is.")
    return book


def change_book(shelf: Path, change: Callable[[Book], Book]) -> Book:
    """Change the book, whoever else does so at the same time; the new one. `ShelfError` leaves it as it was."""
    try:
        shelf.mkdir(parents=True, exist_ok=True)
        handle = os.open(shelf / "shelf.lock", os.O_CREAT | os.O_RDWR, 0o666)
    except OSError as error:
        raise ShelfError(f"The shelf in “{shelf}” can't be written to: {plain_reason(error)}.") from None
    try:
        fcntl.flock(handle, fcntl.LOCK_EX)
        before = read_book(shelf)
        after = change(before)
        if after != before:
            write_atomically(book_file(shelf), msgspec.json.format(msgspec.json.encode(after), indent=1) + b"\n")
        return after
    finally:
        os.close(handle)


def put_aside(shelf: Path) -> Path | None:
    """Move a book that can't be read aside, under a name that is free; where to."""
    place = book_file(shelf)
    with suppress(OSError):
        aside = free_name(place.with_name("shelf (damaged).json"))
        place.rename(aside)
        return aside
    return None
