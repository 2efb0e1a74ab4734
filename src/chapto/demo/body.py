"""A jointed figure: from a sparse posture (where trunk, hands and feet are) to 17 joints.

Units are metres; x and y lie on the mat, z points up.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

Vec = NDArray[np.float64]

SPINE = 0.50
NECK = 0.20
HIP_HALF, SHOULDER_HALF = 0.11, 0.185
THIGH, SHIN, FOOT = 0.44, 0.43, 0.17
UPPER_ARM, FOREARM, HAND = 0.30, 0.27, 0.10

CHANNELS = ("pelvis", "chest", "front", "head", "lh", "rh", "lf", "rf", "lk", "rk", "le", "re", "ltoe", "rtoe")
"""What a posture fixes: two trunk points, two directions, four ends, four bending hints, and toes where they matter."""


@dataclass(frozen=True)
class Joints:
    """World positions, each shaped (3,), in metres."""

    pelvis: Vec
    chest: Vec
    head: Vec
    face: Vec
    shoulders: tuple[Vec, Vec]
    elbows: tuple[Vec, Vec]
    wrists: tuple[Vec, Vec]
    hands: tuple[Vec, Vec]
    hips: tuple[Vec, Vec]
    knees: tuple[Vec, Vec]
    ankles: tuple[Vec, Vec]
    toes: tuple[Vec, Vec]


def unit(v: Vec) -> Vec:
    """`v` scaled to length 1; a zero vector stays zero."""
    n = float(np.linalg.norm(v))
    return v / n if n > 1e-9 else v


def cross(a: Vec, b: Vec) -> Vec:
    """Cross product of two vectors; for single vectors several times faster than `numpy.cross`."""
    return np.array([a[1] * b[2] - a[2] * b[1], a[2] * b[0] - a[0] * b[2], a[0] * b[1] - a[1] * b[0]])


def bend(root: Vec, target: Vec, pole: Vec, first: float, second: float) -> tuple[Vec, Vec]:
    """Two-bone inverse kinematics by the law of cosines.

    Returns the middle joint, bent towards `pole`, and the end, as near to `target` as the bones reach.
    """
    reach = target - root
    dist = float(np.clip(np.linalg.norm(reach), abs(first - second) + 0.02, first + second - 0.005))
    along = unit(reach)
    side = pole - root
    side = side - along * float(side @ along)
    side = unit(side) if np.linalg.norm(side) > 1e-6 else unit(cross(along, np.array([0.0, 0.0, 1.0])))
    a = (first**2 - second**2 + dist**2) / (2 * dist)
    height = np.sqrt(max(first**2 - a**2, 0.0))
    return root + along * a + side * height, root + along * dist


def pose_joints(posture: dict[str, Vec]) -> Joints:
    """Joints of one figure from the `CHANNELS` of its posture (each shaped (3,))."""
    pelvis = posture["pelvis"]
    up = unit(posture["chest"] - pelvis)
    chest = pelvis + up * SPINE
    front = posture["front"] - up * float(posture["front"] @ up)
    front = unit(front) if np.linalg.norm(front) > 1e-6 else unit(cross(up, np.array([0.0, 1.0, 0.0])))
    left = cross(up, front)
    look = unit(posture["head"])
    head = chest + look * NECK
    face = unit(front - look * float(front @ look))

    hips = (pelvis + left * HIP_HALF, pelvis - left * HIP_HALF)
    top = chest - up * 0.05
    shoulders = (top + left * SHOULDER_HALF, top - left * SHOULDER_HALF)
    arms = [
        bend(s, posture[h], posture[e], UPPER_ARM, FOREARM)
        for s, h, e in zip(shoulders, ("lh", "rh"), ("le", "re"), strict=True)
    ]
    legs = [
        bend(s, posture[f], posture[k], THIGH, SHIN) for s, f, k in zip(hips, ("lf", "rf"), ("lk", "rk"), strict=True)
    ]
    toes = []
    for (knee, ankle), name in zip(legs, ("ltoe", "rtoe"), strict=True):
        if name in posture:
            toes.append(ankle + unit(posture[name] - ankle) * FOOT)
            continue
        shin = unit(ankle - knee)
        ahead = unit(front + 0.6 * unit(knee - pelvis))
        flat = ahead - shin * float(ahead @ shin)
        toe = ankle + unit(flat) * FOOT if np.linalg.norm(flat) > 0.2 else ankle + shin * FOOT
        toe[2] = max(toe[2], 0.03)
        toes.append(toe)
    return Joints(
        pelvis=pelvis,
        chest=chest,
        head=head,
        face=face,
        shoulders=shoulders,
        elbows=(arms[0][0], arms[1][0]),
        wrists=(arms[0][1], arms[1][1]),
        hands=(
            arms[0][1] + unit(arms[0][1] - arms[0][0]) * HAND,
            arms[1][1] + unit(arms[1][1] - arms[1][0]) * HAND,
        ),
        hips=hips,
        knees=(legs[0][0], legs[1][0]),
        ankles=(legs[0][1], legs[1][1]),
        toes=(toes[0], toes[1]),
    )
