"""Faults of Chapto itself end in a sentence and a log, never in a dead window."""

from __future__ import annotations

import contextlib
import faulthandler
import os
import sys
import threading
import time
from collections.abc import Callable
from pathlib import Path
from types import TracebackType

from PyQt6.QtCore import QObject, pyqtSignal

from chapto.store.fault_log import crash_log_folder, record_fault

AGAIN_AFTER = 30.0
"""Seconds after which a fault at the same place is written down again."""


class Faults(QObject):
    """Hears of every exception that nobody caught, in any thread and in any method that Qt calls."""

    happened = pyqtSignal(str)

    def __init__(self, clock: Callable[[], float] = time.monotonic) -> None:
        super().__init__()
        self._clock = clock
        self._seen: dict[tuple[str, str, int], float] = {}
        self._lock = threading.Lock()

    def install(self) -> str:
        """Take over Python's hooks. Returns a sentence when the last session was ended by a crash, else nothing.

        PyQt aborts the process on an exception in a slot only while `sys.excepthook` is Python's own.
        """
        sys.excepthook = self._in_this_thread
        threading.excepthook = self._in_a_thread
        return _watch_for_crashes()

    def record(self, error: BaseException, doing: str = "") -> None:
        """Write `error` down and tell it; one that comes over and over is told once."""
        if isinstance(error, (KeyboardInterrupt, SystemExit)):
            raise error
        if self._is_new(error):
            self.happened.emit(record_fault(error, doing))

    def _is_new(self, error: BaseException) -> bool:
        last = error.__traceback__
        while last is not None and last.tb_next is not None:
            last = last.tb_next
        place = (last.tb_frame.f_code.co_filename, last.tb_lineno) if last is not None else ("", 0)
        key, now = (type(error).__name__, *place), self._clock()
        with self._lock:
            if now - self._seen.get(key, -AGAIN_AFTER) < AGAIN_AFTER:
                return False
            self._seen[key] = now
            return True

    def _in_this_thread(self, kind: type[BaseException], error: BaseException, trace: TracebackType | None) -> None:
        if not isinstance(error, Exception):
            sys.__excepthook__(kind, error, trace)
            return
        self.record(error.with_traceback(trace))

    def _in_a_thread(self, told: threading.ExceptHookArgs) -> None:
        if isinstance(told.exc_value, Exception):
            self.record(told.exc_value, f"The work “{told.thread.name}”" if told.thread is not None else "")


def _watch_for_crashes() -> str:
    """Have the interpreter write what it was doing when a signal ends it, in a file of this process; a sentence when a
    process that is gone left such a file with something in it."""
    said = ""
    with contextlib.suppress(OSError):
        folder = crash_log_folder()
        folder.mkdir(parents=True, exist_ok=True)
        for left in folder.glob("crash-*.log"):
            pid = left.stem.removeprefix("crash-")
            if pid.isdigit() and not Path("/proc", pid).exists():
                if left.stat().st_size:
                    kept = left.replace(folder / "last-crash.log")
                    said = f"Chapto ended in a crash the last time; what it was doing is in {kept}."
                else:
                    left.unlink()
        faulthandler.enable(open(folder / f"crash-{os.getpid()}.log", "w"), all_threads=True)  # noqa: SIM115
    return said
