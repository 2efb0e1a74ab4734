"""Postures of two grapplers, as pairs in a frame of their own.

Ground pairs are written (bottom, top): the bottom one's hips are at the origin with the head towards -x.
Standing pairs are written (one, other): one at -x facing +x. Metres; see `body.CHANNELS` for the points.
"""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from chapto.demo.body import Vec, unit

Posture = dict[str, Vec]
Pair = tuple[Posture, Posture]
Point = Sequence[float]


def figure(
    p: Point,
    c: Point,
    f: Point,
    lh: Point,
    rh: Point,
    lf: Point,
    rf: Point,
    lk: Point | None = None,
    rk: Point | None = None,
    le: Point | None = None,
    re: Point | None = None,
    head: Point | None = None,
) -> Posture:
    """A posture from hips, neck base, chest direction, hands and ankles; the bends have natural defaults."""
    pelvis, chest, front = (np.array(v, dtype=float) for v in (p, c, f))
    up = unit(chest - pelvis)
    front = unit(front)
    left = np.cross(up, front)
    given = {"lh": lh, "rh": rh, "lf": lf, "rf": rf, "lk": lk, "rk": rk, "le": le, "re": re, "head": head}
    natural = {
        "lk": pelvis + front * 0.6 + left * 0.25,
        "rk": pelvis + front * 0.6 - left * 0.25,
        "le": chest + left * 0.5 - up * 0.4 - front * 0.1,
        "re": chest - left * 0.5 - up * 0.4 - front * 0.1,
        "head": up + front * 0.3,
    }
    points = {k: np.array(v, dtype=float) if v is not None else natural[k] for k, v in given.items()}
    return {"pelvis": pelvis, "chest": chest, "front": front, **points}


def placed(fig: Posture, x: float, y: float, heading: float) -> Posture:
    """`fig` turned by `heading` degrees about z, then moved to (x, y)."""
    a = np.radians(heading)
    turn = np.array([[np.cos(a), -np.sin(a), 0], [np.sin(a), np.cos(a), 0], [0, 0, 1]])
    move = np.array([x, y, 0.0])
    return {k: turn @ v if k in ("front", "head") else turn @ v + move for k, v in fig.items()}


def _facing(fig: Posture) -> Posture:
    return placed(fig, 0, 0, 180)


def ready() -> Pair:
    one = figure(
        p=(-0.85, 0, 0.84), c=(-0.66, 0, 1.3), f=(1, 0, -0.35),
        lh=(-0.22, 0.2, 1.1), rh=(-0.25, -0.16, 1.0),
        lf=(-0.62, 0.24, 0.09), rf=(-1.02, -0.22, 0.09),
    )  # fmt: skip
    return one, _facing(one)


def grips() -> Pair:
    one = figure(
        p=(-0.62, 0, 0.84), c=(-0.32, 0.03, 1.24), f=(1, 0, -0.5),
        lh=(0.28, 0.1, 1.36), rh=(0.0, -0.3, 1.06), le=(-0.1, 0.45, 1.3), re=(-0.3, -0.5, 0.9),
        lf=(-0.38, 0.25, 0.09), rf=(-0.9, -0.24, 0.09), head=(0.75, 0.12, 0.75),
    )  # fmt: skip
    return one, _facing(one)


def single_leg() -> Pair:
    one = figure(
        p=(-0.5, 0.12, 0.5), c=(-0.17, 0.28, 0.86), f=(1, -0.2, -0.6),
        lh=(0.12, 0.24, 0.62), rh=(0.1, 0.02, 0.6), le=(-0.1, 0.5, 0.5), re=(-0.15, -0.15, 0.45),
        lf=(-0.25, 0.4, 0.09), rf=(-0.98, -0.05, 0.09), lk=(-0.1, 0.4, 0.6), rk=(-0.5, -0.1, 0.1),
        head=(0.8, -0.35, 0.65),
    )  # fmt: skip
    other = figure(
        p=(0.34, 0, 0.88), c=(0.12, -0.04, 1.34), f=(-1, 0, -0.4),
        lh=(-0.25, -0.02, 1.0), rh=(-0.28, 0.4, 0.98),
        lf=(0.5, -0.2, 0.09), rf=(-0.3, 0.12, 0.5), rk=(-0.05, 0.22, 1.0),
    )  # fmt: skip
    return one, other


def falling() -> Pair:
    one = figure(
        p=(-0.25, 0.1, 0.46), c=(0.15, 0.16, 0.76), f=(0.8, 0, -0.7),
        lh=(0.3, 0.3, 0.5), rh=(0.3, -0.02, 0.48),
        lf=(-0.5, 0.36, 0.09), rf=(-0.95, -0.1, 0.09), lk=(-0.1, 0.45, 0.1), rk=(-0.4, -0.2, 0.1),
    )  # fmt: skip
    other = figure(
        p=(0.62, 0, 0.28), c=(1.0, 0, 0.56), f=(-0.7, 0, 0.8),
        lh=(1.15, -0.55, 0.06), rh=(1.15, 0.55, 0.06),
        lf=(0.15, -0.4, 0.42), rf=(0.0, 0.22, 0.62), lk=(0.3, -0.4, 0.9), rk=(0.3, 0.3, 0.95),
    )  # fmt: skip
    return one, other


def closed_guard() -> Pair:
    bottom = figure(
        p=(0, 0, 0.14), c=(-0.49, 0, 0.2), f=(0.15, 0, 1),
        lh=(-0.02, 0.24, 0.58), rh=(-0.02, -0.24, 0.58),
        lf=(0.68, -0.07, 0.56), rf=(0.7, 0.09, 0.5), lk=(0.3, 0.6, 0.6), rk=(0.3, -0.6, 0.6),
        head=(-0.8, 0, 0.5),
    )  # fmt: skip
    top = figure(
        p=(0.44, 0, 0.32), c=(0.2, 0, 0.76), f=(-1, 0, -0.3),
        lh=(-0.26, -0.12, 0.36), rh=(-0.28, 0.12, 0.36),
        lf=(0.64, -0.24, 0.06), rf=(0.64, 0.24, 0.06), lk=(0.1, -0.34, 0.02), rk=(0.1, 0.34, 0.02),
        head=(-0.3, 0, 1),
    )  # fmt: skip
    return bottom, top


def half_guard() -> Pair:
    bottom = figure(
        p=(0, 0, 0.14), c=(-0.48, 0.08, 0.2), f=(0.1, 0.4, 1),
        lh=(0.05, 0.3, 0.6), rh=(-0.1, -0.22, 0.42),
        lf=(0.6, 0.02, 0.24), rf=(0.5, 0.2, 0.1), lk=(0.3, 0.6, 0.5), rk=(0.5, -0.2, 0.5),
    )  # fmt: skip
    top = figure(
        p=(0.3, 0.04, 0.36), c=(-0.14, 0.06, 0.58), f=(-0.5, 0, -0.85),
        lh=(-0.66, -0.2, 0.28), rh=(-0.42, 0.45, 0.14), re=(-0.2, 0.5, 0.4),
        lf=(0.72, -0.55, 0.07), rf=(0.58, 0.14, 0.07), lk=(0.25, -0.55, 0.1), rk=(0.1, 0.14, 0.02),
        head=(-1, 0, 0.15),
    )  # fmt: skip
    return bottom, top


def knee_slide() -> Pair:
    bottom = figure(
        p=(0, 0, 0.13), c=(-0.48, 0.1, 0.2), f=(0.1, 0.6, 0.9),
        lh=(-0.02, 0.3, 0.62), rh=(-0.12, -0.2, 0.56), re=(-0.3, -0.5, 0.2),
        lf=(0.66, 0.24, 0.1), rf=(0.56, -0.02, 0.12), lk=(0.3, 0.55, 0.5), rk=(0.45, 0.0, 0.45),
    )  # fmt: skip
    top = figure(
        p=(0.16, -0.1, 0.44), c=(-0.22, 0.02, 0.74), f=(-0.8, 0.2, -0.6),
        lh=(-0.62, -0.36, 0.08), rh=(-0.34, 0.4, 0.26), re=(-0.05, 0.5, 0.5),
        lf=(0.34, -0.74, 0.09), rf=(0.44, 0.12, 0.2), lk=(0.1, -0.7, 0.6), rk=(-0.2, -0.2, 0.1),
        head=(-0.8, -0.05, 0.6),
    )  # fmt: skip
    return bottom, top


def side_control() -> Pair:
    bottom = figure(
        p=(0, 0, 0.13), c=(-0.5, 0, 0.15), f=(0, 0, 1),
        lh=(-0.2, 0.15, 0.5), rh=(-0.1, -0.3, 0.34),
        lf=(0.45, 0.18, 0.08), rf=(0.48, -0.14, 0.08), lk=(0.3, 0.25, 0.7), rk=(0.3, -0.25, 0.7),
        head=(-1, 0, 0.25),
    )  # fmt: skip
    top = figure(
        p=(-0.24, -0.42, 0.3), c=(-0.4, 0.05, 0.45), f=(-0.1, 0.4, -0.9),
        lh=(-0.78, 0.2, 0.16), rh=(-0.06, 0.34, 0.12), le=(-0.75, -0.15, 0.25), re=(0.1, 0.1, 0.3),
        lf=(-0.62, -1.02, 0.06), rf=(0.16, -1.05, 0.06), lk=(-0.6, -0.6, 0.02), rk=(0.1, -0.6, 0.02),
        head=(-0.3, 1, 0.35),
    )  # fmt: skip
    return bottom, top


def knee_on_belly() -> Pair:
    bottom = figure(
        p=(0, 0, 0.13), c=(-0.5, 0, 0.15), f=(0, 0, 1),
        lh=(-0.22, 0.18, 0.52), rh=(0.0, -0.26, 0.42),
        lf=(0.45, 0.18, 0.08), rf=(0.48, -0.14, 0.08), lk=(0.3, 0.25, 0.7), rk=(0.3, -0.25, 0.7),
        head=(-1, 0, 0.3),
    )  # fmt: skip
    top = figure(
        p=(-0.16, -0.36, 0.58), c=(-0.3, -0.16, 1.02), f=(-0.1, 1, -0.3),
        lh=(-0.52, 0.1, 0.42), rh=(0.18, 0.1, 0.46),
        lf=(-0.86, -0.62, 0.09), rf=(0.18, -0.34, 0.3), lk=(-0.7, -0.3, 0.7), rk=(-0.12, 0.2, 0.36),
    )  # fmt: skip
    return bottom, top


def dogfight() -> Pair:
    """Both on their knees, the one from below with an underhook."""
    bottom = figure(
        p=(0.12, 0.34, 0.4), c=(-0.05, 0.06, 0.82), f=(-0.4, -1, -0.5),
        lh=(0.12, -0.4, 0.82), rh=(-0.25, -0.3, 0.6), le=(0.3, -0.1, 0.5),
        lf=(0.36, 0.72, 0.06), rf=(-0.1, 0.78, 0.06), lk=(0.34, 0.2, 0.02), rk=(-0.14, 0.26, 0.02),
        head=(0.1, -0.6, 0.8),
    )  # fmt: skip
    top = figure(
        p=(-0.1, -0.42, 0.44), c=(-0.2, -0.1, 0.84), f=(0.1, 1, -0.4),
        lh=(-0.4, 0.3, 0.8), rh=(0.1, 0.3, 0.95),
        lf=(-0.42, -0.78, 0.06), rf=(0.2, -0.82, 0.06), lk=(-0.3, -0.2, 0.02), rk=(0.14, -0.26, 0.02),
        head=(-0.35, 0.5, 0.8),
    )  # fmt: skip
    return bottom, top


def open_guard() -> Pair:
    bottom = figure(
        p=(0, 0, 0.14), c=(-0.44, 0, 0.36), f=(0.6, 0, 0.8),
        lh=(0.12, 0.3, 0.4), rh=(0.12, -0.3, 0.4),
        lf=(0.56, 0.18, 0.66), rf=(0.56, -0.18, 0.66), lk=(0.2, 0.45, 0.7), rk=(0.2, -0.45, 0.7),
        head=(-0.5, 0, 0.8),
    )  # fmt: skip
    top = figure(
        p=(0.86, 0, 0.72), c=(0.54, 0, 1.1), f=(-1, 0, -0.7),
        lh=(0.3, -0.34, 0.66), rh=(0.3, 0.34, 0.66),
        lf=(0.78, -0.34, 0.09), rf=(0.98, 0.3, 0.09),
    )  # fmt: skip
    return bottom, top


def leg_entanglement() -> Pair:
    """The one below holds the other's right leg between their own and hugs the foot."""
    bottom = figure(
        p=(0, 0, 0.14), c=(-0.46, 0.1, 0.3), f=(0.35, 0.15, 0.9),
        lh=(-0.16, 0.12, 0.42), rh=(-0.14, -0.02, 0.36), le=(-0.3, 0.5, 0.4), re=(-0.3, -0.4, 0.3),
        lf=(0.7, 0.0, 0.36), rf=(0.66, 0.2, 0.2), lk=(0.3, 0.5, 0.6), rk=(0.35, -0.3, 0.5),
        head=(-0.5, 0.05, 0.8),
    )  # fmt: skip
    top = figure(
        p=(0.8, -0.1, 0.18), c=(0.98, -0.12, 0.64), f=(-1, 0, 0.3),
        lh=(1.05, -0.6, 0.06), rh=(0.42, 0.18, 0.5),
        lf=(0.4, -0.62, 0.09), rf=(-0.06, 0.1, 0.34), lk=(0.6, -0.5, 0.8), rk=(0.4, 0.12, 0.7),
    )  # fmt: skip
    return bottom, top


def turtle() -> Pair:
    bottom = figure(
        p=(0.1, 0, 0.42), c=(-0.38, 0, 0.4), f=(0, 0, -1),
        lh=(-0.62, -0.16, 0.06), rh=(-0.62, 0.16, 0.06), le=(-0.3, -0.4, 0.05), re=(-0.3, 0.4, 0.05),
        lf=(0.42, -0.2, 0.05), rf=(0.42, 0.2, 0.05), lk=(-0.1, -0.24, 0.02), rk=(-0.1, 0.24, 0.02),
        head=(-0.9, 0, -0.25),
    )  # fmt: skip
    top = figure(
        p=(0.44, -0.06, 0.56), c=(0.04, -0.02, 0.82), f=(-0.6, 0, -0.8),
        lh=(-0.22, -0.26, 0.3), rh=(-0.3, 0.22, 0.34),
        lf=(0.8, -0.3, 0.06), rf=(0.6, 0.42, 0.09), lk=(0.3, -0.35, 0.02), rk=(0.3, 0.5, 0.6),
        head=(-0.8, -0.3, 0.5),
    )  # fmt: skip
    return bottom, top


def back_control() -> Pair:
    """Both seated facing +x; (front, behind): hooks in, one arm over the shoulder, one under the arm."""
    front = figure(
        p=(0, 0, 0.15), c=(-0.2, -0.02, 0.6), f=(1, 0, 0.4),
        lh=(0.08, 0.1, 0.56), rh=(0.08, -0.06, 0.62),
        lf=(0.8, 0.3, 0.08), rf=(0.82, -0.26, 0.08), lk=(0.4, 0.35, 0.8), rk=(0.4, -0.35, 0.8),
        head=(0.15, -0.15, 1),
    )  # fmt: skip
    behind = figure(
        p=(-0.3, 0, 0.17), c=(-0.46, 0.02, 0.66), f=(1, 0, 0.3),
        lh=(0.02, 0.06, 0.44), rh=(-0.02, 0.1, 0.6), le=(-0.2, 0.4, 0.35), re=(-0.1, -0.4, 0.7),
        lf=(0.4, 0.06, 0.24), rf=(0.4, -0.08, 0.26), lk=(0.0, 0.6, 0.55), rk=(0.0, -0.6, 0.55),
        head=(0.2, 0.45, 1),
    )  # fmt: skip
    return front, behind


def strangle(tap: bool = False) -> Pair:
    """Back control leaned back, the right forearm under the chin; with `tap` the front one's hand is up."""
    front = figure(
        p=(0.02, 0, 0.14), c=(-0.32, 0, 0.5), f=(1, 0, 0.7),
        lh=(-0.1, 0.1, 0.62), rh=(-0.02, -0.44, 0.6) if tap else (-0.1, -0.12, 0.62),
        lf=(0.84, 0.34, 0.08), rf=(0.8, -0.3, 0.08), lk=(0.4, 0.4, 0.8), rk=(0.4, -0.4, 0.8),
        head=(-0.25, -0.1, 1),
    )  # fmt: skip
    behind = figure(
        p=(-0.28, 0, 0.15), c=(-0.66, 0.02, 0.46), f=(1, 0, 0.8),
        lh=(-0.46, 0.12, 0.74), rh=(-0.12, 0.2, 0.66), le=(-0.2, 0.4, 0.6), re=(-0.12, -0.3, 0.7),
        lf=(0.38, 0.02, 0.28), rf=(0.38, -0.06, 0.3), lk=(0.0, 0.6, 0.6), rk=(0.0, -0.6, 0.6),
        head=(0.1, 0.4, 1),
    )  # fmt: skip
    return front, behind


def apart() -> Pair:
    """Standing relaxed, an arm's length apart."""
    one = figure(
        p=(-0.55, 0, 0.92), c=(-0.54, 0, 1.42), f=(1, 0, 0),
        lh=(-0.42, 0.3, 0.85), rh=(-0.1, -0.02, 1.05), lf=(-0.52, 0.14, 0.09), rf=(-0.6, -0.14, 0.09),
    )  # fmt: skip
    return one, _facing(one)
