"""From where the two are, look by look, to where a narrow picture looks: it holds all of them a little ahead and
after, and never jerks."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from chapto.programme.readings import EVERYWHERE, Action

Boxes = NDArray[np.float64]
AHEAD = 0.6
"""Seconds before and after within which everybody stays inside."""
MARGIN = 0.015
"""Share of the picture that stays free beside them."""


class FollowWay:
    """`two` are rows of second, left, top, right, foot, in order of time and equally far apart."""

    def __init__(self, two: Boxes) -> None:
        from scipy.ndimage import maximum_filter1d, minimum_filter1d, uniform_filter1d

        self._seconds = two[:, 0]
        step = float(np.median(np.diff(self._seconds))) if len(two) > 1 else AHEAD
        reach = max(round(AHEAD / step), 1)
        wide = 2 * reach + 1
        low, high = minimum_filter1d(two[:, 1:3], wide, axis=0), maximum_filter1d(two[:, 3:5], wide, axis=0)
        # A mean over what the envelope reaches never leaves it: every box stays inside, and corners become curves.
        self._boxes = uniform_filter1d(np.hstack([low - MARGIN, high + MARGIN]), wide, axis=0, mode="nearest")

    def at(self, second: float) -> Action:
        """The box to be held at a second of the file."""
        if not len(self._seconds):
            return EVERYWHERE
        left, top, right, foot = (
            float(np.clip(np.interp(second, self._seconds, side), 0, 1)) for side in self._boxes.T
        )
        return Action(left, top, right, foot)
