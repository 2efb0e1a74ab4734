"""How a back leans, and how a knee is bent."""

from __future__ import annotations

import numpy as np

from chapto.bodies.fact import DEGREES, Fact
from chapto.bodies.posture import Posture, Vec, is_known
from chapto.bodies.scale import Scale
from chapto.bodies.segments import SHANK, THIGH

FLAT = 0.9
"""A limb shorter than this share of its length points at the camera or away, and its angle is not the one seen."""
ROUGH = 12.0
"""Degrees of error from which on an angle is not said."""


def spine_angle(posture: Posture, scale: Scale) -> Fact | None:
    """Degrees from upright to the line from hips to neck: 0 upright, 90 level, 180 upside down.

    It may be said only where the trunk is seen at nearly its full length.
    """
    neck, hips = posture.neck, posture.hips
    if not is_known(neck, hips):
        return None
    up = hips - neck
    length = float(np.linalg.norm(up))
    if length == 0:
        return None
    angle = float(np.degrees(np.arctan2(abs(up[0]), up[1])))
    error = float(np.degrees(np.sqrt(2) * posture.click / length))
    return Fact(angle, error, DEGREES, length >= FLAT * scale.torso and error < ROUGH)


def knee_angle(posture: Posture, scale: Scale, *, left: bool) -> Fact | None:
    """Degrees between thigh and shank: 180 is straight. Said only where both are seen at nearly their full length."""
    ends = (THIGH.left, SHANK.left) if left else (THIGH.right, SHANK.right)
    hip, knee, ankle = (posture.at(j) for j in (ends[0][0], ends[0][1], ends[1][1]))
    if not is_known(hip, knee, ankle):
        return None
    thigh, shank = hip - knee, ankle - knee
    lengths = float(np.linalg.norm(thigh)), float(np.linalg.norm(shank))
    if min(lengths) == 0:
        return None
    angle = _between(thigh, shank)
    error = float(np.degrees(posture.click * np.sqrt(1 / lengths[0] ** 2 + 1 / lengths[1] ** 2) * 1.5))
    flat = all(seen >= FLAT * limb.length * scale.stature for seen, limb in zip(lengths, (THIGH, SHANK), strict=True))
    return Fact(angle, error, DEGREES, flat and error < ROUGH)


def _between(a: Vec, b: Vec) -> float:
    cosine = float(a @ b / (np.linalg.norm(a) * np.linalg.norm(b)))
    return float(np.degrees(np.arccos(np.clip(cosine, -1, 1))))
