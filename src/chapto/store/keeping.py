"""Where a session keeps edits that are not saved: the lock and the journal of a project, or of a document without a
file."""

from __future__ import annotations

import contextlib
import secrets
import shutil
import threading
from pathlib import Path

from chapto.document.breakdown import Breakdown
from chapto.store.errors import StoreError, plain_reason
from chapto.store.home import home_of, orphans, remember_place, state_folder
from chapto.store.journal import JOURNAL, Journal, KeptEdits
from chapto.store.lock import Lock, holder
from chapto.store.states import STATES, keep_state, states_of

CAME_FROM = "came-from"


class Keeping:
    """One folder of the state folder, locked while it is open. `held_by` says who has it when somebody else does,
    `trouble` why nothing can be kept."""

    def __init__(self, home: Path, *, titled: bool) -> None:
        self.home, self._titled = home, titled
        self.journal = Journal(home / JOURNAL)
        self.held_by, self.trouble = "", ""
        self._lock: Lock | None = None
        self._working = threading.Lock()
        self._change = threading.Lock()
        self._wanted: tuple[Breakdown, str] | None = None
        self._thread: threading.Thread | None = None
        self.kept: Breakdown | None = None
        try:
            self._lock = Lock.take(home)
            if self._lock is None:
                self.held_by = holder(home)
        except OSError as error:
            self.trouble = f"Edits can't be kept safe in {home}: {plain_reason(error)}."

    @classmethod
    def of_project(cls, project: Path, saved: str, *, is_new: bool = False) -> Keeping:
        """That of the project file at `project`, whose digest is `saved`; one that moved brings its own along. One that
        `is_new`, just written, never was anywhere else."""
        home = home_of(project)
        if not is_new and not (home / JOURNAL).exists():
            with contextlib.suppress(OSError):
                _bring_along(home, saved)
        made = cls(home, titled=True)
        with contextlib.suppress(OSError):
            if made.is_ours:
                remember_place(home, project)
        return made

    @classmethod
    def of_new(cls) -> tuple[Keeping, KeptEdits | None]:
        """One for a document without a file: the newest that a process left behind with its edits, else a new one."""
        folder = state_folder() / "untitled"
        left: list[Path] = []
        with contextlib.suppress(OSError):
            left = sorted(folder.iterdir(), key=lambda p: -p.stat().st_mtime)
        for home in left:
            made = cls(home, titled=False)
            edits = made.journal.newest() if made.is_ours else None
            if edits is not None:
                return made, edits
            made.close()
        return cls(folder / secrets.token_hex(8), titled=False), None

    # ── edits ────────────────────────────────────────────────────────────────────────────────────────────
    def keep_soon(self, b: Breakdown, base: str) -> None:
        """Write `b`, which builds on the saved state `base`, to the journal in a thread of its own: a long breakdown
        and a slow disk take longer than a key press may. `kept` and `trouble` tell how it went."""
        with self._change:
            self._wanted = (b, base)
            if self._thread is None:
                self._thread = threading.Thread(target=self._work, name="journal", daemon=True)
                self._thread.start()

    def keep_now(self, b: Breakdown, base: str) -> None:
        """The same, done when this returns."""
        with self._change:
            self._wanted = None
        with self._working:
            self._append(b, base)

    def note_saving(self, coming: str) -> None:
        """A file with the digest `coming` is about to be written."""
        with self._change:
            self._wanted = None
        with self._working:
            self.journal.saving(coming)

    def forget(self) -> None:
        """Everything is saved."""
        with self._change:
            self._wanted = None
        with self._working:
            self.journal.clear()
            self.kept = None
            self._forget_where_it_came_from()

    def _work(self) -> None:
        while True:
            with self._working:
                with self._change:
                    wanted, self._wanted = self._wanted, None
                    if wanted is None:
                        self._thread = None
                        return
                self._append(*wanted)

    def _append(self, b: Breakdown, base: str) -> None:
        try:
            self.journal.append(b, base)
            self.kept, self.trouble = b, ""
        except StoreError as error:
            self.trouble = str(error)

    def _forget_where_it_came_from(self) -> None:
        """The edits were copied from where the project lay before; they are saved now, and must not come back."""
        noted = self.home / CAME_FROM
        with contextlib.suppress(OSError):
            if noted.exists():
                (state_folder() / "projects" / noted.read_text("ascii") / JOURNAL).unlink(missing_ok=True)
                noted.unlink()

    @property
    def is_ours(self) -> bool:
        """Whether we hold the lock."""
        return self._lock is not None

    def kept_state(self, data: bytes) -> None:
        """Keep the bytes of a saved file among the earlier states."""
        if self._titled and self.is_ours:
            keep_state(self.home, data)

    def set_aside(self, data: bytes) -> None:
        """Keep edits that were not wanted as one of the earlier states, behind what is saved."""
        newest = states_of(self.home)[:1]
        saved = newest[0].bytes() if newest else None
        keep_state(self.home, data)
        if saved is not None:
            keep_state(self.home, saved)

    def close(self) -> None:
        """Let others have it. A folder of a document without a file that holds no edits goes."""
        thread = self._thread
        if thread is not None:
            thread.join()
        if self._lock is not None:
            if not self._titled and not self.journal.path.exists():
                shutil.rmtree(self.home, ignore_errors=True)
            self._lock.release()
            self._lock = None


def left_edits(project: Path, saved: str) -> KeptEdits | None:
    """The edits kept of a project, without taking or moving anything; None where there are none."""
    for home in (home_of(project), *(o for o in orphans() if _knows(o, saved))):
        found = Journal(home / JOURNAL).newest(saved)
        if found is not None:
            return found
    return None


def _bring_along(home: Path, saved: str) -> None:
    """Copy what is kept of a project that lay elsewhere before, if there is such a one that knows its saved state. The
    old folder stays: perhaps only a disk is not there, and this is a copy."""
    for old in orphans():
        if _knows(old, saved) and (lock := Lock.take(old)) is not None:
            try:
                home.mkdir(parents=True, exist_ok=True)
                if not (home / STATES).exists():
                    shutil.copytree(old / STATES, home / STATES)
                if (old / JOURNAL).exists():
                    shutil.copyfile(old / JOURNAL, home / JOURNAL)
                    (home / CAME_FROM).write_text(old.name, "ascii")
            finally:
                lock.release()
            return


def _knows(home: Path, saved: str) -> bool:
    return any(state.digest == saved for state in states_of(home))
