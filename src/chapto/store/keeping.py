"""Where a session keeps edits that are not saved: the lock and the journal of a project, or of a document without a
file."""

from __future__ import annotations

import contextlib
import secrets
import shutil
from pathlib import Path

from chapto.store.errors import plain_reason
from chapto.store.home import home_of, orphans, remember_place, state_folder
from chapto.store.journal import JOURNAL, Journal, KeptEdits
from chapto.store.lock import Lock, holder
from chapto.store.states import keep_state, states_of


class Keeping:
    """One folder of the state folder, locked while it is open. `held_by` says who has it when somebody else does,
    `trouble` why nothing can be kept."""

    def __init__(self, home: Path, *, titled: bool) -> None:
        self.home, self._titled = home, titled
        self.journal = Journal(home / JOURNAL)
        self.held_by, self.trouble = "", ""
        self._lock: Lock | None = None
        try:
            self._lock = Lock.take(home)
            if self._lock is None:
                self.held_by = holder(home)
        except OSError as error:
            self.trouble = f"Edits can't be kept safe in {home}: {plain_reason(error)}."

    @classmethod
    def of_project(cls, project: Path, saved: str) -> Keeping:
        """That of the project file at `project`, whose digest is `saved`; one that moved brings its own along."""
        home = home_of(project)
        if not (home / JOURNAL).exists():
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
    """Move the folder of a project that lay elsewhere before here, if there is one that knows its saved state."""
    for old in orphans():
        if _knows(old, saved) and (lock := Lock.take(old)) is not None:
            try:
                home.mkdir(parents=True, exist_ok=True)
                for item in list(old.iterdir()):
                    if item.name != "lock" and not (home / item.name).exists():
                        shutil.move(item, home / item.name)
                shutil.rmtree(old, ignore_errors=True)
            finally:
                lock.release()
            return


def _knows(home: Path, saved: str) -> bool:
    return any(state.digest == saved for state in states_of(home))
