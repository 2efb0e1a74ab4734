"""Two bodies that touch: limbs keep out of one another, hands hold what they hold, planted feet stay.

Position-based dynamics after Müller, Heidelberger, Hennix and Ratcliff, "Position based dynamics" (2007): points are
moved to where they are wanted, then put right again and again by one rule after another.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from chapto.demo.bodies import AT, BONES, COUNT, ENDS, PAIRS, RADII, TRUNK, TRUNK_SHAPE, Array, overlaps
from chapto.demo.body import FOREARM, SHIN, THIGH, UPPER_ARM

SOFT = 0.012
"""Metres that bodies give where they press on one another."""
LEFT = 0.014
"""Settling ends when no limb goes further than this into another, metres."""
LEAST = 12
TRUNK_PULL = 0.04
_TRUNK = np.array([AT[n] for n in TRUNK])
_TRUNKS = np.concatenate([_TRUNK, _TRUNK + COUNT])
_SHAPE = TRUNK_SHAPE - TRUNK_SHAPE.mean(0)
_GROUPS = [
    (
        np.array([who * COUNT + AT[a] for who in (0, 1) for a, _, _ in group]),
        np.array([who * COUNT + AT[b] for who in (0, 1) for _, b, _ in group]),
        np.array([length for _ in (0, 1) for _, _, length in group]),
    )
    for group in BONES
]
_LIMBS = (("ls", "lh", UPPER_ARM + FOREARM), ("rs", "rh", UPPER_ARM + FOREARM),
          ("lhip", "lf", THIGH + SHIN), ("rhip", "rf", THIGH + SHIN))  # fmt: skip
_ROOTS = np.array([who * COUNT + AT[a] for who in (0, 1) for a, _, _ in _LIMBS])
_ENDS = np.array([who * COUNT + AT[b] for who in (0, 1) for _, b, _ in _LIMBS])
_REACH = np.array([length for _ in (0, 1) for _, _, length in _LIMBS]) - 0.005
_FLOORS = {
    **dict.fromkeys(("pelvis", "lhip", "rhip"), 0.115), **dict.fromkeys(("chest", "ls", "rs"), 0.09),
    "head": 0.1, **dict.fromkeys(("le", "re", "lk", "rk"), 0.055),
    **dict.fromkeys(("lh", "rh", "lf", "rf"), 0.045), **dict.fromkeys(("ltoe", "rtoe"), 0.03),
}  # fmt: skip
_FLOOR = np.array([_FLOORS[name] for name in AT] * 2)


@dataclass(frozen=True)
class Tether:
    """A point kept `length` metres from a mix of others; `strength` 0…1 while a hand comes and goes."""

    point: int
    mix: tuple[tuple[int, float], ...]
    length: float
    strength: float


def settled(points: Array, asked: Array, pinned: Array, tethers: list[Tether], *, most: int = 500) -> Array:
    """`points` (2·COUNT, 3) put right in at most `most` rounds; those where `pinned` (2·COUNT,) holds stay.

    Trunks are drawn to where they are `asked` for, so that what arms hold does not carry a whole body off. That and
    the pull of hands ease as the rounds go on, so that keeping apart has the last word.
    """
    x = points.copy()
    free = np.where(pinned, 0.0, 1.0)
    for k in range(most):
        pull = 1.0 if k < 80 else 0.25 if k < 250 else 0.0
        x[_TRUNKS] += (asked[_TRUNKS] - x[_TRUNKS]) * (TRUNK_PULL * pull)
        if _apart(x, free) < LEFT and k >= LEAST and _overreach(x, pinned) < LEFT / 4:
            break
        for tether in tethers:
            _tie(x, free, tether, pull)
        x[:, 2] = np.where(pinned, x[:, 2], np.maximum(x[:, 2], _FLOOR))
        _lengths(x, free)
        _trunks(x)
    return x


def _apart(x: Array, free: Array) -> float:
    """Push limbs out of one another; returns how deep the worst was, metres."""
    depth, s, t, way = overlaps(x)
    hit = np.flatnonzero(depth > SOFT)
    if not len(hit):
        return 0.0
    far = np.sqrt((way[hit] ** 2).sum(1))
    push = way[hit] / np.maximum(far, 1e-6)[:, None] * ((depth[hit] - SOFT) / 2)[:, None]
    moves, shares = np.zeros((len(RADII), 2, 3)), np.zeros((len(RADII), 2))
    for limb, share, sign in ((PAIRS[hit, 0], s[hit], -1.0), (PAIRS[hit, 1], t[hit], 1.0)):
        spread = (1 - share) ** 2 + share**2
        for end, weight in ((0, (1 - share) / spread), (1, share / spread)):
            np.add.at(moves, (limb, end), sign * push * weight[:, None])
            np.add.at(shares, (limb, end), weight > 0.2)
    total = ENDS.T @ moves.reshape(-1, 3)
    count = np.abs(ENDS.T) @ shares.reshape(-1)
    moved = total / np.maximum(count, 1)[:, None]
    for who in (0, 1):
        at = _TRUNK + who * COUNT
        moved[at] += moved[at].sum(0) / max(np.count_nonzero(count[at]), 1)
    x += moved * free[:, None]
    return float(depth[hit].max())


def _tie(x: Array, free: Array, tether: Tether, pull: float) -> None:
    mixed = np.array([share for _, share in tether.mix])
    of = np.array([i for i, _ in tether.mix])
    way = mixed @ x[of] - x[tether.point]
    far = float(np.linalg.norm(way))
    if far < 1e-6:
        return
    move = way / far * (far - tether.length) * 0.5 * tether.strength * pull
    x[tether.point] += move * free[tether.point] * 1.4
    x[of] -= move * 0.6 * (mixed * free[of])[:, None]


def _lengths(x: Array, free: Array) -> None:
    for one, other, length in _GROUPS:
        way = x[other] - x[one]
        far = np.sqrt((way * way).sum(1))
        mass = free[one] + free[other]
        move = way * ((far - length) / np.maximum(far, 1e-6) / np.maximum(mass, 1e-6))[:, None]
        x[one] += move * free[one][:, None]
        x[other] -= move * free[other][:, None]


def _overreach(x: Array, pinned: Array) -> float:
    """How far a pinned hand or foot is beyond what its limb can reach, at most, metres."""
    far = np.sqrt(((x[_ENDS] - x[_ROOTS]) ** 2).sum(1))
    return float(((far - _REACH) * pinned[_ENDS]).max())


def _trunks(x: Array) -> None:
    """Each trunk takes its rigid shape again, where it fits best (Kabsch 1976)."""
    for who in (0, 1):
        at = _TRUNK + who * COUNT
        middle = x[at].mean(0)
        u, _, vt = np.linalg.svd(_SHAPE.T @ (x[at] - middle))
        turn = u @ np.diag([1.0, 1.0, np.sign(np.linalg.det(u @ vt))]) @ vt
        x[at] = middle + _SHAPE @ turn
