"""The one session: the open document, its history, its file and what keeps it safe. Free of Qt."""

from __future__ import annotations

import os
import time
from collections.abc import Callable
from datetime import date
from pathlib import Path

from chapto.document.breakdown import Breakdown
from chapto.document.checks import checked
from chapto.document.edit_footage import moved_project
from chapto.store.atomic import write_atomically
from chapto.store.errors import DamagedFile, StoreError, plain_reason
from chapto.store.history import History
from chapto.store.journal import KeptEdits
from chapto.store.keeping import Keeping, left_edits
from chapto.store.outputs import OutputGate, free_name
from chapto.store.schema import decode, digest, encode
from chapto.store.states import State, states_of

PROJECT_ENDING = ".chapto"
JOURNAL_EVERY = 0.5
"""Seconds of edits at most that are not yet in the journal."""


class Session:
    """Holds the document. `listeners` are called with nothing after every change of document or saved state.

    `recovered` tells that edits from before a crash were taken up; `offered` are edits that were kept but build on
    another state of the file, to be looked at or set aside; `trouble` says why edits can't be kept safe, and is empty
    while they are; `read_only` says who edits this project, and is empty when we do.
    """

    def __init__(
        self, breakdown: Breakdown, path: Path | None, *, saved: str = "", keeping: Keeping | None = None
    ) -> None:
        self._now, self.path = breakdown, path
        self._saved: Breakdown | None = breakdown
        self._digest = saved
        self._history = History()
        self._keeping = keeping
        self._journalled: Breakdown = breakdown
        self._written = 0.0
        self.recovered = False
        self.offered: KeptEdits | None = None
        self.trouble = keeping.trouble if keeping else ""
        self.read_only = keeping.held_by if keeping and path else ""
        self.listeners: list[Callable[[], None]] = []

    # ── opening ──────────────────────────────────────────────────────────────────────────────────────────
    @classmethod
    def open(cls, path: Path) -> Session:
        """Open a project file for editing, locked against others; edits that a kill left behind are taken up.

        `DamagedFile` when its content can't be trusted, `StoreError` when it can't be read.
        """
        data = _content(path)
        breakdown, saved = decode(data, path.name), digest(data)
        keeping = Keeping.of_project(path, saved)
        session = cls(breakdown, path, saved=saved, keeping=keeping)
        keeping.kept_state(data)
        session._recover(keeping.journal.newest(saved) if keeping.is_ours else None)
        return session

    @classmethod
    def look(cls, path: Path) -> Session:
        """Open a project file only to read it, with the edits that were kept of it; nothing is locked or moved."""
        data = _content(path)
        session = cls(decode(data, path.name), path, saved=digest(data))
        session._recover(left_edits(path, digest(data)))
        return session

    @classmethod
    def create(cls, breakdown: Breakdown, path: Path) -> Session:
        """Write a new project file; `StoreError` when something stands there."""
        data = encode(checked(breakdown))
        OutputGate(breakdown, None).write(path, data)
        keeping = Keeping.of_project(path, digest(data), is_new=True)
        if keeping.is_ours:
            keeping.forget()
        session = cls(breakdown, path, saved=digest(data), keeping=keeping)
        keeping.kept_state(data)
        return session

    @classmethod
    def untitled(cls, breakdown: Breakdown) -> Session:
        """A document without a file yet. Its edits are kept safe too: a later untitled session takes them up."""
        keeping, edits = Keeping.of_new()
        session = cls(breakdown, None, keeping=keeping)
        session._recover(edits)
        return session

    @classmethod
    def restored(cls, path: Path, state: State) -> Session:
        """An earlier state in place of a damaged file, not saved yet; the damaged one is kept beside it."""
        data = _content(path)
        breakdown = state.read()
        write_atomically(free_name(path.with_name(f"{path.stem} (damaged){path.suffix}")), data, replacing=False)
        keeping = Keeping.of_project(path, digest(data))
        session = cls(breakdown, path, saved=digest(data), keeping=keeping)
        session._saved = None
        left = keeping.journal.newest(state.digest) if keeping.is_ours else None
        if left is not None and left.breakdown != breakdown:
            # Edits made on the very state that is gone back to are taken up, others are offered.
            if left.base == state.digest:
                session._take_up(left)
            else:
                session.offered = left
        return session

    def _recover(self, left: KeptEdits | None) -> None:
        if left is None or left.breakdown == self._now:
            return
        if left.base == self._digest:
            self._take_up(left)
        else:
            self.offered = left

    def _take_up(self, left: KeptEdits) -> None:
        self._history.step("the recovered edits", self._now)
        self._now, self.recovered = left.breakdown, True
        self._journalled = left.breakdown

    # ── the document ─────────────────────────────────────────────────────────────────────────────────────
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
        return self._now is self._saved or self._now == self._saved

    def edit(self, what: str, change: Callable[[Breakdown], Breakdown], *, merge: str = "") -> None:
        """Make the document `change(document)`; `what` names the step for undo ("delete the beat").

        Steps with the same `merge` key in quick succession become one. A change that would make the document
        contradict itself raises `DocumentError` and changes nothing; a session that only reads raises `StoreError`.
        """
        if self.read_only:
            raise StoreError(
                f"This breakdown is being edited elsewhere ({self.read_only}); here it can only be looked at. "
                "Saved under another name it can be edited."
            )
        made = checked(change(self._now))
        if made == self._now:
            return
        self._history.step(what, self._now, merge=merge)
        self._become(made)

    def undo(self) -> None:
        """Go back one step; nothing happens at the beginning."""
        before = self._history.back(self._now)
        if before is not None:
            self._become(before)

    def redo(self) -> None:
        """Take back the last undo; nothing happens when there is none."""
        after = self._history.forward(self._now)
        if after is not None:
            self._become(after)

    @property
    def would_undo(self) -> str:
        """What `undo` would take back; empty when nothing."""
        return self._history.would_undo

    @property
    def would_redo(self) -> str:
        """What `redo` would bring back; empty when nothing."""
        return self._history.would_redo

    # ── saving ───────────────────────────────────────────────────────────────────────────────────────────
    def save(self, path: Path | None = None, *, replacing: bool = False) -> str:
        """Write the project file and clear the journal; at a new place if `path` is given, its footage still found
        from there. Returns what the creator should know of it, or nothing.

        A file that another program changed meanwhile is left alone, and ours goes beside it. `AlreadyThere` when
        something else stands at a new place, unless `replacing` was agreed to.
        """
        target = path or self.path
        if target is None:
            raise StoreError("This breakdown has no file yet; choose where to save it.")
        if self.path is None or not _same_place(target, self.path):
            self._save_elsewhere(target, replacing=replacing)
            return ""
        if self.read_only:
            raise StoreError(f"This breakdown is being edited elsewhere ({self.read_only}); choose another name.")
        if self._changed_outside():
            beside = free_name(self.path.with_name(f"{self.path.stem} (conflict {date.today()}){self.path.suffix}"))
            theirs = self.path.name
            self._save_elsewhere(beside, replacing=False)
            return (
                f"“{theirs}” was changed by another program and was left as it is; "
                f"what you have here is now in “{beside.name}” beside it."
            )
        self._save_here()
        return ""

    def keep_safe(self, *, at_once: bool = False) -> None:
        """Write unsaved edits to the journal, at most every `JOURNAL_EVERY` seconds unless `at_once`.

        Called after each edit and by a timer, so that a kill loses at most the last second. Where that can't be done
        the edit stands and `trouble` says why.
        """
        keeping = self._keeping
        if keeping is None or self.read_only:
            return
        now = time.monotonic()
        if self._now is not self._journalled and self._now is not keeping.kept:
            if at_once:
                keeping.keep_now(self._now, self._digest)
            elif now - self._written >= JOURNAL_EVERY:
                keeping.keep_soon(self._now, self._digest)
            self._written = now if at_once or now - self._written >= JOURNAL_EVERY else self._written
        if self.trouble != keeping.trouble:
            self.trouble = keeping.trouble
            self._tell()

    def close(self) -> None:
        """Save to the project's own file, or keep the edits at once, and let others have it.

        `StoreError` where neither could be done: then nothing was closed. A second call does nothing.
        """
        if self.path is not None and not self.read_only and not self.is_saved:
            try:
                self.save()
            except StoreError:
                self._keep_or_say()
        elif not self.is_saved:
            self._keep_or_say()
        self.let_go()

    def let_go(self) -> None:
        """Let others have the project, whatever is kept."""
        if self._keeping is not None:
            self._keeping.close()
            self._keeping = None

    def _keep_or_say(self) -> None:
        self.keep_safe(at_once=True)
        kept = (self._journalled, self._keeping.kept if self._keeping is not None else self._now)
        if self._keeping is not None and not any(self._now is x for x in kept) and not self.read_only:
            raise StoreError(f"The last edits could not be kept. {self.trouble}")

    def _changed_outside(self) -> bool:
        assert self.path is not None
        if not os.path.exists(self.path):
            return False
        return not self._digest or digest(_content(self.path)) != self._digest

    def _save_here(self) -> None:
        assert self.path is not None
        data = encode(self._now)
        if self._keeping is not None:
            self._keeping.note_saving(digest(data))
        write_atomically(self.path, data)
        self._saved_as(data)

    def _save_elsewhere(self, target: Path, *, replacing: bool) -> None:
        old, new = self.folder, target.parent
        moved = moved_project(self._now, old, new)
        data = encode(moved)
        OutputGate(self._now, self.path, replacing=replacing).write(target, data)
        self._history.rewrite(lambda b: moved_project(b, old, new))
        self._now, self.path = moved, target
        if self._keeping is not None:
            if not self.read_only:
                self._keeping.forget()
            self._keeping.close()
        self._keeping = Keeping.of_project(target, digest(data), is_new=True)
        self.read_only, self.trouble = self._keeping.held_by, self._keeping.trouble
        self._saved_as(data)

    def _saved_as(self, data: bytes) -> None:
        self._digest, self._saved, self._journalled = digest(data), self._now, self._now
        if self._keeping is not None and self._keeping.is_ours:
            self._keeping.forget()
            self._keeping.kept_state(data)
            self._keeping.trouble = self.trouble = ""
        self._tell()

    # ── what was kept ────────────────────────────────────────────────────────────────────────────────────
    @property
    def states(self) -> tuple[State, ...]:
        """The earlier states of this project, the newest first."""
        return states_of(self._keeping.home) if self._keeping is not None else ()

    def take_offered(self) -> None:
        """Take the kept edits that build on another state, as a step that can be undone."""
        if self.offered is not None:
            kept, self.offered = self.offered, None
            self.edit("take the kept edits", lambda _: kept.breakdown)

    def set_offered_aside(self) -> None:
        """Leave them; they stay among the earlier states."""
        if self.offered is not None and self._keeping is not None:
            self._keeping.set_aside(encode(self.offered.breakdown))
            self._keeping.forget()
        self.offered = None

    def _become(self, breakdown: Breakdown) -> None:
        self._now = breakdown
        self.keep_safe()
        self._tell()

    def _tell(self) -> None:
        for listener in list(self.listeners):
            listener()


def _content(path: Path) -> bytes:
    try:
        data = path.read_bytes()
    except OSError as error:
        raise StoreError(f"“{path}” can't be opened: {plain_reason(error)}.") from None
    if not data.strip():
        raise DamagedFile(f"“{path.name}” is empty.")
    return data


def _same_place(one: Path, other: Path) -> bool:
    return os.path.realpath(one) == os.path.realpath(other)
