"""Putting breakdowns into the index, following those that moved, and naming those that are damaged or gone."""

from __future__ import annotations

import contextlib
import json
import os
import sqlite3
import stat
from collections.abc import Callable, Iterable, Iterator, Sequence
from dataclasses import dataclass
from datetime import date, datetime
from pathlib import Path

from chapto.document.breakdown import Breakdown
from chapto.errors import Cancelled, ChaptoError
from chapto.lexicon.lexicon import Lexicon
from chapto.shelf.database import Database
from chapto.shelf.errors import ShelfError
from chapto.shelf.forgotten import NOBODY, Forgotten, without
from chapto.shelf.home import is_text
from chapto.shelf.indexed import Indexed
from chapto.shelf.reading import indexed
from chapto.store.errors import plain_reason
from chapto.store.schema import decode, digest

HERE, MISSING, DAMAGED = "here", "missing", "damaged"
ENDING = ".chapto"
LARGEST = 200_000_000
"""Bytes; no breakdown comes near it."""
DEEPEST = 12
"""Folders into folders that are looked through."""
Filmed = Callable[[Breakdown, Path], str]
"""The day a breakdown's footage was filmed on, as ISO 8601; empty where no file says so."""


@dataclass(frozen=True)
class Refreshed:
    """What a look through all folders found: how many breakdowns were read, which moved from where to where, how many
    are missing, and a sentence for each that is damaged."""

    read: int = 0
    moves: tuple[tuple[str, str], ...] = ()
    missing: int = 0
    troubles: tuple[str, ...] = ()


@dataclass(frozen=True)
class _File:
    path: str
    changed: int
    size: int


class Index:
    """Writes the index of one shelf. `filmed` looks into footage for its day, if anybody does."""

    def __init__(
        self,
        database: Database,
        lexicon: Lexicon,
        *,
        forgotten: Forgotten = NOBODY,
        filmed: Filmed = lambda b, path: "",
    ) -> None:
        self._db, self._lexicon = database, lexicon
        self._forgotten, self._filmed = forgotten, filmed

    def refresh(
        self,
        folders: Iterable[Path],
        opened: Iterable[Path] = (),
        *,
        progress: Callable[[float], None] = lambda share: None,
        cancelled: Callable[[], bool] = lambda: False,
    ) -> Refreshed:
        """Read what is new or changed under `folders`, and of what was `opened` wherever it lies. What is known and no
        longer there is followed by its digest, else it is missing. Raises `Cancelled`; what was read stays."""
        known = {r["path"]: r for r in self._db.rows("SELECT path, state, changed, size, digest FROM breakdown")}
        listed = (*_under(folders), *_files(opened), *_files(Path(p) for p in known))
        there = {f.path: f for f in listed if is_text(f.path)}
        nameless = tuple(dict.fromkeys(_nameless(f.path) for f in listed if not is_text(f.path)))
        wanted = [
            f
            for f in there.values()
            if f.path not in known
            or (known[f.path]["changed"], known[f.path]["size"]) != (f.changed, f.size)
            or known[f.path]["state"] == MISSING
        ]
        read = 0
        moves: list[tuple[str, str]] = []
        for number, one in enumerate(wanted):
            if cancelled():
                raise Cancelled
            came_from = self._take(one)
            moves += [(came_from, one.path)] if came_from else []
            read += 1
            progress((number + 1) / len(wanted))
        followed = {old for old, _ in moves}
        left = [path for path in known if path not in there and path not in followed]
        with self._db.writing() as c:
            for path in left:
                c.execute(
                    "UPDATE breakdown SET state = ?, trouble = ? WHERE path = ?",
                    (MISSING, f"“{path}” is no longer there.", path),
                )
        troubles = [r["trouble"] for r in self._db.rows("SELECT trouble FROM breakdown WHERE state = ?", DAMAGED)]
        return Refreshed(read, tuple(moves), len(left), (*nameless, *troubles))

    def add(self, path: Path) -> str:
        """Read one breakdown, which was opened or saved; one that is gone is missing from now on. Where it was
        before, if it moved; else empty. `ShelfError` for a name that is no text."""
        if not is_text(str(path)):
            raise ShelfError(_nameless(str(path)))
        found = next(iter(_files([path])), None)
        if found is not None:
            return self._take(found)
        with self._db.writing() as c:
            c.execute(
                "UPDATE breakdown SET state = ?, trouble = ? WHERE path = ?",
                (MISSING, f"“{path}” is no longer there.", os.path.abspath(path)),
            )
        return ""

    def drop(self, path: str) -> None:
        """Take a breakdown off the shelf; its file is not touched."""
        with self._db.writing() as c:
            self._empty(c, path)
            c.execute("DELETE FROM breakdown WHERE path = ?", (path,))

    def read_again(self) -> None:
        """Forget how every file was: the next look reads all of them, as after somebody is to be forgotten."""
        with self._db.writing() as c:
            c.execute("UPDATE breakdown SET changed = 0, size = -1")

    def _take(self, file: _File) -> str:
        """Read one file into the index. Where it is one that was elsewhere before, by its digest: that place."""
        if file.size > LARGEST:
            self._damaged(file, "", f"“{file.path}” is too large to be a breakdown.")
            return ""
        try:
            data = Path(file.path).read_bytes()
        except OSError as error:
            self._damaged(file, "", f"“{file.path}” can't be read: {plain_reason(error)}.")
            return ""
        mark = digest(data)
        came_from = self._elsewhere_before(file.path, mark)
        try:
            b = decode(data, Path(file.path).name)
            found = without(indexed(b, self._lexicon), self._forgotten)
            filmed = self._filmed(b, Path(file.path))
        except ChaptoError as error:
            self._damaged(file, mark, str(error))
            return ""
        with self._db.writing() as c:
            if came_from:
                c.execute("UPDATE OR IGNORE breakdown SET path = ? WHERE path = ?", (file.path, came_from))
            _put(c, file, mark, found, filmed, self._empty(c, file.path))
        return came_from

    def _elsewhere_before(self, path: str, mark: str) -> str:
        """Where a file that nobody knows here was known, and is no more; empty where it was nowhere."""
        if self._db.rows("SELECT 1 FROM breakdown WHERE path = ?", path):
            return ""
        same = self._db.rows("SELECT path FROM breakdown WHERE digest = ? ORDER BY id", mark)
        return next((str(r["path"]) for r in same if not os.path.exists(r["path"])), "")

    def _empty(self, c: sqlite3.Connection, path: str) -> int | None:
        """Take out all that is known of a breakdown but its own row, whose number it gives."""
        row = c.execute("SELECT id FROM breakdown WHERE path = ?", (path,)).fetchone()
        if row is None:
            return None
        number = int(row["id"])
        c.execute("DELETE FROM words WHERE rowid IN (SELECT id FROM place WHERE breakdown = ?)", (number,))
        for table in ("place", "stay", "step", "seen", "out", "promise", "file"):
            c.execute(f"DELETE FROM {table} WHERE breakdown = ?", (number,))
        return number

    def _damaged(self, file: _File, mark: str, trouble: str) -> None:
        with self._db.writing() as c:
            self._empty(c, file.path)
            c.execute("INSERT OR IGNORE INTO breakdown (path, state) VALUES (?, ?)", (file.path, DAMAGED))
            c.execute(
                "UPDATE breakdown SET state = ?, trouble = ?, changed = ?, size = ?, digest = ? WHERE path = ?",
                (DAMAGED, trouble, file.changed, file.size, mark, file.path),
            )


def _put(c: sqlite3.Connection, file: _File, mark: str, found: Indexed, filmed: str, number: int | None) -> None:
    saved = datetime.fromtimestamp(file.changed / 1e9).date().isoformat()
    first_out = min((day for o in found.outs if (day := _day(o.at[:10]))), default="")
    row = {
        "path": file.path, "state": HERE, "trouble": "", "changed": file.changed, "size": file.size, "digest": mark,
        "title": found.title, "part": found.part, "first": found.first, "second": found.second, "rules": found.rules,
        "style": found.style, "about": found.about, "sections": json.dumps(found.sections, ensure_ascii=False),
        "marks": json.dumps(found.marks), "filmed": filmed, "saved": saved, "day": filmed or first_out or saved,
    }  # fmt: skip
    if number is None:
        number = _insert(c, "breakdown", row)
    else:
        c.execute(f"UPDATE breakdown SET {', '.join(f'{k} = ?' for k in row)} WHERE id = ?", (*row.values(), number))
    of = " ".join((found.title, found.part, found.rules, found.about))
    for p in found.places:
        place = _insert(
            c, "place",
            {
                "breakdown": number, "key": p.key, "is_exchange": p.is_exchange, "start": p.start, "end": p.end,
                "footage": p.footage, "media_in": p.media_in, "media_out": p.media_out, "technique": p.technique,
                "called": p.called, "who": p.who, "against": p.against, "outcome": p.outcome, "before": p.before,
                "after": p.after, "way": json.dumps(p.way), "moments": json.dumps(p.moments),
                "explained": p.explained, "answer": p.answer, "answer_after": p.answer_after, "round": p.round,
                "same": p.same or f"{number}/{p.key}",
            },
        )  # fmt: skip
        who = " ".join((p.who, p.against, p.outcome, p.round))
        c.execute(
            "INSERT INTO words (rowid, names, said, noted, who, of) VALUES (?, ?, ?, ?, ?, ?)",
            (place, p.names, p.said, p.noted, who, of),
        )
    _many(
        c,
        "stay",
        number,
        [(s.position, s.start, s.seconds, s.top, s.explained, s.same or f"{number}/{s.start}") for s in found.stays],
    )
    _many(
        c,
        "step",
        number,
        [(s.start, s.end, s.at, s.key, s.outcome, s.explained, s.same or f"{number}/{s.at}") for s in found.steps],
    )
    _many(c, "file", number, [(f.id, f.name, f.path, f.fingerprint, f.mirrored) for f in found.files])
    _many(
        c, "seen", number,
        [(s.name, s.part, s.agreement, s.how, s.when, s.minor, s.credit, s.until, s.is_owner) for s in found.people],
    )  # fmt: skip
    _many(
        c, "out", number, [(o.at, o.site, o.address, o.title, o.goes_public, o.withdrawn) for o in found.outs]
    )  # fmt: skip
    _many(c, "promise", number, [(p.kind, p.quote, p.sentence, p.beat, p.word, p.place) for p in found.promises])


def _day(text: str) -> str:
    """A day as ISO 8601, if it is one."""
    try:
        return date.fromisoformat(text).isoformat()
    except ValueError:
        return ""


def _nameless(path: str) -> str:
    shown = path.encode("utf-8", "replace").decode()
    return f"“{shown}” has a name that is no text; rename it, then it comes onto the shelf."


def _insert(c: sqlite3.Connection, table: str, row: dict[str, object]) -> int:
    names = ", ".join(f'"{k}"' for k in row)
    marks = ", ".join("?" * len(row))
    return int(c.execute(f"INSERT INTO {table} ({names}) VALUES ({marks})", tuple(row.values())).lastrowid or 0)


def _many(c: sqlite3.Connection, table: str, number: int, rows: Sequence[tuple[object, ...]]) -> None:
    if rows:
        marks = ", ".join("?" * (len(rows[0]) + 1))
        c.executemany(f"INSERT INTO {table} VALUES ({marks})", [(number, *row) for row in rows])


def _under(folders: Iterable[Path]) -> Iterator[_File]:
    """Every breakdown under some folders; hidden folders and links to folders are passed by."""
    for folder in folders:
        base = str(folder).rstrip(os.sep).count(os.sep)
        for here, inside, names in os.walk(os.path.abspath(folder)):
            inside[:] = [] if here.count(os.sep) - base >= DEEPEST else sorted(n for n in inside if n[0] != ".")
            yield from _files(Path(here, n) for n in sorted(names) if n.endswith(ENDING) and n[0] != ".")


def _files(paths: Iterable[Path]) -> Iterator[_File]:
    for path in paths:
        with contextlib.suppress(OSError):
            found = os.stat(path)
            # A pipe of that name would be waited for.
            if not stat.S_ISREG(found.st_mode):
                continue
            yield _File(os.path.abspath(path), found.st_mtime_ns, found.st_size)
