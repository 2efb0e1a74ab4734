"""The bout and the sparring round, keyframed: who is in which posture, where on the mat, and when.

Between keyframes every point moves along a shape-preserving cubic (PCHIP), which never overshoots a held
posture. Small deterministic tremors keep the two alive while they hold.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, replace
from functools import lru_cache

import numpy as np
from scipy.interpolate import PchipInterpolator

from chapto.demo import poses
from chapto.demo.body import CHANNELS, Joints, Vec, pose_joints, unit
from chapto.demo.poses import Pair, Posture, placed

FIRST_BELOW, SECOND_BELOW, STANDING = "first below", "second below", "standing"


@dataclass(frozen=True)
class Key:
    """One keyframe: time in seconds, the pair, its place and heading, and who takes its first role."""

    t: float
    pair: Pair
    x: float
    y: float
    heading: float
    role: str = STANDING

    def postures(self) -> tuple[Posture, Posture]:
        """World postures of (first, second) athlete."""
        one, other = (placed(f, self.x, self.y, self.heading) for f in self.pair)
        return (other, one) if self.role == SECOND_BELOW else (one, other)


def _hold(t0: float, t1: float, pair: Callable[[], Pair], x: float, y: float, heading: float, role: str) -> list[Key]:
    return [Key(t, pair(), x, y, heading, role) for t in (t0, t1)]


def bout_keys() -> list[Key]:
    """The whole bout of the Saltmarsh Winter Open, 240 s.

    Ground pairs lie with heads towards +x; one turned past 90° without a role has Moss below.
    """
    below2, below1 = SECOND_BELOW, FIRST_BELOW
    keys = [
        *_hold(0.0, 1.6, poses.apart, 0.0, 0.0, 0, STANDING),
        *_hold(3.2, 4.2, poses.ready, 0.0, 0.0, 0, STANDING),
        Key(7.0, poses.ready(), 0.1, -0.1, 22),
        Key(9.5, poses.ready(), -0.1, 0.1, -14),
        *_hold(11.0, 13.5, poses.grips, 0.0, 0.0, -10, STANDING),
        Key(16.5, poses.grips(), 0.15, 0.1, 28),
        Key(19.5, poses.grips(), 0.0, -0.1, 4),
        Key(21.0, poses.ready(), -0.1, 0.0, -18),
        Key(23.5, poses.grips(), 0.0, 0.05, -26),
        Key(27.0, poses.grips(), 0.1, 0.0, 10),
        Key(30.5, poses.grips(), 0.0, 0.0, 0),
        *_hold(31.6, 32.2, poses.ready, 0.0, 0.0, 0, STANDING),
        *_hold(33.2, 36.4, poses.single_leg, 0.0, 0.0, 0, STANDING),
        Key(37.6, poses.single_leg(), 0.15, 0.05, 14),
        Key(38.7, poses.falling(), 0.05, 0.0, 6),
        *_hold(41.0, 48.0, poses.closed_guard, 0.35, 0.0, 180, below2),
        Key(52.0, poses.closed_guard(), 0.3, 0.05, 192),
        Key(57.0, poses.closed_guard(), 0.4, -0.05, 170),
        *_hold(61.0, 64.5, poses.closed_guard, 0.35, 0.0, 180, below2),
        *_hold(68.0, 76.0, poses.half_guard, 0.3, 0.0, 180, below2),
        Key(80.0, poses.half_guard(), 0.25, 0.05, 188),
        Key(84.0, poses.half_guard(), 0.3, 0.0, 180),
        *_hold(85.6, 88.0, poses.knee_slide, 0.3, 0.0, 180, below2),
        *_hold(89.6, 95.0, poses.half_guard, 0.25, 0.0, 180, below2),
        Key(100.0, poses.half_guard(), 0.3, 0.05, 172),
        Key(104.0, poses.half_guard(), 0.3, 0.0, 180),
        *_hold(105.4, 107.2, poses.knee_slide, 0.3, 0.0, 180, below2),
        *_hold(109.4, 118.0, poses.side_control, 0.25, 0.0, 180, below2),
        Key(123.0, poses.side_control(), 0.2, 0.05, 186),
        Key(126.5, poses.side_control(), 0.25, 0.0, 180),
        *_hold(128.2, 136.5, poses.knee_on_belly, 0.25, 0.0, 180, below2),
        *_hold(139.0, 142.5, poses.dogfight, 0.1, 0.0, 180, below2),
        Key(144.4, poses.dogfight(), 0.1, 0.05, 150, below2),
        *_hold(147.0, 152.0, poses.open_guard, -0.1, 0.0, 0, below1),
        Key(157.0, poses.open_guard(), -0.15, 0.05, 14, below1),
        Key(162.0, poses.open_guard(), -0.05, -0.05, -12, below1),
        *_hold(168.0, 172.0, poses.open_guard, -0.1, 0.0, 0, below1),
        *_hold(174.5, 180.0, poses.leg_entanglement, -0.25, 0.0, 0, below1),
        Key(184.0, poses.leg_entanglement(), -0.3, 0.0, 8, below1),
        Key(187.5, poses.leg_entanglement(), -0.25, 0.0, -4, below1),
        *_hold(190.5, 191.5, poses.open_guard, -0.2, 0.0, 0, below1),
        *_hold(195.5, 198.0, poses.turtle, 0.0, 0.0, 180, below2),
        Key(200.0, poses.turtle(), 0.0, 0.0, 172, below2),
        *_hold(204.5, 212.0, poses.back_control, 0.15, 0.1, -62, below2),
        Key(217.0, poses.back_control(), 0.12, 0.1, -54, below2),
        Key(221.0, poses.back_control(), 0.15, 0.1, -64, below2),
        *_hold(223.0, 229.4, poses.strangle, 0.15, 0.1, -62, below2),
    ]
    for tap in range(3):
        t = 229.8 + tap * 0.5
        keys.append(Key(t, poses.strangle(tap=True), 0.15, 0.1, -62, below2))
        keys.append(Key(t + 0.25, poses.strangle(), 0.15, 0.1, -62, below2))
    keys += [
        Key(232.6, poses.back_control(), 0.15, 0.1, -62, below2),
        *_hold(236.8, 240.5, poses.apart, 0.0, 0.0, 0, STANDING),
    ]
    return [replace(k, role=below2) if k.role == STANDING and k.heading > 90 else k for k in keys]


def sparring_keys() -> list[Key]:
    """Forty seconds of a Tuesday round: Wren's knee slide from half guard, done slowly and cleanly."""
    below2 = SECOND_BELOW
    return [
        *_hold(0.0, 3.0, poses.closed_guard, 0.3, 0.0, 180, below2),
        *_hold(6.0, 11.0, poses.half_guard, 0.3, 0.0, 180, below2),
        *_hold(14.0, 19.0, poses.knee_slide, 0.3, 0.0, 184, below2),
        *_hold(22.0, 28.0, poses.side_control, 0.25, 0.0, 184, below2),
        *_hold(30.5, 36.0, poses.knee_on_belly, 0.25, 0.0, 180, below2),
        *_hold(38.5, 40.5, poses.side_control, 0.25, 0.0, 180, below2),
    ]


TREMOR = {"pelvis": 0.010, "chest": 0.016, "lh": 0.026, "rh": 0.026, "lf": 0.010, "rf": 0.010, "head": 0.05}
FLOOR = {"pelvis": 0.12, "chest": 0.13, "lh": 0.05, "rh": 0.05, "lf": 0.05, "rf": 0.05}


class Motion:
    """Smooth motion of both athletes through a list of keyframes."""

    def __init__(self, keys: list[Key]) -> None:
        times = np.array([k.t for k in keys])
        if np.any(np.diff(times) <= 0):
            raise ValueError("keyframe times must rise")
        both = [k.postures() for k in keys]
        self._curves = [
            {c: PchipInterpolator(times, np.array([b[who][c] for b in both])) for c in CHANNELS} for who in (0, 1)
        ]

    def joints(self, t: float) -> tuple[Joints, Joints]:
        """Joints of (first, second) at `t` seconds."""
        found = []
        for who in (0, 1):
            posture = {c: np.asarray(curve(t), dtype=float) for c, curve in self._curves[who].items()}
            for i, (channel, size) in enumerate(TREMOR.items()):
                posture[channel] = posture[channel] + size * _tremor(t, seed=17 * who + i)
            for channel, floor in FLOOR.items():
                posture[channel][2] = max(posture[channel][2], floor)
            found.append(pose_joints(posture))
        return found[0], found[1]


def _tremor(t: float, *, seed: int) -> Vec:
    """A smooth wander within about ±1 on each axis, the same for the same time and seed."""
    phase = np.array([0.0, 2.1, 4.2]) + seed * 1.37
    return 0.5 * np.sin(2.1 * t + phase) + 0.3 * np.sin(5.3 * t + 1.7 * phase) + 0.2 * np.sin(9.7 * t + 0.6 * phase)


REFEREE_WALK = (
    (0, 0.0, 1.5), (5, 0.3, 1.7), (12, 1.6, 1.4), (24, 1.9, 0.9), (34, 1.7, 1.2), (44, 1.2, 1.6), (58, -0.6, 1.7),
    (66, -1.7, 0.8), (70, -1.5, -0.9), (73, -0.4, -1.5), (76, 0.9, -1.4), (80, 1.9, -0.3), (90, 1.8, 0.7),
    (104, 1.2, 1.5), (120, -0.2, 1.7), (134, -1.5, 1.1), (148, -1.8, 0.6), (160, -0.8, 1.6), (172, 0.5, 1.7),
    (186, 1.5, 1.2), (196, 1.8, 0.7), (206, 1.3, 1.4), (220, 0.3, 1.4), (229, 0.2, 1.1), (231.8, 0.2, 0.8),
    (234, 0.1, 0.9), (238, 0.0, 0.75), (240.5, 0.0, 0.75),
)  # fmt: skip
"""(time, x, y): the referee walks in front of the table-side camera between about 70 s and 77 s."""


@lru_cache(maxsize=1)
def _referee_path() -> PchipInterpolator:
    walk = np.array(REFEREE_WALK)
    return PchipInterpolator(walk[:, 0], walk[:, 1:])


def referee_joints(t: float) -> Joints:
    """The referee at `t` seconds of the bout: walking, watching, and raising Wren's hand at the end."""
    path = _referee_path()
    x, y = (float(v) for v in path(t))
    vx, vy = (float(v) for v in path(t, 1))
    speed = float(np.hypot(vx, vy))
    gait = min(speed / 0.5, 1.0)
    look = np.degrees(np.arctan2(-y, -x))
    heading = np.degrees(np.arctan2(vy, vx)) if speed > 0.25 else look
    step = np.sin(t * 5.2) * 0.2 * gait
    lift = max(np.cos(t * 5.2), 0) * 0.09 * gait, max(-np.cos(t * 5.2), 0) * 0.09 * gait
    bow = 0.18 if 38 < t < 231 and speed < 0.3 else 0.04
    fig = poses.figure(
        p=(0, 0, 0.9), c=(bow, 0, 1.4 - bow * 0.3), f=(1, 0, -bow),
        lh=(0.1 - step * 0.6, 0.26, 0.9), rh=(0.1 + step * 0.6, -0.26, 0.9),
        le=(-0.5, 0.3, 1.1), re=(-0.5, -0.3, 1.1),
        lf=(step, 0.12, 0.09 + lift[0]), rf=(-step, -0.12, 0.09 + lift[1]), head=(0.2, 0, 1),
    )  # fmt: skip
    world = placed(fig, x, y, heading)
    if t > 236.5:
        raise_by = float(np.clip((t - 236.5) / 1.2, 0, 1))
        up = np.array([-0.42, 0.25, 1.0 + 0.85 * raise_by])
        side = "rh" if unit(world["front"])[1] < 0 else "lh"
        world[side] = world[side] * (1 - raise_by) + up * raise_by
    return pose_joints(world)
