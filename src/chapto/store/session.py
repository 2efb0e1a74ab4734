"""The one session: the open document, its history, its file and its journal. Free of Qt."""

from __future__ import annotations

import time
from collections.abc import Callable
from pathlib import Path

from chapto.document.breakdown import Breakdown
from chapto.document.checks import checked
from chapto.document.edit_footage import moved_project
from chapto.store.atomic import write_atomically
from chapto.store.journal import Journal, journal_path, untitled_journal_path
from chapto.store.schema import StoreError, decode, encode

JOURNAL_EVERY = 0.5
"""Seconds of edits at most that are not yet in the journal."""
MERGE_WITHIN = 1.5
"""Edits of one kind closer together than this many seconds are one step of undo."""
HISTORY = 500


class Session:
    """Holds the document. `listeners` are called with nothing after every change of document or saved state."""

    def __init__(self, breakdown: Breakdown, path: Path | None, *, journal: Journal | None = None) -> None:
        self._now, self.path = breakdown, path
        self._saved: Breakdown | None = breakdown
        self._undo: list[tuple[str, Breakdown]] = []
        self._redo: list[tuple[str, Breakdown]] = []
        self._merge: tuple[str, float] = ("", 0.0)
        self._journal = journal if journal is not None else (Journal(journal_path(path)) if path else None)
        self._journalled: Breakdown = breakdown
        self._written = 0.0
        self.recovered = False
        self.listeners: list[Callable[[], None]] = []

    @classmethod
    def open(cls, path: Path) -> Session:
        """Open a project file; edits that a kill left in the journal are taken up (`recovered`)."""
        try:
            data = path.read_bytes()
        except OSError as error:
            raise StoreError(f"“{path}” can't be opened: {error.strerror or error}.") from None
        session = cls(decode(data, path.name), path)
        session._recover()
        return session

    @classmethod
    def untitled(cls, breakdown: Breakdown) -> Session:
        """A document without a file yet. Its edits are kept safe too: the next untitled session takes them up."""
        session = cls(breakdown, None, journal=Journal(untitled_journal_path()))
        session._recover()
        return session

    def _recover(self) -> None:
        left = self._journal.last() if self._journal else None
        if left is not None and left != self._now:
            self._undo.append(("the recovered edits", self._now))
            self._now, self.recovered = left, True
            self._journalled = left

    @property
    def breakdown(self) -> Breakdown:
        """The document as it is now."""
        return self._now

    @property
    def folder(self) -> Path | None:
        """The folder that footage paths are relative to; None while there is no file, when they are absolute."""
        return None if self.path is None else self.path.parent

    @property
    def is_saved(self) -> bool:
        """Whether the project file holds the document as it is now."""
        return self._now == self._saved

    def edit(self, what: str, change: Callable[[Breakdown], Breakdown], *, merge: str = "") -> None:
        """Make the document `change(document)`; `what` names the step for undo ("delete the beat").

        Steps with the same `merge` key in quick succession become one. A change that would make the document
        contradict itself raises `DocumentError` and changes nothing.
        """
        made = checked(change(self._now))
        if made == self._now:
            return
        now = time.monotonic()
        joined = bool(merge) and merge == self._merge[0] and now - self._merge[1] < MERGE_WITHIN and bool(self._undo)
        if not joined:
            self._undo = [*self._undo[-HISTORY + 1 :], (what, self._now)]
        self._merge = (merge, now)
        self._redo.clear()
        self._become(made)

    def undo(self) -> None:
        """Go back one step; nothing happens at the beginning."""
        self._step(self._undo, self._redo)

    def redo(self) -> None:
        """Take back the last undo; nothing happens when there is none."""
        self._step(self._redo, self._undo)

    @property
    def would_undo(self) -> str:
        """What `undo` would take back; empty when nothing."""
        return self._undo[-1][0] if self._undo else ""

    @property
    def would_redo(self) -> str:
        """What `redo` would bring back; empty when nothing."""
        return self._redo[-1][0] if self._redo else ""

    def save(self, path: Path | None = None) -> None:
        """Write the project file (at a new place if `path` is given, its footage still found from there) and clear
        the journal."""
        target = path or self.path
        if target is None:
            raise StoreError("This breakdown has no file yet; choose where to save it.")
        old, new = self.folder, target.parent
        moved = self._now if target == self.path else moved_project(self._now, old, new)
        write_atomically(target, encode(moved))
        if target != self.path:
            self._undo = [(what, moved_project(b, old, new)) for what, b in self._undo]
            self._redo = [(what, moved_project(b, old, new)) for what, b in self._redo]
        self._now = moved
        if self._journal:
            self._journal.clear()
        if target != self.path:
            self.path, self._journal = target, Journal(journal_path(target))
        self._saved = self._journalled = self._now
        self._tell()

    def keep_safe(self, *, at_once: bool = False) -> None:
        """Write unsaved edits to the journal, at most every `JOURNAL_EVERY` seconds unless `at_once`.

        Called after each edit and by a timer, so that a kill loses at most the last second.
        """
        if self._journal is None or self._now is self._journalled:
            return
        now = time.monotonic()
        if at_once or now - self._written >= JOURNAL_EVERY:
            self._journal.append(self._now)
            self._journalled, self._written = self._now, now

    def _step(self, source: list[tuple[str, Breakdown]], target: list[tuple[str, Breakdown]]) -> None:
        if source:
            what, before = source.pop()
            target.append((what, self._now))
            self._merge = ("", 0.0)
            self._become(before)

    def _become(self, breakdown: Breakdown) -> None:
        self._now = breakdown
        self.keep_safe()
        self._tell()

    def _tell(self) -> None:
        for listener in list(self.listeners):
            listener()
