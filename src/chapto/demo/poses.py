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
    """The one has the other's right leg, hands locked behind the knee, the head on the inside."""
    one = figure(
        p=(-0.56, 0.14, 0.6), c=(-0.22, 0.12, 0.94), f=(1, -0.1, -0.75),
        lh=(0.0, 0.22, 0.72), rh=(-0.02, 0.1, 0.72), le=(-0.15, 0.5, 0.6), re=(-0.3, -0.25, 0.6),
        lf=(-0.38, 0.4, 0.09), rf=(-0.98, -0.04, 0.09), lk=(-0.1, 0.5, 0.5), rk=(-0.4, -0.1, 0.3),
        head=(0.55, -0.5, 0.55),
    )  # fmt: skip
    other = figure(
        p=(0.36, 0, 0.88), c=(0.3, -0.1, 1.38), f=(-1, 0, -0.25),
        lh=(-0.16, -0.2, 1.06), rh=(-0.1, 0.3, 1.06),
        lf=(0.44, -0.16, 0.09), rf=(-0.36, 0.18, 0.5), rk=(-0.1, 0.2, 1.2), lk=(0.2, -0.2, 0.5),
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


def half_guard_low() -> Pair:
    """Half guard opening, the one on top low: the right arm under the far armpit, the ear on the chest."""
    bottom = figure(
        p=(0, 0, 0.14), c=(-0.49, 0.04, 0.17), f=(0.05, 0.2, 1),
        lh=(-0.2, 0.3, 0.6), rh=(-0.2, -0.3, 0.5), le=(-0.4, 0.7, 0.3), re=(-0.4, -0.6, 0.2),
        lf=(0.62, 0.36, 0.09), rf=(0.72, -0.16, 0.09), lk=(0.3, 0.6, 0.6), rk=(0.4, -0.5, 0.2),
    )  # fmt: skip
    top = figure(
        p=(0.3, -0.02, 0.46), c=(-0.16, 0.04, 0.48), f=(-0.3, 0.1, -0.95),
        lh=(-0.5, -0.4, 0.07), rh=(-0.56, 0.4, 0.1), le=(-0.2, -0.6, 0.3), re=(-0.2, 0.55, 0.25),
        lf=(0.72, -0.62, 0.07), rf=(0.56, 0.12, 0.12), lk=(0.25, -0.7, 0.3), rk=(0.1, 0.1, 0.2),
        head=(-0.9, 0.3, -0.1),
    )  # fmt: skip
    return bottom, top


def knee_over() -> Pair:
    """On the way through: the right knee is lifted over the thigh it will slide across."""
    bottom, _ = knee_slide_through()
    _, top = half_guard_low()
    knee = {"pelvis": (0.24, -0.12, 0.52), "rf": (0.5, 0.04, 0.36), "rk": (0.0, -0.3, 0.7), "lf": (0.5, -0.8, 0.09)}
    return bottom, {**top, **{c: np.array(v) for c, v in knee.items()}}


def knee_slide_stopped() -> Pair:
    """The far arm of the one below is straight, its hand on the collarbone: the chest stays high."""
    bottom = figure(
        p=(0, 0, 0.13), c=(-0.47, 0.08, 0.22), f=(0.15, 0.5, 0.9),
        lh=(-0.2, 0.1, 0.72), rh=(-0.3, -0.3, 0.5), le=(-0.3, 0.3, 0.5), re=(-0.4, -0.5, 0.2),
        lf=(0.62, 0.34, 0.09), rf=(0.72, -0.12, 0.1), lk=(0.3, 0.6, 0.6), rk=(0.4, -0.4, 0.3),
    )  # fmt: skip
    top = figure(
        p=(0.24, -0.16, 0.54), c=(-0.02, -0.05, 0.96), f=(-0.9, 0.1, -0.4),
        lh=(-0.36, -0.26, 0.5), rh=(-0.14, 0.4, 0.5), le=(-0.2, -0.6, 0.7), re=(0.1, 0.5, 0.6),
        lf=(0.36, -0.76, 0.09), rf=(0.48, 0.1, 0.16), lk=(0.1, -0.8, 0.6), rk=(-0.1, -0.2, 0.4),
        head=(-0.45, 0.0, 0.9),
    )  # fmt: skip
    return bottom, top


def knee_slide_through() -> Pair:
    """The one on top has an arm under the far armpit and the head low: the one below lies flat."""
    bottom = figure(
        p=(0, 0, 0.13), c=(-0.5, 0.0, 0.14), f=(0, 0.08, 1),
        lh=(-0.3, 0.3, 0.62), rh=(-0.62, -0.34, 0.44), le=(-0.5, 0.7, 0.35), re=(-0.5, -0.6, 0.1),
        lf=(0.62, 0.34, 0.09), rf=(0.78, -0.16, 0.08), lk=(0.34, 0.6, 0.6), rk=(0.4, -0.6, 0.2),
        head=(-1, -0.1, 0.2),
    )  # fmt: skip
    top = figure(
        p=(0.12, -0.26, 0.44), c=(-0.34, -0.02, 0.46), f=(-0.2, 0.2, -0.95),
        lh=(-0.6, -0.5, 0.07), rh=(-0.6, 0.36, 0.1), le=(-0.4, -0.7, 0.3), re=(-0.25, 0.5, 0.25),
        lf=(0.4, -0.9, 0.09), rf=(0.36, -0.14, 0.36), lk=(0.0, -0.95, 0.5), rk=(-0.2, -0.6, 0.0),
        head=(-0.8, 0.5, -0.1),
    )  # fmt: skip
    return bottom, top


def side_control() -> Pair:
    """Chest on chest from the right side, both hips on the mat beside."""
    bottom = figure(
        p=(0, 0, 0.13), c=(-0.5, 0, 0.15), f=(0, 0, 1),
        lh=(-0.2, 0.15, 0.5), rh=(-0.62, -0.26, 0.42), re=(-0.45, -0.6, 0.1),
        lf=(0.45, 0.18, 0.08), rf=(0.48, -0.14, 0.08), lk=(0.3, 0.25, 0.7), rk=(0.3, -0.25, 0.7),
        head=(-1, 0, 0.25),
    )  # fmt: skip
    top = figure(
        p=(-0.3, -0.52, 0.26), c=(-0.42, -0.06, 0.43), f=(-0.1, 0.4, -0.9),
        lh=(-0.8, 0.18, 0.16), rh=(-0.14, 0.34, 0.14), le=(-0.8, -0.15, 0.25), re=(0.1, 0.1, 0.4),
        lf=(-0.74, -1.1, 0.06), rf=(0.1, -1.14, 0.06), lk=(-0.66, -0.7, 0.02), rk=(0.06, -0.7, 0.02),
        head=(-0.3, 1, 0.35),
    )  # fmt: skip
    return bottom, top


def just_past() -> Pair:
    """Side control a moment after the pass: the legs below still lie flat."""
    _, top = side_control()
    bottom = figure(
        p=(0, 0, 0.13), c=(-0.5, 0, 0.15), f=(0, 0.05, 1),
        lh=(-0.2, 0.2, 0.55), rh=(-0.62, -0.26, 0.42), re=(-0.45, -0.6, 0.1),
        lf=(0.62, 0.34, 0.09), rf=(0.78, -0.1, 0.08), lk=(0.34, 0.6, 0.6), rk=(0.4, -0.4, 0.2), head=(-1, 0, 0.25),
    )  # fmt: skip
    return bottom, {**top, "rf": np.array([0.14, -1.14, 0.06])}


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


def leg_straightened() -> Pair:
    """Under the knee on the belly the right leg is put down straight, so that the shin can slide off."""
    bottom, top = knee_on_belly()
    flat = {"front": (0.0, -0.3, 1), "rf": (0.8, -0.12, 0.09), "rk": (0.4, -0.2, 0.3), "rh": (0.06, -0.3, 0.36)}
    return {**bottom, **{c: np.array(v) for c, v in flat.items()}}, top


def shin_slid_off() -> Pair:
    """The shin has come off the belly and lies between the legs."""
    bottom, _ = leg_straightened()
    _, top = half_guard_back()
    turned = {"front": (0.0, -0.5, 0.8), "chest": (-0.44, 0.1, 0.22), "lf": (0.56, 0.1, 0.4), "lk": (0.3, 0.3, 0.8)}
    back = {"pelvis": (0.04, -0.42, 0.52), "rf": (0.42, 0.0, 0.28), "rk": (0.1, -0.2, 0.5)}
    bottom = {**bottom, **{c: np.array(v) for c, v in turned.items()}}
    return bottom, {**top, **{c: np.array(v) for c, v in back.items()}}


def half_guard_back() -> Pair:
    """Half guard again: on the right side, legs round the other's right shin, the left arm under the armpit."""
    bottom = figure(
        p=(0.05, 0.04, 0.17), c=(-0.38, 0.18, 0.3), f=(0.2, -0.85, 0.5),
        lh=(-0.1, -0.36, 0.72), rh=(-0.36, -0.24, 0.34), le=(0.0, 0.2, 0.7), re=(-0.5, -0.1, 0.1),
        lf=(0.52, -0.26, 0.34), rf=(0.72, -0.08, 0.09), lk=(0.3, 0.3, 0.7), rk=(0.5, -0.4, 0.1),
    )  # fmt: skip
    top = figure(
        p=(0.06, -0.46, 0.46), c=(-0.16, -0.16, 0.8), f=(-0.2, 0.9, -0.5),
        lh=(-0.56, 0.0, 0.5), rh=(0.1, 0.24, 0.6), le=(-0.6, -0.3, 0.6), re=(0.3, 0.0, 0.7),
        lf=(-0.62, -0.66, 0.09), rf=(0.46, -0.14, 0.18), lk=(-0.5, -0.4, 0.6), rk=(0.1, -0.1, 0.2),
        head=(-0.5, 0.4, 0.75),
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


def tipping() -> Pair:
    """The one from below drives on; the other, an arm trapped, goes over backwards."""
    bottom = figure(
        p=(0.1, 0.2, 0.44), c=(-0.02, -0.16, 0.76), f=(-0.3, -0.9, -0.7),
        lh=(0.1, -0.6, 0.6), rh=(-0.22, -0.5, 0.5), le=(0.3, -0.3, 0.5),
        lf=(0.36, 0.62, 0.06), rf=(-0.1, 0.66, 0.06), lk=(0.34, 0.1, 0.02), rk=(-0.14, 0.1, 0.02),
        head=(0.1, -0.6, 0.6),
    )  # fmt: skip
    top = figure(
        p=(-0.06, -0.5, 0.2), c=(-0.1, -0.78, 0.6), f=(0, 0.8, 0.6),
        lh=(-0.3, -0.3, 0.6), rh=(0.2, -0.5, 0.8),
        lf=(-0.4, 0.0, 0.2), rf=(0.3, 0.0, 0.3), lk=(-0.35, -0.3, 0.7), rk=(0.3, -0.3, 0.8),
        head=(0, 0.1, 1),
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
    """The one below lies on a hip with the other's right leg between the own two, both hands on its foot."""
    bottom = figure(
        p=(0, 0, 0.14), c=(-0.46, -0.04, 0.32), f=(0.5, 0.35, 0.8),
        lh=(-0.16, 0.24, 0.4), rh=(-0.16, 0.12, 0.34), le=(-0.4, 0.6, 0.3), re=(-0.2, -0.3, 0.3),
        lf=(0.66, 0.2, 0.42), rf=(0.62, 0.02, 0.14), lk=(0.32, 0.5, 0.7), rk=(0.4, -0.3, 0.2),
        head=(-0.3, 0.05, 0.9),
    )  # fmt: skip
    top = figure(
        p=(0.86, 0.0, 0.16), c=(1.08, -0.08, 0.6), f=(-1, 0, 0.35),
        lh=(1.2, -0.5, 0.06), rh=(0.5, 0.2, 0.6),
        lf=(0.36, -0.5, 0.09), rf=(0.0, 0.16, 0.32), lk=(0.6, -0.5, 0.8), rk=(0.42, 0.2, 0.6),
    )  # fmt: skip
    return bottom, top


def foot_back() -> Pair:
    """The caught foot is out: drawn back in the air before it is put down."""
    bottom, top = open_guard()
    freed = {"rf": (0.72, 0.34, 0.42), "rk": (0.5, 0.4, 0.9), "pelvis": (0.9, -0.06, 0.6)}
    return bottom, {**top, **{c: np.array(v) for c, v in freed.items()}}


def sitting_up() -> Pair:
    """Seated in front of the other's knees, both hands on the right arm that reaches out."""
    bottom = figure(
        p=(0, 0, 0.14), c=(-0.1, 0.02, 0.63), f=(1, 0, 0.2),
        lh=(0.22, 0.16, 0.66), rh=(0.34, 0.06, 0.66), le=(0.0, 0.5, 0.4), re=(0.0, -0.4, 0.4),
        lf=(0.42, 0.3, 0.09), rf=(0.4, -0.3, 0.09), lk=(0.3, 0.4, 0.7), rk=(0.3, -0.4, 0.7), head=(0.2, 0, 1),
    )  # fmt: skip
    top = figure(
        p=(0.98, 0.0, 0.44), c=(0.68, 0.0, 0.86), f=(-1, 0, -0.5),
        lh=(0.4, -0.34, 0.4), rh=(0.2, 0.16, 0.66), le=(0.6, -0.5, 0.5), re=(0.5, 0.4, 0.5),
        lf=(1.2, -0.2, 0.06), rf=(1.2, 0.2, 0.06), lk=(0.75, -0.24, 0.02), rk=(0.75, 0.24, 0.02),
        head=(-0.6, 0, 0.8),
    )  # fmt: skip
    return bottom, top


def arm_drag() -> Pair:
    """The right arm is pulled across to the other side, and the one who pulls comes round behind it."""
    bottom = figure(
        p=(0.14, 0.5, 0.2), c=(0.22, 0.28, 0.64), f=(0.7, -0.7, 0.1),
        lh=(0.3, 0.02, 0.38), rh=(0.56, 0.0, 0.72), le=(0.4, 0.4, 0.5), re=(0.2, 0.0, 0.9),
        lf=(0.2, 0.86, 0.08), rf=(-0.2, 0.3, 0.08), lk=(0.5, 0.8, 0.1), rk=(0.1, 0.1, 0.3), head=(0.3, -0.3, 0.9),
    )  # fmt: skip
    top = figure(
        p=(0.74, -0.04, 0.42), c=(0.28, -0.06, 0.48), f=(-0.2, -0.1, -1),
        lh=(0.14, -0.42, 0.06), rh=(0.12, -0.16, 0.26), le=(0.2, -0.6, 0.3), re=(0.2, 0.3, 0.2),
        lf=(1.06, -0.22, 0.05), rf=(1.06, 0.18, 0.05), lk=(0.6, -0.26, 0.02), rk=(0.6, 0.2, 0.02),
        head=(-0.8, -0.1, 0.2),
    )  # fmt: skip
    return bottom, top


def turtle() -> Pair:
    """On elbows and knees; the other's chest on the back, hips beside the right hip."""
    return _turtled(), figure(
        p=(0.34, 0.3, 0.52), c=(-0.04, 0.1, 0.84), f=(-0.6, -0.35, -0.75),
        lh=(-0.28, -0.3, 0.3), rh=(-0.1, 0.36, 0.3), le=(-0.2, -0.45, 0.6), re=(0.0, 0.5, 0.5),
        lf=(0.86, 0.02, 0.06), rf=(0.66, 0.78, 0.09), lk=(0.5, 0.0, 0.02), rk=(0.3, 0.75, 0.5),
        head=(-0.8, -0.25, 0.4),
    )  # fmt: skip


def seat_belt() -> Pair:
    """Behind the turtle, the right arm over the shoulder and the left one under the armpit."""
    return _turtled(), figure(
        p=(0.3, 0.1, 0.66), c=(-0.18, 0.04, 0.7), f=(-0.3, -0.1, -0.95),
        lh=(-0.46, -0.1, 0.3), rh=(-0.5, 0.0, 0.26), le=(-0.3, -0.45, 0.4), re=(-0.5, 0.35, 0.5),
        lf=(0.66, -0.36, 0.06), rf=(0.62, 0.5, 0.09), lk=(0.2, -0.4, 0.1), rk=(0.2, 0.55, 0.4),
        head=(-0.9, 0.35, 0.1),
    )  # fmt: skip


def _turtled() -> Posture:
    return figure(
        p=(0.1, 0, 0.42), c=(-0.38, 0, 0.36), f=(0, 0, -1),
        lh=(-0.62, -0.16, 0.06), rh=(-0.62, 0.16, 0.06), le=(-0.3, -0.3, 0.05), re=(-0.3, 0.3, 0.05),
        lf=(0.42, -0.16, 0.05), rf=(0.42, 0.16, 0.05), lk=(-0.1, -0.2, 0.02), rk=(-0.1, 0.2, 0.02),
        head=(-0.9, 0, -0.25),
    )  # fmt: skip


def one_hook() -> Pair:
    """Sitting back, the seat belt on, the left hook in and the right foot still outside."""
    front, behind = back_control()
    return front, {**behind, "rf": np.array([0.05, -0.62, 0.08]), "rk": np.array([0.0, -0.7, 0.5])}


def back_control() -> Pair:
    """Both seated facing +x; (front, behind): hooks in, one arm over the shoulder, one under the arm."""
    front = figure(
        p=(0, 0, 0.15), c=(-0.2, -0.02, 0.6), f=(1, 0, 0.4),
        lh=(0.12, 0.12, 0.5), rh=(0.12, -0.1, 0.54), le=(0.1, 0.5, 0.3), re=(0.1, -0.5, 0.3),
        lf=(0.8, 0.36, 0.08), rf=(0.82, -0.32, 0.08), lk=(0.4, 0.45, 0.8), rk=(0.4, -0.45, 0.8),
        head=(0.15, -0.15, 1),
    )  # fmt: skip
    behind = figure(
        p=(-0.32, 0, 0.17), c=(-0.5, 0.02, 0.66), f=(1, 0, 0.3),
        lh=(0.04, 0.04, 0.44), rh=(0.02, 0.06, 0.54), le=(-0.2, 0.5, 0.35), re=(-0.1, -0.4, 0.8),
        lf=(0.42, 0.14, 0.26), rf=(0.42, -0.14, 0.26), lk=(0.0, 0.6, 0.55), rk=(0.0, -0.6, 0.55),
        head=(0.2, 0.45, 1),
    )  # fmt: skip
    return front, behind


def strangle(tap: bool = False) -> Pair:
    """Leaned back, the right forearm under the chin, feet beside the thighs; `tap` lifts the hand that taps."""
    front = figure(
        p=(0.02, 0, 0.14), c=(-0.24, 0, 0.57), f=(1, 0, 0.6),
        lh=(0.12, 0.22, 0.84) if tap else (-0.02, 0.12, 0.74), rh=(0.0, -0.2, 0.7),
        le=(0.15, 0.45, 0.3), re=(0.2, -0.6, 0.4),
        lf=(0.84, 0.4, 0.08), rf=(0.8, -0.38, 0.08), lk=(0.4, 0.5, 0.8), rk=(0.4, -0.5, 0.8),
        head=(-0.4, 0.0, 1),
    )  # fmt: skip
    behind = figure(
        p=(-0.3, 0, 0.16), c=(-0.56, 0.02, 0.58), f=(1, 0, 0.6),
        lh=(-0.06, 0.24, 0.58), rh=(-0.14, 0.18, 0.74), le=(-0.2, 0.55, 0.35), re=(0.0, -0.35, 0.85),
        lf=(0.42, 0.15, 0.27), rf=(0.42, -0.15, 0.27), lk=(0.0, 0.65, 0.6), rk=(0.0, -0.65, 0.6),
        head=(0.1, 0.5, 1),
    )  # fmt: skip
    return front, behind


def kneeling_apart() -> Pair:
    """Let go: the one behind has knelt up, the one in front sits with a hand on the mat."""
    front = figure(
        p=(0.1, 0, 0.15), c=(0.06, 0, 0.65), f=(1, 0, 0.1),
        lh=(0.3, 0.24, 0.5), rh=(-0.05, -0.42, 0.06), lf=(0.6, 0.26, 0.09), rf=(0.62, -0.24, 0.09),
        lk=(0.4, 0.35, 0.8), rk=(0.4, -0.35, 0.8), head=(0.1, 0, 1),
    )  # fmt: skip
    behind = figure(
        p=(-0.62, 0, 0.42), c=(-0.58, 0, 0.92), f=(1, 0, 0),
        lh=(-0.4, 0.24, 0.5), rh=(-0.4, -0.24, 0.5), lf=(-0.95, 0.14, 0.06), rf=(-0.4, -0.24, 0.09),
        lk=(-0.5, 0.16, 0.02), rk=(-0.2, -0.26, 0.6), head=(0.1, 0, 1),
    )  # fmt: skip
    return front, behind


def getting_up() -> Pair:
    """Each on one foot and one knee, on the way up."""
    front = figure(
        p=(0.14, 0, 0.5), c=(0.2, 0, 1.0), f=(1, 0, -0.1),
        lh=(0.4, 0.24, 0.6), rh=(0.36, -0.24, 0.6), lf=(0.42, 0.2, 0.09), rf=(-0.2, -0.14, 0.06),
        lk=(0.7, 0.2, 0.6), rk=(0.2, -0.16, 0.02), head=(0.1, 0, 1),
    )  # fmt: skip
    behind = figure(
        p=(-0.66, 0, 0.66), c=(-0.6, 0, 1.15), f=(1, 0, -0.1),
        lh=(-0.4, 0.24, 0.7), rh=(-0.4, -0.24, 0.7), lf=(-0.95, 0.14, 0.07), rf=(-0.46, -0.2, 0.09),
        lk=(-0.4, 0.16, 0.3), rk=(-0.1, -0.2, 0.6), head=(0.1, 0, 1),
    )  # fmt: skip
    return front, behind


def apart() -> Pair:
    """Standing relaxed, an arm's length apart, one hand out to the other's."""
    one = figure(
        p=(-0.55, 0, 0.92), c=(-0.54, 0, 1.42), f=(1, 0, 0),
        lh=(-0.42, 0.3, 0.85), rh=(-0.1, -0.02, 1.05), lf=(-0.52, 0.14, 0.09), rf=(-0.6, -0.14, 0.09),
    )  # fmt: skip
    return one, _facing(one)


def verdict(won: bool = False) -> Pair:
    """Standing apart, hands down; `won` has the right hand of the one up."""
    one = figure(
        p=(-0.55, 0, 0.92), c=(-0.54, 0, 1.42), f=(1, 0, 0),
        lh=(-0.46, 0.28, 0.85), rh=(-0.46, -0.28, 0.85), lf=(-0.52, 0.14, 0.09), rf=(-0.6, -0.14, 0.09),
    )  # fmt: skip
    winner = {**one, "rh": np.array([-0.41, -0.35, 1.8])} if won else one
    return winner, _facing(one)
