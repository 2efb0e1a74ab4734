"""Long work off the interface thread: one at a time a queue, with progress, and it can be stopped."""

from __future__ import annotations

import threading
from collections.abc import Callable
from concurrent.futures import ThreadPoolExecutor
from typing import Any, Generic, TypeVar

from PyQt6.QtCore import QObject, pyqtSignal

from chapto.errors import Cancelled, ChaptoError
from chapto.store.fault_log import record_fault

T = TypeVar("T")
Progress = Callable[[float], None]
Stopped = Callable[[], bool]


class Job(QObject, Generic[T]):
    """One piece of work. Its result goes to `then`; `failed` carries a sentence; `stopped` comes after `stop()`.

    `work(progress, stopped)` runs in the queue's thread: `progress` takes the share done (0 to 1), and work that
    finds `stopped()` true cleans up and raises `Cancelled`.
    """

    progressed = pyqtSignal(float)
    failed = pyqtSignal(str)
    stopped = pyqtSignal()
    ended = pyqtSignal()
    """After any of the three ends."""
    _finished = pyqtSignal(object)

    def __init__(self, title: str, work: Callable[[Progress, Stopped], T]) -> None:
        super().__init__()
        self.title = title
        self._work = work
        self._stop = threading.Event()

    def then(self, take: Callable[[T], object]) -> Job[T]:
        """Have the interface thread call `take` with the result."""
        self._finished.connect(take)
        return self

    def stop(self) -> None:
        """Ask the work to end; what it had half made is removed by the work itself."""
        self._stop.set()

    def run(self) -> None:
        """Do the work; called by the queue's thread."""
        try:
            if self._stop.is_set():
                raise Cancelled
            # What it works on is let go with it: queues remember their jobs for a while.
            work, self._work = self._work, _done
            result = work(self.progressed.emit, self._stop.is_set)
        except Cancelled:
            self.stopped.emit()
        except ChaptoError as error:
            self.failed.emit(str(error))
        except Exception as error:
            self.failed.emit(record_fault(error, f"“{self.title}”"))
        else:
            self._finished.emit(result)
        self.ended.emit()


def _done(progress: Progress, stopped: Stopped) -> Any:
    raise Cancelled


class JobQueue:
    """Runs jobs one after another in a thread of its own."""

    def __init__(self, name: str) -> None:
        self._pool = ThreadPoolExecutor(max_workers=1, thread_name_prefix=name)
        self._jobs: list[Job[Any]] = []
        self._closed = False

    def add(self, job: Job[T]) -> Job[T]:
        """Put `job` in the queue. A closed one stops it at once: signals may still come in while a window ends."""
        if self._closed:
            job.stop()
            job.run()
            return job
        self._jobs = [*self._jobs[-50:], job]
        self._pool.submit(job.run)
        return job

    def __contains__(self, job: object) -> bool:
        return job in self._jobs

    def stop(self) -> None:
        """Stop what runs and what waits; later jobs run as usual."""
        for job in self._jobs:
            job.stop()

    def close(self) -> None:
        """Stop everything and wait for the running job to leave."""
        self._closed = True
        self.stop()
        self._pool.shutdown(wait=True, cancel_futures=True)
