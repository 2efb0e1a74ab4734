"""How much later the microphone hears than the loudspeaker plays: known sounds, found again in what is heard."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from chapto.voice.recording.microphone import RATE, Block

STARTS = (0.4, 0.95, 1.7, 2.2)
"""Seconds at which they are played; the uneven distances tell them from an echo."""
LENGTH = 0.06
SECONDS = 3.2
LOW, HIGH = 500.0, 6000.0
"""Hertz between which each of them rises."""
CLEAR = 6.0
"""How many times over its surroundings the likeness must stand for the delay to be sure."""
LONGEST = 1.0
"""Seconds; a device that needs longer was not heard."""


def pattern() -> NDArray[np.float32]:
    """What is played: (n,) samples of `SECONDS`."""
    out = np.zeros(round(SECONDS * RATE), np.float32)
    t = np.arange(round(LENGTH * RATE)) / RATE
    sweep = np.sin(2 * np.pi * (LOW * t + (HIGH - LOW) * t**2 / (2 * LENGTH))) * np.hanning(len(t))
    for start in STARTS:
        at = round(start * RATE)
        out[at : at + len(t)] += 0.5 * sweep.astype(np.float32)
    return out


def delay_of(heard: Block) -> float | None:
    """Seconds by which (n, channels) samples, heard from when it began to be played, lag behind; None where it is not
    in them."""
    sound = heard[:, 0].astype(np.float64)
    played = pattern().astype(np.float64)
    size = 1 << (len(sound) + len(played)).bit_length()
    likeness = np.abs(np.fft.irfft(np.fft.rfft(sound, size) * np.conj(np.fft.rfft(played, size)), size))
    near = likeness[: round(LONGEST * RATE)]
    best = int(np.argmax(near))
    around = np.concatenate([near[: max(best - 480, 0)], near[best + 480 :]])
    floor = float(np.percentile(around, 99)) if len(around) else 0.0
    if near[best] <= 0 or near[best] < CLEAR * floor:
        return None
    return best / RATE
