"""A clock that waits for the interface: it goes on only as often as the interface comes to it, so that a talk by it is
the same on a busy machine, and no slower than time where nothing else runs."""

from __future__ import annotations

from PyQt6.QtCore import QObject, QTimer
from PyQt6.QtTest import QTest

STEP = 0.02
"""Seconds by it between two looks of the interface."""
EVERY = 8
"""Milliseconds between them, at least."""


class PatientClock(QObject):
    """Goes on from its making until `parent` is gone."""

    def __init__(self, parent: QObject) -> None:
        super().__init__(parent)
        self.now = 0.0
        self._timer = QTimer(self)
        self._timer.setInterval(EVERY)
        self._timer.timeout.connect(self._step)
        self._timer.start()

    def __call__(self) -> float:
        return self.now

    def passes(self, seconds: float) -> None:
        """The interface goes on until this much has passed."""
        until = self.now + seconds
        while self.now < until:
            QTest.qWait(EVERY)

    def _step(self) -> None:
        self.now += STEP
