"""How large an athlete is on the picture."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from chapto.bodies.posture import Posture, is_known
from chapto.bodies.segments import LIMBS, TRUNK_LENGTH

FEWEST = 3
"""Segments that have to be there before anything is said of a size."""
PEOPLE_DIFFER = 0.04
"""Share by which a person's segments differ from the table (standard error; Drillis and Contini)."""


@dataclass(frozen=True)
class Scale:
    """A torso in pixels, with its standard error."""

    torso: float
    error: float

    @property
    def stature(self) -> float:
        """The whole height in pixels."""
        return self.torso / TRUNK_LENGTH


def scale_of(postures: Sequence[Posture]) -> Scale | None:
    """The size of an athlete from all postures of a stretch; None where too few joints were put down.

    Each of nine segments, at its longest, gives a stature by its share of it. A picture only shortens, so the longest
    would be right but for one slip of the hand: the second longest is taken.
    """
    longest: list[tuple[float, float]] = []
    click = max((p.click for p in postures), default=0.0)
    for limb in LIMBS:
        for ends in (limb.left, limb.right):
            lengths = [float(np.linalg.norm(p.at(ends[0]) - p.at(ends[1]))) for p in postures]
            longest += [(max(known), limb.length) for known in [[x for x in lengths if not np.isnan(x)]] if known]
    trunks = [float(np.linalg.norm(p.neck - p.hips)) for p in postures if is_known(p.neck, p.hips)]
    longest += [(max(trunks), TRUNK_LENGTH)] if trunks else []
    if len(longest) < FEWEST:
        return None
    length, share = sorted(longest, key=lambda x: x[0] / x[1])[-2]
    if length <= 0:
        return None
    torso = length / share * TRUNK_LENGTH
    return Scale(torso, float(torso * np.hypot(np.sqrt(2) * click / length, PEOPLE_DIFFER)))
