"""A limiter that looks at what lies round each sample, so that any stretch of a sound can be limited alone."""

from __future__ import annotations

from functools import lru_cache

import numpy as np
from numpy.lib.stride_tricks import sliding_window_view
from numpy.typing import NDArray

Samples = NDArray[np.float32]
REACH = 240
"""Samples to either side over which the gain goes down and comes back: 5 ms at 48 kHz."""
MARGIN = 2 * REACH + 32
"""Samples of the sound that have to be known before and after the stretch that is limited."""
OVER = 4
"""Oversampling at which peaks are looked for (ITU-R BS.1770-4, annex 2)."""
QUIET = 0.5
"""Where no sample reaches this share of the limit, nothing between two samples passes it in natural sound."""
TAPS = 10
"""Samples to either side of which the oversampling filter makes a value."""
TILE, AROUND = 2400, 16
"""Samples looked at together, and how many round them the values between samples depend on."""


def limited(samples: Samples, *, limit: float) -> Samples:
    """`samples` (n, channels) with `MARGIN` more on both sides than is given back, true peak at most `limit` (of full
    scale). Channels keep their balance."""
    inner = samples[MARGIN:-MARGIN]
    rows = np.ascontiguousarray(samples.T)
    here = _largest(np.abs(rows))
    loud = np.flatnonzero(here > QUIET * limit)
    if not len(loud):
        return inner
    peaks = _between(rows, here, loud)
    if float(peaks.max()) <= limit:
        return inner
    from scipy.ndimage import minimum_filter1d, uniform_filter1d

    needed = np.minimum(1.0, limit * 0.985 / np.maximum(peaks, 1e-9))
    gain = uniform_filter1d(minimum_filter1d(needed, 2 * REACH + 1), 2 * REACH + 1)
    return np.asarray(inner * gain[MARGIN:-MARGIN, None], dtype=np.float32)


def highest_peak(samples: Samples) -> float:
    """The highest true peak of (n, channels) samples, of full scale."""
    rows = np.ascontiguousarray(samples.T)
    here = _largest(np.abs(rows))
    highest = float(here.max(initial=0.0))
    loud = np.flatnonzero(here > QUIET * highest)
    return float(_between(rows, here, loud).max()) if len(loud) else highest


def _between(rows: Samples, here: Samples, loud: NDArray[np.intp]) -> Samples:
    """The highest value at each sample of (channels, n) and up to the next one; looked for only round what is `loud`
    (by number), elsewhere the samples themselves (`here`)."""
    peaks = here.copy()
    for tile in np.unique(loud // TILE):
        first, end = max(tile * TILE - AROUND, 0), min((tile + 1) * TILE + AROUND, rows.shape[1])
        found = _largest(np.abs(_oversampled(rows[:, first:end])).reshape(-1, end - first))
        a, z = tile * TILE, min((tile + 1) * TILE, rows.shape[1])
        inside = found[a - first : z - first]
        np.maximum(peaks[a:z], inside, out=peaks[a:z])
        # A peak between two samples belongs to both.
        np.maximum(peaks[a + 1 : z + 1], inside[: len(peaks[a + 1 : z + 1])], out=peaks[a + 1 : z + 1])
    return peaks


def _oversampled(rows: Samples) -> Samples:
    """Each sample of (channels, n) and the values up to the next one: (channels, `OVER`, n). All phases of the filter
    are one product of matrices."""
    padded = np.zeros((len(rows), rows.shape[1] + 2 * TAPS), np.float32)
    padded[:, TAPS:-TAPS] = rows
    found: Samples = _phases() @ sliding_window_view(padded, rows.shape[1], axis=1)
    return found


@lru_cache(maxsize=1)
def _phases() -> Samples:
    """The oversampling filter, (`OVER`, 2 · `TAPS` + 1): what each sample round one adds to the values after it."""
    from scipy.signal import firwin

    middle = TAPS * OVER
    taps = firwin(2 * middle + 1, 1 / OVER, window=("kaiser", 5.0)) * OVER
    phases = np.zeros((OVER, 2 * TAPS + 1), np.float32)
    for away in range(-TAPS, TAPS + 1):
        for phase in range(OVER):
            at = middle + phase - OVER * away
            if 0 <= at <= 2 * middle:
                phases[phase, TAPS + away] = taps[at]
    return phases


def _largest(rows: Samples) -> Samples:
    """The largest of each column; much quicker than NumPy's along a short axis."""
    found: Samples = rows[0].copy()
    for row in rows[1:]:
        np.maximum(found, row, out=found)
    return found
