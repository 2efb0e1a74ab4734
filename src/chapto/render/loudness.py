"""How much louder a programme has to be made to be as loud as its creator wants it."""

from __future__ import annotations

import hashlib
from collections.abc import Callable
from dataclasses import dataclass
from functools import partial
from itertools import pairwise

import numpy as np
from numpy.typing import NDArray

from chapto.errors import Cancelled
from chapto.media.limiter import MARGIN, highest_peak
from chapto.media.loudness import QUIETEST, STEP, KWeighting, integrated_of
from chapto.media.remembered import Remembered
from chapto.media.sound import RATE
from chapto.render.mix import PEAK, Mix

MOST = 30.0
"""Decibels; what is quieter than that holds no programme to speak of."""
CLOSE = 0.11
"""LU; EBU R 128 allows 0.5. Gains are half a step of `STEPS` away from it at most."""
ATTEMPTS = 4
"""Limiting peaks takes some loudness, which is given back in a few rounds."""
BLOCK = 3 * RATE
"""Samples measured together."""
BEFORE = RATE // 5
"""Samples before a block from which the ear's weighting is begun anew: it has forgotten all before them."""

STEPS = 5
"""Gains tried to a decibel: after an edit it is mostly the same one, and nothing has to be encoded again for it."""
KEPT = 8192
"""Blocks remembered: some hours of sound."""
AROUND = 2 * MARGIN
"""Samples beside a block whose peaks are brought down in it too."""


@dataclass(frozen=True)
class _Measured:
    """A block of the programme as it is mixed, before anything is limited: a digest of its samples, its weighted power
    every 100 ms, and the highest peak in it or just beside it, of full scale. Digests say what is heard, not where."""

    digest: bytes
    powers: NDArray[np.float64]
    peak: float


def gain_for(make: Callable[[float], Mix], target: float, *, cancelled: Callable[[], bool] = lambda: False) -> float:
    """Decibels at which `make(decibels)` has an integrated loudness of `target` LUFS, its peaks limited.

    It is 0 for silence. Raises `Cancelled` when stopped.
    """
    plain = make(0.0)
    spans = _spans(plain)
    blocks = [_measured(plain, *span, cancelled) for span in spans]
    found = integrated_of(np.concatenate([b.powers for b in blocks])) if blocks else QUIETEST
    if found <= QUIETEST + MOST:
        return 0.0
    gain = _step(min(target - found, MOST))
    for _ in range(ATTEMPTS):
        found = _limited_loudness(make(gain), gain, spans, blocks, cancelled)
        if abs(found - target) <= CLOSE or gain >= MOST:
            break
        gain = _step(min(gain + target - found, MOST))
    return gain


def _step(gain: float) -> float:
    """The nearest gain of those that are tried: after an edit it is mostly the same, and what it did is known."""
    return round(gain * STEPS) / STEPS


def _spans(mix: Mix) -> list[tuple[int, int]]:
    """First sample and number of samples of each block. They begin anew with every section: what lies behind an edit
    is only later than it was, and known."""
    starts = [*mix.sections, mix.length]
    return [(at, min(BLOCK, end - at)) for start, end in pairwise(starts) for at in range(start, end, BLOCK)]


def _measured(mix: Mix, first: int, count: int, cancelled: Callable[[], bool]) -> _Measured:
    if cancelled():
        raise Cancelled
    samples = mix.unlimited(first - BEFORE, BEFORE + count + AROUND)
    digest = hashlib.blake2b(samples.tobytes(), digest_size=16).digest()
    return _measured_before.of(
        digest,
        lambda: _Measured(digest, _powers(samples[: BEFORE + count]), highest_peak(samples[BEFORE - AROUND :])),
    )


def _limited_loudness(
    mix: Mix, gain: float, spans: list[tuple[int, int]], blocks: list[_Measured], cancelled: Callable[[], bool]
) -> float:
    """Integrated loudness of the whole, made `gain` louder: what is nowhere limited is as it was measured, only
    louder."""
    louder, powers = 10 ** (gain / 20), []
    for span, block in zip(spans, blocks, strict=True):
        if cancelled():
            raise Cancelled
        if block.peak * louder <= PEAK:
            powers.append(block.powers * louder**2)
        else:
            powers.append(_limited_before.of((block.digest, gain), partial(_limited, mix, *span)))
    return integrated_of(np.concatenate(powers))


def _limited(mix: Mix, first: int, count: int) -> NDArray[np.float64]:
    return _powers(mix.read(first - BEFORE, BEFORE + count))


# Of an edited programme nearly all blocks are as they were.
_measured_before: Remembered[_Measured] = Remembered(KEPT)
_limited_before: Remembered[NDArray[np.float64]] = Remembered(KEPT)


def _powers(samples: NDArray[np.float32]) -> NDArray[np.float64]:
    """Weighted power of every whole 100 ms after the first `BEFORE` samples."""
    whole = len(samples) // STEP * STEP
    return KWeighting(2).powers(samples[:whole])[BEFORE // STEP :]
