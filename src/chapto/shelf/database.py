"""The file of the index: opened by several processes at once, made anew where it is of another version or damaged."""

from __future__ import annotations

import contextlib
import fcntl
import os
import sqlite3
from collections.abc import Iterator
from contextlib import contextmanager
from functools import lru_cache
from pathlib import Path

from chapto.shelf.errors import ShelfError
from chapto.shelf.home import index_file
from chapto.store.errors import plain_reason

VERSION = 1
"""Of the tables, and of what is read into them."""
PATIENCE = 20.0
"""Seconds for which a process waits while another one writes."""
_BESIDE = ("", "-wal", "-shm")


class Database:
    """One connection, of the thread that made it. `ShelfError` where nothing can be kept there."""

    def __init__(self, shelf: Path) -> None:
        self.place = index_file(shelf)
        self.made_anew = False
        try:
            shelf.mkdir(parents=True, exist_ok=True)
            with _alone(shelf / "index.lock"):
                self._open()
        except (OSError, sqlite3.Error) as error:
            reason = plain_reason(error) if isinstance(error, OSError) else str(error)
            raise ShelfError(f"The shelf in “{shelf}” can't be used: {reason}.") from None

    def _open(self) -> None:
        try:
            self._connect()
            if self.connection.execute("PRAGMA user_version").fetchone()[0] == VERSION:
                self.connection.execute("SELECT count(*) FROM breakdown").fetchone()
                return
            self.connection.close()
        except sqlite3.DatabaseError as error:
            with contextlib.suppress(AttributeError):
                self.connection.close()
            if isinstance(error, sqlite3.OperationalError) and not _is_strange(error):
                raise
        # Another version, or no such file: everything in it is in the breakdowns.
        for ending in _BESIDE:
            Path(f"{self.place}{ending}").unlink(missing_ok=True)
        self._connect()
        self.made_anew = True
        with self.writing():
            for statement in _statements():
                self.connection.execute(statement)
            self.connection.execute(f"PRAGMA user_version = {VERSION}")

    def _connect(self) -> None:
        self.connection = sqlite3.connect(self.place, timeout=PATIENCE, isolation_level=None)
        self.connection.row_factory = sqlite3.Row
        self.connection.execute("PRAGMA journal_mode = WAL")
        self.connection.execute("PRAGMA synchronous = NORMAL")
        self.connection.execute("PRAGMA foreign_keys = ON")

    @contextmanager
    def writing(self) -> Iterator[sqlite3.Connection]:
        """All that is written inside is there afterwards, or none of it."""
        self.connection.execute("BEGIN IMMEDIATE")
        try:
            yield self.connection
        except BaseException:
            self.connection.execute("ROLLBACK")
            raise
        self.connection.execute("COMMIT")

    def rows(self, sql: str, *values: object) -> list[sqlite3.Row]:
        """The rows of a question."""
        return self.connection.execute(sql, values).fetchall()

    @property
    def stamp(self) -> tuple[int, int]:
        """Another one whenever this process or any other has written something."""
        others = self.connection.execute("PRAGMA data_version").fetchone()[0]
        return int(others), self.connection.total_changes

    def shrink(self) -> None:
        """Leave nothing in the file of what was taken out of it; while another process writes that waits."""
        with contextlib.suppress(sqlite3.OperationalError):
            self.connection.execute("INSERT INTO words (words) VALUES ('optimize')")
            self.connection.execute("VACUUM")
            self.connection.execute("PRAGMA wal_checkpoint(TRUNCATE)")

    def close(self) -> None:
        """Give the file back."""
        self.connection.close()


def _is_strange(error: sqlite3.OperationalError) -> bool:
    """Whether the file is there but has not our tables, rather than that it can't be reached now."""
    return "no such" in str(error) or "malformed" in str(error)


@lru_cache(maxsize=1)
def _statements() -> tuple[str, ...]:
    text = Path(__file__).with_name("schema.sql").read_text("utf-8")
    bare = "\n".join(line.split("--")[0] for line in text.splitlines())
    return tuple(s.strip() for s in bare.split(";") if s.strip())


@contextmanager
def _alone(place: Path) -> Iterator[None]:
    """Only one process at a time opens the index: it may have to make it anew."""
    handle = os.open(place, os.O_CREAT | os.O_RDWR, 0o666)
    try:
        fcntl.flock(handle, fcntl.LOCK_EX)
        yield
    finally:
        os.close(handle)
