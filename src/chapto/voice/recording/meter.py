"""How loud a recording is while it is made, and whether it clips."""

from __future__ import annotations

import math
from collections import deque

import numpy as np
from numpy.typing import NDArray

from chapto.media.loudness import QUIETEST, STEP, KWeighting, lufs
from chapto.voice.recording.microphone import Block

FULL_SCALE = 32_700
"""A sample at or over this is at the end of what 16 bits hold, less what converters leave out."""
RUN = 3
"""Samples in a row at full scale that count as clipped (common practice)."""
MOMENT = 4
"""Steps of 100 ms that make the momentary loudness (EBU Tech 3341: 400 ms)."""


class Meter:
    """Fed with blocks in any thread; `peak` (dBFS), `loudness` (LUFS, of the last 400 ms) and `clipped` (runs)."""

    def __init__(self, channels: int = 1) -> None:
        self._weighting = KWeighting(channels)
        self._powers: deque[float] = deque(maxlen=MOMENT)
        self._peaks: deque[int] = deque(maxlen=MOMENT)
        self._rest = np.zeros((0, channels), np.int16)
        self._run = [0] * channels
        self.clipped = 0
        self.loudest = QUIETEST
        """The highest peak so far, in dBFS."""

    @property
    def peak(self) -> float:
        """The highest sample of the last 400 ms."""
        return _decibels(max(self._peaks, default=0))

    @property
    def loudness(self) -> float:
        """Loudness of the last 400 ms."""
        return lufs(sum(self._powers) / len(self._powers)) if self._powers else QUIETEST

    def take(self, block: Block) -> None:
        """Measure (n, channels) more samples."""
        for channel in range(block.shape[1]):
            self._count_runs(channel, np.abs(block[:, channel].astype(np.int32)) >= FULL_SCALE)
        waiting = np.concatenate([self._rest, block])
        while len(waiting) >= STEP:
            step, waiting = waiting[:STEP], waiting[STEP:]
            self._powers.append(float(self._weighting.powers(step.astype(np.float64) / 32768)[0]))
            self._peaks.append(int(np.abs(step.astype(np.int32)).max()))
            self.loudest = max(self.loudest, _decibels(self._peaks[-1]))
        self._rest = waiting

    def _count_runs(self, channel: int, full: NDArray[np.bool_]) -> None:
        edges = np.flatnonzero(np.diff(np.concatenate([[False], full, [False]]).astype(np.int8)))
        begins, ends = edges[::2], edges[1::2]
        before = self._run[channel]
        for start, end in zip(begins, ends, strict=True):
            goes_on = start == 0
            length = int(end - start) + (before if goes_on else 0)
            if length >= RUN and not (goes_on and before >= RUN):
                self.clipped += 1
        self._run[channel] = 0
        if len(full) and full[-1]:
            start = begins[-1]
            self._run[channel] = int(len(full) - start) + (before if start == 0 else 0)


def _decibels(sample: int) -> float:
    return 20 * math.log10(sample / 32768) if sample else QUIETEST
