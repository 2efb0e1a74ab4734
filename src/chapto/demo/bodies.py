"""Two figures as points that may be pushed: where each limb's ends are, and which limbs must keep apart.

A figure is `POINTS` points; two figures stand one after the other in an array shaped (2·len(POINTS), 3), metres.
"""

from __future__ import annotations

from dataclasses import dataclass
from itertools import product

import numpy as np
from numpy.typing import NDArray

from chapto.demo.body import (
    CHANNELS,
    FOOT,
    FOREARM,
    HAND,
    HIP_HALF,
    NECK,
    SHIN,
    SHOULDER_HALF,
    SPINE,
    THIGH,
    UPPER_ARM,
    Joints,
    Vec,
    pose_joints,
    unit,
)

Array = NDArray[np.float64]

POINTS = (
    *("pelvis", "chest", "head", "ls", "rs", "le", "re", "lh", "rh", "lhip", "rhip", "lk", "rk", "lf", "rf"),
    *("ltoe", "rtoe"),
)
AT = {name: i for i, name in enumerate(POINTS)}
COUNT = len(POINTS)
CROWN = 0.45
"""The crown lies this much further than the head's middle, as a part of the neck's length."""

TRUNK = ("pelvis", "chest", "ls", "rs", "lhip", "rhip")
TRUNK_SHAPE = np.array([
    [0, 0, 0], [0, 0, SPINE], [0, SHOULDER_HALF, SPINE - 0.05], [0, -SHOULDER_HALF, SPINE - 0.05],
    [0, HIP_HALF, 0], [0, -HIP_HALF, 0],
])  # fmt: skip
"""`TRUNK` in a frame of its own: x to the front, y to the left, z up the spine."""

BONES = (
    (("ls", "le", UPPER_ARM), ("rs", "re", UPPER_ARM), ("lhip", "lk", THIGH), ("rhip", "rk", THIGH)),
    (("le", "lh", FOREARM), ("re", "rh", FOREARM), ("lk", "lf", SHIN), ("rk", "rf", SHIN), ("chest", "head", NECK)),
    (("lf", "ltoe", FOOT), ("rf", "rtoe", FOOT)),
)  # fmt: skip
"""Lengths to keep, in groups that share no point."""


@dataclass(frozen=True)
class Part:
    """A tapered, round-ended limb; each end is a mix of points, radii in metres."""

    name: str
    a: dict[str, float]
    b: dict[str, float]
    radius_a: float
    radius_b: float


def _side(s: str) -> tuple[Part, ...]:
    return (
        Part(f"{s} upper arm", {f"{s}s": 1}, {f"{s}e": 1}, 0.068, 0.05),
        Part(f"{s} forearm", {f"{s}e": 1}, {f"{s}h": 1}, 0.05, 0.036),
        Part(f"{s} hand", {f"{s}h": 1}, {f"{s}h": 1 + HAND / FOREARM, f"{s}e": -HAND / FOREARM}, 0.038, 0.03),
        Part(f"{s} thigh", {f"{s}hip": 1}, {f"{s}k": 1}, 0.1, 0.06),
        Part(f"{s} shin", {f"{s}k": 1}, {f"{s}f": 1}, 0.06, 0.038),
        Part(f"{s} foot", {f"{s}f": 1}, {f"{s}toe": 1}, 0.042, 0.026),
    )


PARTS = (  # the girths that `figures` draws, in fewer pieces
    Part("belly", {"pelvis": 1}, {"pelvis": 0.5, "chest": 0.5}, 0.125, 0.116),
    Part("ribs", {"pelvis": 0.5, "chest": 0.5}, {"pelvis": 0.18, "chest": 0.82}, 0.118, 0.133),
    Part("shoulders", {"ls": 1}, {"rs": 1}, 0.075, 0.075),
    Part("hips", {"lhip": 1}, {"rhip": 1}, 0.105, 0.105),
    Part("neck", {"chest": 1}, {"head": 1}, 0.055, 0.052),
    Part("skull", {"head": 1}, {"head": 1 + CROWN, "chest": -CROWN}, 0.094, 0.092),
    *_side("l"),
    *_side("r"),
)
NAMES = tuple(p.name for p in PARTS)
RADII = np.array([[p.radius_a, p.radius_b] for p in PARTS] * 2)


def _ends() -> Array:
    """Mix of points for each end: (2 figures · parts · 2 ends, 2 · points)."""
    mix = np.zeros((2, len(PARTS), 2, 2 * COUNT))
    for who, (i, part) in product((0, 1), enumerate(PARTS)):
        for end, points in enumerate((part.a, part.b)):
            for name, share in points.items():
                mix[who, i, end, who * COUNT + AT[name]] = share
    return mix.reshape(-1, 2 * COUNT)


ENDS = _ends()
_OWN = (
    *product(("l forearm", "l hand", "r forearm", "r hand"), ("belly", "ribs", "skull", "l thigh", "r thigh")),
    *product(("l shin", "r shin"), ("belly", "ribs")),
    ("l shin", "r thigh"), ("l thigh", "r shin"), ("l shin", "r shin"), ("l forearm", "r forearm"),
    ("l upper arm", "skull"), ("r upper arm", "skull"),
)  # fmt: skip
"""Parts of one figure that may not meet; the others meet by nature or cannot."""


def _pairs() -> NDArray[np.intp]:
    n = len(PARTS)
    across = [(i, n + j) for i, j in product(range(n), range(n))]
    own = [(who * n + NAMES.index(a), who * n + NAMES.index(b)) for who in (0, 1) for a, b in _OWN]
    return np.array(across + own, dtype=np.intp)


PAIRS = _pairs()
"""(k, 2): the limbs that must keep apart; a limb's number is its place in `PARTS`, the second figure's after it."""


def nearest(a: Array, b: Array) -> tuple[Array, Array, Array]:
    """Nearest points of segment pairs, `a` and `b` each (k, 2, 3): shares along both (k,), and b − a there (k, 3).

    Source: C. Ericson, Real-Time Collision Detection (2005), section 5.1.9 (from memory).
    """
    d1, d2, r = a[:, 1] - a[:, 0], b[:, 1] - b[:, 0], a[:, 0] - b[:, 0]
    aa, ee = (d1 * d1).sum(1), (d2 * d2).sum(1)
    f, c, m = (d2 * r).sum(1), (d1 * r).sum(1), (d1 * d2).sum(1)
    rest = aa * ee - m * m
    s = np.clip(np.where(rest > 1e-9, (m * f - c * ee) / np.maximum(rest, 1e-9), 0.5), 0, 1)
    t = np.clip((m * s + f) / ee, 0, 1)
    s = np.clip((m * t - c) / aa, 0, 1)
    return s, t, (b[:, 0] + t[:, None] * d2) - (a[:, 0] + s[:, None] * d1)


def overlaps(points: Array) -> tuple[Array, Array, Array, Array]:
    """How far the limbs of each of `PAIRS` go into one another, metres (negative when apart).

    Also the shares along both limbs and the way from the first to the second, as `nearest` gives them.
    """
    ends = (ENDS @ points).reshape(-1, 2, 3)
    one, other = PAIRS.T
    s, t, way = nearest(ends[one], ends[other])
    ra, rb = RADII[one], RADII[other]
    thick = ra[:, 0] * (1 - s) + ra[:, 1] * s + rb[:, 0] * (1 - t) + rb[:, 1] * t
    return thick - np.sqrt((way * way).sum(1)), s, t, way


def points_of(j: Joints) -> Array:
    """`POINTS` of one figure: (len(POINTS), 3), metres."""
    return np.array([
        j.pelvis, j.chest, j.head, *j.shoulders, *j.elbows, *j.wrists, *j.hips, *j.knees, *j.ankles, *j.toes,
    ])  # fmt: skip


def posture_of(points: Array) -> dict[str, Vec]:
    """The posture whose joints are `points` (len(POINTS), 3); the trunk must have its shape."""
    at = {name: points[i] for name, i in AT.items()}
    left = unit(at["ls"] - at["rs"])
    up = unit(at["chest"] - at["pelvis"])
    posture = {name: at[name] for name in CHANNELS if name not in ("front", "head")}
    return {**posture, "front": np.cross(left, up), "head": at["head"] - at["chest"]}


def both(one: dict[str, Vec], other: dict[str, Vec]) -> Array:
    """Points of two postures, one figure after the other."""
    return np.concatenate([points_of(pose_joints(one)), points_of(pose_joints(other))])
