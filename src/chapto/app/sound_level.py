"""How much louder the programme is played, so that it sounds as it will be published."""

from __future__ import annotations

from collections.abc import Callable
from typing import Protocol

from PyQt6.QtCore import QObject, QTimer

from chapto.app.jobs import Job, Stopped
from chapto.app.workers import Workers

MEASURE_AFTER = 4_000
"""Milliseconds of quiet after an edit before the whole programme is listened to."""


class Measure(Protocol):
    """Decibels by which a programme is played louder."""

    def __call__(self, *, cancelled: Stopped) -> float: ...


class SoundLevel(QObject):
    """`gain` in decibels is the last one that was measured. `asked` gives what measures the programme as it is now;
    None while there is nothing to measure."""

    def __init__(self, workers: Workers, asked: Callable[[], Measure | None]) -> None:
        super().__init__()
        self.gain = 0.0
        self._workers, self._asked = workers, asked
        self._job: Job[float] | None = None
        self._quiet = QTimer(self)
        self._quiet.setSingleShot(True)
        self._quiet.setInterval(MEASURE_AFTER)
        self._quiet.timeout.connect(self._measure)

    def follow(self) -> None:
        """The programme is another."""
        if self._job is not None:
            self._job.stop()
        self._quiet.start()

    def close(self) -> None:
        """Begin nothing any more."""
        self._quiet.stop()

    def _measure(self) -> None:
        measure = self._asked()
        if measure is not None:
            job = Job("Loudness", lambda _, stopped: measure(cancelled=stopped))
            self._job = self._workers.run_unseen(job.then(self._arrived))

    def _arrived(self, gain: float) -> None:
        self.gain = gain
