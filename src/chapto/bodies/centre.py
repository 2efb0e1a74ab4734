"""Where the weight of a whole body lies."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from chapto.bodies.posture import Posture, Vec, is_known
from chapto.bodies.scale import Scale
from chapto.bodies.segments import DE_LEVA, LIMBS, WINTER, MassTable
from chapto.document.joints import ROW, Joint

FINEST = 0.1
"""Torsos; the two tables differ by about 0.07 of one, so nothing finer is quoted."""
_HANDS = (Joint.LEFT_WRIST, Joint.RIGHT_WRIST)
_FEET = (Joint.LEFT_ANKLE, Joint.RIGHT_ANKLE)


@dataclass(frozen=True)
class Centre:
    """The whole-body centre: (2,) pixels, and the standard error of each coordinate."""

    place: Vec
    error: float


def centre_of(posture: Posture, scale: Scale) -> Centre | None:
    """The centre by the mean of two tables of segment shares; None unless every joint was put down.

    Its error is what the two tables differ by, what the clicks add, and at least half of `FINEST`.
    """
    if np.isnan(posture.points[ROW[Joint.LEFT_SHOULDER] :]).any() or not is_known(posture.at(Joint.HEAD), posture.neck):
        return None
    one, weights = _by_table(posture, DE_LEVA, first=True)
    other, _ = _by_table(posture, WINTER, first=False)
    apart = float(np.linalg.norm(one - other)) / 2
    clicks = posture.click * float(np.sqrt((weights**2).sum()))
    return Centre((one + other) / 2, max(float(np.hypot(apart, clicks)), FINEST * scale.torso / 2))


def _by_table(posture: Posture, table: MassTable, *, first: bool) -> tuple[Vec, Vec]:
    """The centre by one table, and how much each point (neck and hips last) counts in it."""
    share, place = table.trunk
    parts = [(table.head, posture.at(Joint.HEAD)), (share, posture.neck + place * (posture.hips - posture.neck))]
    for limb in LIMBS:
        mass, along = limb.de_leva if first else limb.winter
        for upper, lower in (limb.left, limb.right):
            parts.append((mass, posture.at(upper) + along * (posture.at(lower) - posture.at(upper))))
    parts += [(table.hand, posture.at(j)) for j in _HANDS] + [(table.foot, posture.at(j)) for j in _FEET]
    masses = np.array([m for m, _ in parts])
    weights = masses / masses.sum()
    return np.asarray(weights @ np.array([p for _, p in parts])), weights
