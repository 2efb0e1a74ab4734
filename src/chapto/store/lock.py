"""One editor a project: a lock held by the kernel, which a crash frees."""

from __future__ import annotations

import contextlib
import fcntl
import os
from datetime import datetime
from pathlib import Path

LOCK = "lock"


class Lock:
    """Holds the file `lock` in `home` for as long as it is open."""

    def __init__(self, handle: int) -> None:
        self._handle = handle

    @classmethod
    def take(cls, home: Path) -> Lock | None:
        """The lock, or None while somebody else has it. `OSError` where the folder can't be written to."""
        home.mkdir(parents=True, exist_ok=True)
        handle = os.open(home / LOCK, os.O_CREAT | os.O_RDWR, 0o666)
        try:
            fcntl.flock(handle, fcntl.LOCK_EX | fcntl.LOCK_NB)
        except OSError:
            os.close(handle)
            return None
        os.ftruncate(handle, 0)
        os.pwrite(handle, f"process {os.getpid()}, since {datetime.now():%H:%M on %d %B}".encode(), 0)
        return cls(handle)

    def release(self) -> None:
        """Let others edit."""
        if self._handle >= 0:
            os.close(self._handle)
            self._handle = -1


def holder(home: Path) -> str:
    """Who has the lock, as they put it down."""
    with contextlib.suppress(OSError):
        return (home / LOCK).read_text("utf-8", "replace")[:80]
    return "another window"
