"""Who of two people talks when each has a microphone: the one on whose channel it is louder."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np
from numpy.typing import NDArray

APART = 6.0
"""Decibels that words must lie apart before they are of two people."""
SHORT = 0.3
"""Seconds under which a word between two of the other person is taken for theirs: it is too short to be sure."""


def louder_channels(sound: NDArray[np.float32], rate: int, spans: Sequence[tuple[float, float]]) -> tuple[int, ...]:
    """For each of `spans` (seconds, in order) of `sound` (n, 2) the channel, 1 or 2, of who talks. Microphones may be
    turned up differently: what counts is on which side of the middle of all words it lies."""
    apart = np.array([_apart(sound[round(a * rate) : max(round(z * rate), round(a * rate) + 1)]) for a, z in spans])
    if not len(apart):
        return ()
    low, high = np.percentile(apart, [5, 95])
    if high - low < APART:
        return (1 if np.median(apart) >= 0 else 2,) * len(apart)
    found = [1 if x >= (low + high) / 2 else 2 for x in apart]
    for i, (a, z) in enumerate(spans[1:-1], 1):
        if found[i - 1] == found[i + 1] != found[i] and z - a < SHORT:
            found[i] = found[i - 1]
    return tuple(found)


def _apart(part: NDArray[np.float32]) -> float:
    """Decibels by which the left channel is louder."""
    left, right = (part.astype(np.float64) ** 2).mean(0) + 1e-10
    return float(10 * np.log10(left / right))
