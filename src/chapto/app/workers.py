"""The work of one window off the interface thread, in queues that do not wait for one another."""

from __future__ import annotations

from typing import Any, TypeVar

from PyQt6.QtCore import QObject, pyqtSignal

from chapto.app.jobs import Job, JobQueue

T = TypeVar("T")


class Workers(QObject):
    """`progressed` carries the title of long work and the share done, 1 when it has ended. Whatever fails is said with
    `message`; `dropped` comes after background work was stopped."""

    progressed = pyqtSignal(str, float)
    message = pyqtSignal(str)
    dropped = pyqtSignal()

    def __init__(self) -> None:
        super().__init__()
        self._speech_and_sound = JobQueue("speech and sound")
        self._background = JobQueue("background")
        self._asked = JobQueue("asked for")
        self._short = JobQueue("short")
        self._thought = JobQueue("thought")
        self._long: dict[str, Job[Any]] = {}

    def run_asked(self, job: Job[T]) -> Job[T]:
        """Run long work the creator asked for (a render): it does not wait for what runs in the background."""
        return self._add(self._shown(job), self._asked)

    def run_in_background(self, job: Job[T]) -> Job[T]:
        """Run long work nobody waits for (quick pictures, judging the picture)."""
        return self._add(self._shown(job), self._background)

    def run_unseen(self, job: Job[T]) -> Job[T]:
        """Run work in the background of which the foot shows nothing."""
        return self._add(job, self._background)

    def run_for_programme(self, job: Job[T]) -> Job[T]:
        """Run what the programme and its sound are made of."""
        return self._add(job, self._speech_and_sound)

    def run_shown_for_programme(self, job: Job[T]) -> Job[T]:
        """Run what the programme is made of and takes long."""
        return self._add(self._shown(job), self._speech_and_sound)

    def run_short(self, job: Job[T]) -> Job[T]:
        """Run work of a few seconds that looks into footage."""
        return self._add(job, self._short)

    def run_thought(self, job: Job[T]) -> Job[T]:
        """Run work of well under a second that needs no footage, and so never waits for work that does."""
        return self._add(job, self._thought)

    def stop(self, title: str) -> None:
        """Stop the long work called `title`. Of what is done in the background everything stops; what was half made is
        kept, and goes on from there."""
        job = self._long.get(title)
        if job is not None and job in self._background:
            self._background.stop()
            self.dropped.emit()
        elif job is not None:
            job.stop()

    def close(self) -> None:
        """Stop everything and wait for what runs to leave."""
        for queue in (self._speech_and_sound, self._background, self._asked, self._short, self._thought):
            queue.close()

    def _add(self, job: Job[T], queue: JobQueue) -> Job[T]:
        job.failed.connect(self.message)
        return queue.add(job)

    def _shown(self, job: Job[T]) -> Job[T]:
        self._long[job.title] = job
        job.progressed.connect(lambda share: self.progressed.emit(job.title, min(share, 0.999)))
        job.ended.connect(lambda: self._ended(job))
        return job

    def _ended(self, job: Job[Any]) -> None:
        if self._long.get(job.title) is job:
            del self._long[job.title]
        self.progressed.emit(job.title, 1.0)
