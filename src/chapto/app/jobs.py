"""Long work off the interface thread: one at a time a queue, with progress, and it can be stopped."""

from __future__ import annotations

import threading
from collections.abc import Callable
from concurrent.futures import ThreadPoolExecutor

from PyQt6.QtCore import QObject, pyqtSignal

from chapto.errors import Cancelled, ChaptoError
from chapto.store.fault_log import record_fault

Progress = Callable[[float], None]
Work = Callable[[Progress, Callable[[], bool]], object]


class Job(QObject):
    """One piece of work. `finished` carries its result, `failed` a sentence; `stopped` comes after `stop()`."""

    progressed = pyqtSignal(float)
    finished = pyqtSignal(object)
    failed = pyqtSignal(str)
    stopped = pyqtSignal()

    def __init__(self, title: str, work: Work) -> None:
        super().__init__()
        self.title = title
        self._work = work
        self._stop = threading.Event()

    def stop(self) -> None:
        """Ask the work to end; what it had half made is removed by the work itself."""
        self._stop.set()

    def run(self) -> None:
        """Do the work; called by the queue's thread."""
        if self._stop.is_set():
            self.stopped.emit()
            return
        try:
            result = self._work(self.progressed.emit, self._stop.is_set)
        except Cancelled:
            self.stopped.emit()
        except ChaptoError as error:
            self.failed.emit(str(error))
        except Exception as error:
            self.failed.emit(record_fault(error, f"“{self.title}”"))
        else:
            self.finished.emit(result)


class JobQueue:
    """Runs jobs one after another in a thread of its own."""

    def __init__(self, name: str) -> None:
        self._pool = ThreadPoolExecutor(max_workers=1, thread_name_prefix=name)
        self._jobs: list[Job] = []
        self._closed = False

    def add(self, job: Job) -> Job:
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
