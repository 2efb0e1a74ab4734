"""How loud sound is, as people hear it: ITU-R BS.1770-4, with the gates of EBU R 128."""

from __future__ import annotations

import math

import numpy as np
from numpy.typing import NDArray

from chapto.media.sound import RATE

QUIETEST = -120.0
"""What silence counts as, in LUFS and in dBFS."""
_SHELF = ((1.53512485958697, -2.69169618940638, 1.19839281085285), (1.0, -1.69065929318241, 0.73248077421585))
_HIGH_PASS = ((1.0, -2.0, 1.0), (1.0, -1.99004745483398, 0.99007225036621))
"""The two filters at 48 kHz, numerator and denominator (BS.1770-4, tables 1 and 2)."""
_SECTIONS = np.array([[*_SHELF[0], *_SHELF[1]], [*_HIGH_PASS[0], *_HIGH_PASS[1]]])
_OFFSET = -0.691
STEP = RATE // 10
BLOCK_STEPS = 4
"""A gating block is 400 ms, and one begins every 100 ms."""
_AROUND = 64
"""Samples round a stretch that the value between two of its samples depends on."""
ABSOLUTE, RELATIVE = -70.0, -10.0
Samples = NDArray[np.floating]


def lufs(power: float) -> float:
    """Loudness of a weighted power summed over the channels."""
    return _OFFSET + 10 * math.log10(power) if power > 1e-12 else QUIETEST


class KWeighting:
    """The ear's weighting, going on from block to block."""

    def __init__(self, channels: int) -> None:
        self._states = np.zeros((2, channels, 2))

    def powers(self, block: Samples) -> NDArray[np.float64]:
        """Weighted power of every whole `STEP` of (n, channels) samples in −1…1, summed over the channels, which all
        count alike (left, right, centre). `n` is a multiple of `STEP`."""
        from scipy.signal import sosfilt

        rows = np.ascontiguousarray(block.T, dtype=np.float64)
        out, self._states = sosfilt(_SECTIONS, rows, axis=1, zi=self._states)
        power: NDArray[np.float64] = np.square(out[0])
        for channel in out[1:]:
            power += np.square(channel)
        return np.asarray(power.reshape(-1, STEP).mean(1))


class LoudnessMeter:
    """Integrated loudness of a sound that comes in pieces; it keeps one number for each 100 ms."""

    def __init__(self, channels: int = 2) -> None:
        self._weighting = KWeighting(channels)
        self._rest = np.zeros((0, channels))
        self._steps: list[float] = []

    def take(self, block: Samples) -> None:
        """(n, channels) more samples in −1…1."""
        waiting = np.concatenate([self._rest, block])
        whole = len(waiting) // STEP * STEP
        if whole:
            self._steps += self._weighting.powers(waiting[:whole]).tolist()
        self._rest = waiting[whole:]

    @property
    def integrated(self) -> float:
        """Loudness of all of it in LUFS."""
        return integrated_of(np.array(self._steps))


def integrated_of(steps: NDArray[np.float64]) -> float:
    """Loudness in LUFS of a sound by its weighted power in each 100 ms. It is gated at −70 LUFS, and then 10 LU under
    what is left."""
    if len(steps) < BLOCK_STEPS:
        return lufs(float(steps.mean())) if len(steps) else QUIETEST
    blocks = np.convolve(steps, np.full(BLOCK_STEPS, 1 / BLOCK_STEPS), "valid")
    heard = blocks[blocks > _power(ABSOLUTE)]
    if not len(heard):
        return QUIETEST
    heard = heard[heard > _power(lufs(float(heard.mean())) + RELATIVE)]
    return lufs(float(heard.mean()))


def integrated(samples: Samples) -> float:
    """Integrated loudness in LUFS of (n, channels) samples in −1…1 at 48 kHz."""
    meter = LoudnessMeter(samples.shape[1])
    meter.take(samples)
    return meter.integrated


def true_peak(samples: Samples) -> float:
    """The highest peak between the samples of (n, channels), in dBTP: four times oversampled (BS.1770-4, annex 2)."""
    from scipy.signal import resample_poly

    if not len(samples):
        return QUIETEST
    peak = 0.0
    for at in range(0, len(samples), RATE):
        before = min(at, _AROUND)
        part = samples[at - before : at + RATE + _AROUND]
        between = np.abs(resample_poly(part, 4, 1, axis=0))
        peak = max(peak, float(between[4 * before : 4 * (before + RATE)].max()))
    return 20 * math.log10(peak) if peak > 1e-6 else QUIETEST


def _power(loudness: float) -> float:
    return float(10 ** ((loudness - _OFFSET) / 10))
