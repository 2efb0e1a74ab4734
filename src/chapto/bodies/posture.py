"""Where the joints of one athlete are on the picture."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from chapto.document.joints import ROW, Joint

Vec = NDArray[np.float64]


@dataclass(frozen=True)
class Posture:
    """`points` are (14, 2) pixels, a row a joint in the order of `Joint`, NaN for one that was not put down; `click` is
    the standard error of each coordinate in pixels."""

    points: Vec
    click: float = 3.0

    def at(self, joint: Joint) -> Vec:
        """One point, (2,)."""
        return np.asarray(self.points[ROW[joint]])

    def middle(self, one: Joint, other: Joint) -> Vec:
        """Half-way between two points; the one that is there where the other is not."""
        both = self.points[[ROW[one], ROW[other]]]
        known = both[~np.isnan(both).any(1)]
        return np.asarray(known.mean(0)) if len(known) else np.full(2, np.nan)

    @property
    def hips(self) -> Vec:
        """The middle of the hips."""
        return self.middle(Joint.LEFT_HIP, Joint.RIGHT_HIP)

    @property
    def neck(self) -> Vec:
        """The neck, or the middle of the shoulders where it was not put down."""
        neck = self.at(Joint.NECK)
        return self.middle(Joint.LEFT_SHOULDER, Joint.RIGHT_SHOULDER) if np.isnan(neck).any() else neck


def is_known(*points: Vec) -> bool:
    """Whether every one of the points was put down."""
    return not any(np.isnan(p).any() for p in points)
