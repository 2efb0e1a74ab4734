"""How sure a share is that was counted, so that nobody reads a verdict from three tries."""

from __future__ import annotations

from dataclasses import dataclass
from math import sqrt

import numpy as np
from numpy.typing import NDArray

Z = 1.959963984540054
"""Standard deviations round the middle of a normal distribution that hold 95 % of it."""
ENOUGH = 10
"""Counted things from which a trend is spoken of (common practice)."""


@dataclass(frozen=True)
class Share:
    """`hits` of `tries`, and from `low` to `high` where the true share lies with 95 % (0…1)."""

    hits: int
    tries: int
    low: float
    high: float

    @property
    def is_telling(self) -> bool:
        """Whether it tells more than a coin: one half lies outside."""
        return self.tries > 0 and not self.low <= 0.5 <= self.high


def share(hits: int, tries: int, *, z: float = Z) -> Share:
    """The score interval of a share (E. B. Wilson, “Probable inference, the law of succession, and statistical
    inference”, Journal of the American Statistical Association 22, 1927, pages 209–212). `ValueError` for more hits
    than tries. Without a try everything is possible."""
    if not 0 <= hits <= tries:
        raise ValueError(f"There can't be {hits} hits of {tries} tries.")
    if tries == 0:
        return Share(0, 0, 0.0, 1.0)
    p, n = hits / tries, float(tries)
    middle = (p + z * z / (2 * n)) / (1 + z * z / n)
    reach = z / (1 + z * z / n) * sqrt(p * (1 - p) / n + z * z / (4 * n * n))
    return Share(
        hits, tries, max(middle - reach, 0.0) if hits else 0.0, min(middle + reach, 1.0) if hits < tries else 1.0
    )


@dataclass(frozen=True)
class Trend:
    """By how much something changes a step, and from `low` to `high` by how much it truly does with 95 %."""

    slope: float
    low: float
    high: float
    count: int

    @property
    def is_telling(self) -> bool:
        """Whether it goes one way for sure, from enough of them."""
        return self.count >= ENOUGH and not self.low <= 0 <= self.high


def trend(x: NDArray[np.float64], y: NDArray[np.float64]) -> Trend | None:
    """The median of all slopes between two (H. Theil 1950, P. K. Sen 1968), which one odd value does not bend; None for
    fewer than three, or where all stand at one place."""
    from scipy.stats import theilslopes

    if len(x) < 3 or np.ptp(x) == 0:
        return None
    found = theilslopes(y, x, alpha=0.95)
    return Trend(float(found.slope), float(found.low_slope), float(found.high_slope), len(x))
