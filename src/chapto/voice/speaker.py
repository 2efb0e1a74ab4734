"""What a loudspeaker does, and a stand-in that plays to nobody at the true pace."""

from __future__ import annotations

import time
from collections.abc import Callable
from typing import Protocol

import numpy as np
from numpy.typing import NDArray

RATE = 48_000
Source = Callable[[int, int], NDArray[np.float32]]
"""`source(first, count)` gives (count, 2) float32 samples in −1…1."""


class Speaker(Protocol):
    """Plays a source from a sample on; `played` is the seconds heard since then."""

    def start(self, source: Source, first: int) -> None:
        """Begin with sample `first`."""

    def played(self) -> float:
        """Seconds heard since `start`."""

    def stop(self) -> None:
        """Fall silent."""

    def close(self) -> None:
        """Fall silent for good."""


class StandInSpeaker:
    """Takes sound at 48 kHz of real time and keeps the level of what it took, for tests and silent machines."""

    BLOCK = 1024

    def __init__(self, clock: Callable[[], float] = time.monotonic) -> None:
        self._clock = clock
        self._source: Source | None = None
        self._first = self._taken = 0
        self._since = 0.0
        self.loudest = 0.0

    def start(self, source: Source, first: int) -> None:
        """Begin with sample `first`."""
        self._source, self._first, self._taken, self._since = source, first, 0, self._clock()
        self.loudest = 0.0

    def played(self) -> float:
        """Seconds since `start`; what a device would have taken by now is read from the source."""
        if self._source is None:
            return 0.0
        seconds = self._clock() - self._since
        due = int(seconds * RATE)
        if due - self._taken >= self.BLOCK:
            block = self._source(self._first + self._taken, min(due - self._taken, RATE))
            self.loudest = max(self.loudest, float(np.abs(block).max(initial=0.0)))
            self._taken = due
        return seconds

    def stop(self) -> None:
        """Fall silent."""
        self._source = None

    def close(self) -> None:
        """Fall silent for good."""
        self.stop()
