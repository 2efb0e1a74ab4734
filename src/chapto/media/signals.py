"""Whistles and buzzers: steady tones that stand out of everything else in the sound."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

import numpy as np

from chapto.errors import Cancelled
from chapto.media.sound import RATE, FootageSound

TONE_RATE = 16_000
SIZE, HOP = 1024, 256
LOWEST, HIGHEST = 300.0, 5_000.0
"""Hz between which whistles and buzzers sound (common practice: pea whistles 2 to 4 kHz, buzzers 300 Hz to 1 kHz)."""
SHARE = 0.45
"""Share of the sound's energy between those that lies in one narrow peak."""
LOUDER = 4.0
"""Times the usual level."""
SHORTEST, LONGEST = 0.3, 4.0
WANDER = 0.09
"""Share of its pitch by which a tone may wander: pea whistles trill."""


@dataclass(frozen=True)
class Signal:
    """A tone of about `hertz` from second `start` to `end` of a file."""

    start: float
    end: float
    hertz: float


def find_signals(sound: FootageSound, *, cancelled: Callable[[], bool] = lambda: False) -> tuple[Signal, ...]:
    """Every whistle and buzzer in a file's sound, in order. Raises `Cancelled` when stopped."""
    from scipy.signal import resample_poly

    found: list[Signal] = []
    usual: list[float] = []
    for first in range(0, len(sound), 120 * RATE):
        if cancelled():
            raise Cancelled
        # Two seconds of overlap, so that a tone across the seam is whole in one of the blocks.
        block = sound.read(first, min(122 * RATE, len(sound) - first)).mean(axis=1)
        signal = np.asarray(resample_poly(block, TONE_RATE, RATE))
        for s in _tones(signal, usual):
            made = Signal(s.start + first / RATE, s.end + first / RATE, s.hertz)
            if found and made.start < found[-1].end + 0.2:
                continue
            found.append(made)
    return tuple(found)


def _tones(signal: np.ndarray[tuple[int], np.dtype[np.float64]], usual: list[float]) -> list[Signal]:
    from scipy.fft import rfft
    from scipy.ndimage import median_filter

    if len(signal) < SIZE:
        return []
    frames = np.lib.stride_tricks.sliding_window_view(signal, SIZE)[::HOP]
    power = np.abs(rfft(frames * np.hanning(SIZE), axis=1)) ** 2
    hertz = np.fft.rfftfreq(SIZE, 1 / TONE_RATE)
    inside = (hertz >= LOWEST) & (hertz <= HIGHEST)
    power, hertz = power[:, inside], hertz[inside]
    total = power.sum(axis=1)
    usual.append(float(np.median(total)))
    top = power.argmax(axis=1)
    # A trilling whistle moves within a frame, so the peak is taken as wide as it may wander.
    wide = np.maximum((hertz[top] * WANDER / 2 / (hertz[1] - hertz[0])).astype(int), 2)
    sums = np.concatenate([np.zeros((len(power), 1)), np.cumsum(power, axis=1)], axis=1)
    rows = np.arange(len(power))
    peak = sums[rows, np.minimum(top + wide + 1, power.shape[1])] - sums[rows, np.maximum(top - wide, 0)]
    tonal = (peak > SHARE * total) & (total > LOUDER**2 * float(np.median(usual)))
    tonal = median_filter(tonal.astype(np.uint8), 5) > 0
    edges = np.flatnonzero(np.diff(np.concatenate([[False], tonal, [False]]).astype(np.int8))).reshape(-1, 2)
    found = []
    for a, b in edges:
        pitch = float(np.median(hertz[top[a:b]]))
        steady = float((np.abs(hertz[top[a:b]] - pitch) <= WANDER * pitch).mean())
        start, end = (float(i * HOP + SIZE / 2) / TONE_RATE for i in (a, b))
        if SHORTEST <= end - start <= LONGEST and steady >= 0.8:
            found.append(Signal(start, end, pitch))
    return found
