"""What is found in a file's sound, kept: how loud it is from moment to moment, and its whistles and buzzers."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import astuple, dataclass

import numpy as np
from numpy.typing import NDArray

from chapto.errors import Cancelled
from chapto.media.cache import cache_file
from chapto.media.kept_arrays import Arrays, keep_arrays, kept_arrays
from chapto.media.signals import Signal, find_signals
from chapto.media.sound import RATE, FootageSound

LOUDNESS_HERTZ = 10
"""Values a second of the drawn sound curve."""
VERSION = 1


@dataclass(frozen=True)
class LoudAndTones:
    """How loud a file is `LOUDNESS_HERTZ` times a second (root mean square, (n,) float32), and its tones."""

    loudness: NDArray[np.float32]
    signals: tuple[Signal, ...]


def loud_and_tones(
    sound: FootageSound, fingerprint: str, *, cancelled: Callable[[], bool] = lambda: False
) -> LoudAndTones:
    """Those of a file's `sound`, kept in the cache under its fingerprint. Raises `Cancelled` when stopped."""
    place = cache_file("readings", f"{fingerprint}-sound-{VERSION}", ".npz")
    kept = kept_arrays(place, "loudness", "tones")
    if kept is None or not _fits(kept, len(sound)):
        found = LoudAndTones(_loudness(sound, cancelled), find_signals(sound, cancelled=cancelled))
        tones = np.array([astuple(s) for s in found.signals], np.float64).reshape(-1, 3)
        keep_arrays(place, {"loudness": found.loudness, "tones": tones})
        return found
    return LoudAndTones(kept["loudness"], tuple(Signal(*map(float, row)) for row in kept["tones"]))


def _fits(kept: Arrays, samples: int) -> bool:
    loudness, tones = kept["loudness"], kept["tones"]
    if loudness.shape != (samples // (RATE // LOUDNESS_HERTZ),) or tones.ndim != 2 or tones.shape[1] != 3:
        return False
    return bool(np.isfinite(loudness).all() and np.isfinite(tones).all())


def _loudness(sound: FootageSound, cancelled: Callable[[], bool]) -> NDArray[np.float32]:
    step = RATE // LOUDNESS_HERTZ
    blocks = [np.zeros(0, np.float32)]
    for i in range(0, len(sound) - step + 1, 600 * step):
        if cancelled():
            raise Cancelled
        part = sound.read(i, min(600 * step, (len(sound) - i) // step * step)).mean(axis=1)
        blocks.append(np.sqrt((part.reshape(-1, step) ** 2).mean(axis=1)).astype(np.float32))
    return np.concatenate(blocks)
