"""The shelf as its readers use it: the index, the book and the times of one folder, together."""

from __future__ import annotations

import os
from collections.abc import Callable
from datetime import date
from pathlib import Path

from chapto.lexicon.lexicon import Lexicon
from chapto.shelf import edit_book
from chapto.shelf.alike import Likes
from chapto.shelf.asking import Asking
from chapto.shelf.book import Book, change_book, read_book
from chapto.shelf.coverage import Coverage, coverage
from chapto.shelf.database import Database
from chapto.shelf.export import export_shelf
from chapto.shelf.forgotten import Forgotten, mark_of
from chapto.shelf.index import Filmed, Index, Refreshed
from chapto.shelf.people import Known, people
from chapto.shelf.person_figures import PersonFigures, people_with_figures, person_figures
from chapto.shelf.promises import Later, OnShelf, promises
from chapto.shelf.query import Query
from chapto.shelf.search import Search
from chapto.shelf.series import Series, all_series
from chapto.shelf.times import TimeNote, forget_times, read_times


class Shelf:
    """Belongs to the thread that made it; other threads and processes make their own. `ShelfError` where the folder
    can't be used, or the book in it not be read."""

    def __init__(self, folder: Path, lexicon: Lexicon, *, filmed: Filmed = lambda b, path: "") -> None:
        self.folder, self._lexicon, self._filmed = folder, lexicon, filmed
        self.book = read_book(folder)
        self._db = Database(folder)
        self.is_new = self._db.made_anew
        self.search = Search(self._db, lexicon)
        self.likes = Likes(self._db, self.search, lexicon)
        self._asking = Asking(lexicon)
        self._named: tuple[tuple[int, int], tuple[str, ...]] | None = None

    def __enter__(self) -> Shelf:
        return self

    def __exit__(self, *_: object) -> None:
        self.close()

    def close(self) -> None:
        """Give the index back."""
        self._db.close()

    def read_book(self) -> None:
        """Read again what was decided: another window may have."""
        self.book = read_book(self.folder)

    # ── what stands on it ────────────────────────────────────────────────────────────────────────────────
    def refresh(
        self,
        *,
        progress: Callable[[float], None] = lambda share: None,
        cancelled: Callable[[], bool] = lambda: False,
    ) -> Refreshed:
        """Read what is new or changed in the folders chosen and of what was opened; raises `Cancelled`."""
        found = self._index().refresh(
            [Path(f) for f in self.book.folders],
            [Path(p) for p in self.book.opened],
            progress=progress,
            cancelled=cancelled,
        )
        for old, new in found.moves:
            self.change(lambda book, old=old, new=new: edit_book.moved(book, old, new))  # type: ignore[misc]
        return found

    def add(self, project: Path) -> None:
        """Put a breakdown that was opened or saved on it, and remember that it was opened."""
        self.change(lambda book: edit_book.note_opened(book, project))
        if before := self._index().add(project):
            self.change(lambda book: edit_book.moved(book, before, os.path.abspath(project)))

    def forget_person(self, name: str) -> int:
        """Nothing on the shelf names them any more: index and times. In how many breakdowns they were; those still
        name them. `ShelfError` without a name."""
        mark = mark_of(name)
        inside = "JOIN breakdown ON breakdown.id ="
        named = self._db.rows(
            f"SELECT path, name FROM seen {inside} seen.breakdown UNION SELECT path, who FROM place {inside} "
            f"place.breakdown UNION SELECT path, against FROM place {inside} place.breakdown "
            "UNION SELECT path, first FROM breakdown UNION SELECT path, second FROM breakdown"
        )
        theirs = {str(path) for path, other in map(tuple, named) if mark_of(other) == mark}
        self.change(lambda book: edit_book.forget_person(book, name))
        word = "".join(name.casefold().split())
        kept = [n for n in self.times() if word not in "".join(c for c in n.path.casefold() if c.isalnum())]
        if len(kept) < len(self.times()):
            forget_times(self.folder, kept)
        index = self._index()
        for path in theirs:
            # What can't be read again can't be cleaned either.
            if not os.path.exists(path):
                index.drop(path)
        index.read_again()
        self.refresh()
        self._db.shrink()
        return len(theirs)

    def drop_folder(self, folder: str) -> None:
        """Look through a folder no more; what stands in it and was never opened goes off the shelf. No file is
        touched."""
        self.change(lambda book: edit_book.drop_folder(book, folder))
        kept = [f.rstrip(os.sep) + os.sep for f in self.book.folders]
        for row in self._db.rows("SELECT path FROM breakdown"):
            path = str(row["path"])
            stands = path in self.book.opened or any(path.startswith(f) for f in kept)
            if path.startswith(folder.rstrip(os.sep) + os.sep) and not stands:
                self._index().drop(path)

    def forget_missing(self, path: str) -> None:
        """Take a breakdown that is gone off it, if it still is."""
        if not os.path.exists(path):
            self._index().drop(path)
            self.change(lambda book: edit_book.forget_opened(book, path))

    def titles(self) -> dict[str, str]:
        """Titles by path."""
        return {r["path"]: r["title"] for r in self._db.rows("SELECT path, title FROM breakdown")}

    def breakdowns(self) -> list[dict[str, object]]:
        """Every breakdown as it is listed: path, state, trouble, title, part, day, and whether it is out."""
        return [
            dict(r)
            for r in self._db.rows(
                "SELECT path, state, trouble, title, part, day, EXISTS (SELECT 1 FROM out WHERE "
                "out.breakdown = breakdown.id AND withdrawn = '') AS is_out FROM breakdown ORDER BY day DESC, path"
            )
        ]

    def files_of(self, path: Path) -> dict[str, tuple[str, str, bool]]:
        """The footage of a breakdown by id: path as it has it, fingerprint, whether it is mirrored."""
        rows = self._db.rows(
            "SELECT file.* FROM file JOIN breakdown ON breakdown.id = file.breakdown WHERE breakdown.path = ?",
            str(path),
        )
        return {r["id"]: (r["path"], r["fingerprint"], bool(r["mirrored"])) for r in rows}

    # ── asking it ────────────────────────────────────────────────────────────────────────────────────────
    def understood(self, line: str, today: date) -> Query:
        """What a line asks for."""
        self._asking.knows(self.names())
        return self._asking.understood(line, today)

    def names(self) -> tuple[str, ...]:
        """Everybody who is in an exchange."""
        stamp = self._db.stamp
        if self._named is not None and self._named[0] == stamp:
            return self._named[1]
        rows = self._db.rows(
            "SELECT name FROM (SELECT who AS name, count(*) AS n FROM place GROUP BY 1 UNION ALL "
            "SELECT against, count(*) FROM place GROUP BY 1) WHERE name <> '' GROUP BY name ORDER BY sum(n) DESC"
        )
        self._named = stamp, tuple(r[0] for r in rows)
        return self._named[1]

    def coverage(self) -> Coverage:
        """What is covered, and not yet."""
        return coverage(self._db, self._lexicon)

    def series(self) -> tuple[Series, ...]:
        """Parts of one subject."""
        return all_series(self._db)

    def people(self, today: date) -> tuple[Known, ...]:
        """Everybody, and what they agreed to."""
        return people(self._db, today)

    def with_figures(self) -> tuple[str, ...]:
        """Those who agreed to be shown and are in an exchange."""
        return people_with_figures(self._db)

    def figures(self, name: str) -> PersonFigures:
        """What the logs say of one of them."""
        return person_figures(self._db, self._lexicon, name)

    def promises(self) -> tuple[OnShelf, ...]:
        """What was promised and asked for."""
        return promises(self._db, self.book)

    def later_than(self, day: str) -> list[Later]:
        """The breakdowns of that day and later."""
        rows = self._db.rows(
            "SELECT title, part, day, coalesce((SELECT address FROM out WHERE out.breakdown = breakdown.id AND "
            "withdrawn = '' ORDER BY at DESC LIMIT 1), '') AS address, path FROM breakdown "
            "WHERE state = 'here' AND day >= ?",
            day,
        )
        return [(r["title"], r["part"], r["day"], r["address"], r["path"]) for r in rows]

    def times(self) -> tuple[TimeNote, ...]:
        """What was noted of time."""
        return read_times(self.folder)

    # ── deciding ─────────────────────────────────────────────────────────────────────────────────────────
    def change(self, change: Callable[[Book], Book]) -> Book:
        """Change the book; it is kept at once."""
        self.book = change_book(self.folder, change)
        return self.book

    def export(self, folder: Path, *, replacing: bool = False) -> tuple[Path, ...]:
        """Everything in open formats; see `export_shelf`."""
        return export_shelf(self._db, self.book, self.times(), folder, replacing=replacing)

    def _index(self) -> Index:
        return Index(self._db, self._lexicon, forgotten=Forgotten(frozenset(self.book.forgotten)), filmed=self._filmed)
