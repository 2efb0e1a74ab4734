"""How much louder a programme has to be made to be as loud as its creator wants it."""

from __future__ import annotations

from collections.abc import Callable, Iterator

from chapto.errors import Cancelled
from chapto.media.loudness import QUIETEST, LoudnessMeter
from chapto.media.sound import RATE
from chapto.render.mix import Mix, Samples

MOST = 30.0
"""Decibels; what is quieter than that holds no programme to speak of."""
CLOSE = 0.2
"""LU; EBU R 128 allows 0.5."""
ATTEMPTS = 4
"""Limiting peaks takes some loudness, which is given back in a few rounds."""
BLOCK = 4 * RATE


def gain_for(make: Callable[[float], Mix], target: float, *, cancelled: Callable[[], bool] = lambda: False) -> float:
    """Decibels at which `make(decibels)` has an integrated loudness of `target` LUFS, its peaks limited.

    It is 0 for silence. Raises `Cancelled` when stopped.
    """
    gain = 0.0
    for _ in range(ATTEMPTS):
        found = loudness_of(make(gain), cancelled=cancelled)
        if found <= QUIETEST + MOST or abs(found - target) <= CLOSE:
            break
        gain = min(gain + target - found, MOST)
    return gain


def loudness_of(mix: Mix, *, cancelled: Callable[[], bool] = lambda: False) -> float:
    """Integrated loudness of a whole programme in LUFS."""
    meter = LoudnessMeter(2)
    for block in _blocks(mix, cancelled):
        meter.take(block)
    return meter.integrated


def _blocks(mix: Mix, cancelled: Callable[[], bool]) -> Iterator[Samples]:
    for first in range(0, mix.length, BLOCK):
        if cancelled():
            raise Cancelled
        yield mix.read(first, min(BLOCK, mix.length - first))
