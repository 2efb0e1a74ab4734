"""A limiter that looks at what lies round each sample, so that any stretch of a sound can be limited alone."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

Samples = NDArray[np.float32]
REACH = 240
"""Samples to either side over which the gain goes down and comes back: 5 ms at 48 kHz."""
MARGIN = 2 * REACH + 32
"""Samples of the sound that have to be known before and after the stretch that is limited."""
OVER = 4
"""Oversampling at which peaks are looked for (ITU-R BS.1770-4, annex 2)."""
QUIET = 0.45
"""Under this share of the limit nothing between two samples can reach it in sound that is no test signal."""


def limited(samples: Samples, *, limit: float) -> Samples:
    """`samples` (n, channels) with `MARGIN` more on both sides than is given back, true peak at most `limit` (of full
    scale). Channels keep their balance."""
    inner = samples[MARGIN:-MARGIN]
    if float(np.abs(samples).max(initial=0.0)) < QUIET * limit:
        return inner
    from scipy.ndimage import minimum_filter1d, uniform_filter1d
    from scipy.signal import resample_poly

    rows = np.ascontiguousarray(samples.T, dtype=np.float64)
    between = _largest(np.abs(resample_poly(rows, OVER, 1, axis=1)))
    peaks = _largest(between.reshape(-1, OVER).T)
    # A peak between two samples belongs to both.
    peaks = np.maximum(np.maximum(peaks, _largest(np.abs(rows))), np.concatenate([[0.0], peaks[:-1]]))
    if float(peaks.max()) <= limit:
        return inner
    needed = np.minimum(1.0, limit * 0.985 / np.maximum(peaks, 1e-9))
    gain = uniform_filter1d(minimum_filter1d(needed, 2 * REACH + 1), 2 * REACH + 1)
    return np.asarray(inner * gain[MARGIN:-MARGIN, None], dtype=np.float32)


def _largest(rows: NDArray[np.float64]) -> NDArray[np.float64]:
    """The largest of each column; much quicker than NumPy's along a short axis."""
    found: NDArray[np.float64] = rows[0].copy()
    for row in rows[1:]:
        np.maximum(found, row, out=found)
    return found
