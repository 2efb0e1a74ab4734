"""The bout and the sparring round, keyframed: who is in which posture, where on the mat, and when."""

from __future__ import annotations

from collections.abc import Callable
from functools import lru_cache

import numpy as np
from scipy.interpolate import PchipInterpolator

from chapto.demo import poses
from chapto.demo.body import Joints, pose_joints, unit
from chapto.demo.motion import FIRST_BELOW, SECOND_BELOW, STANDING, Hold, Key, Wanted
from chapto.demo.poses import Pair, placed

WREN, MOSS = 0, 1
RAISED = 238.4
"""Mat second by which the referee has the winner's hand up."""
TAPS = (229.9, 230.5, 231.1)
"""Mat seconds at which Moss's hand meets the forearm that chokes him."""


def _hold(t0: float, t1: float, pair: Callable[[], Pair], x: float, y: float, heading: float, role: str) -> list[Key]:
    return [Key(t, pair(), x, y, heading, role) for t in (t0, t1)]


def bout() -> Wanted:
    """The whole bout of the Saltmarsh Winter Open, 240 s.

    Ground pairs lie with heads towards -x before they are turned.
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
        Key(21.0, poses.ready(), -0.15, 0.0, -18),
        Key(23.5, poses.grips(), -0.2, 0.05, -26),
        Key(27.0, poses.grips(), -0.3, 0.0, 10),
        Key(30.5, poses.grips(), -0.4, 0.0, 0),
        *_hold(31.6, 32.2, poses.ready, -0.45, 0.0, 0, STANDING),
        *_hold(33.3, 34.7, poses.single_leg, -0.45, 0.0, 0, STANDING),
        Key(35.7, poses.single_leg(), -0.22, 0.02, 5),
        Key(36.7, poses.single_leg(), 0.02, 0.03, 8),
        Key(37.6, poses.single_leg(), 0.18, 0.02, 6),
        Key(38.8, poses.falling(), 0.12, 0.0, 4),
        *_hold(41.0, 48.0, poses.closed_guard, 0.35, 0.0, 180, below2),
        Key(52.0, poses.closed_guard(), 0.3, 0.05, 190, below2),
        Key(57.0, poses.closed_guard(), 0.4, -0.05, 172, below2),
        *_hold(61.0, 64.5, poses.closed_guard, 0.35, 0.0, 180, below2),
        *_hold(68.0, 76.0, poses.half_guard, 0.3, 0.0, 180, below2),
        Key(80.0, poses.half_guard(), 0.25, 0.05, 186, below2),
        Key(84.0, poses.half_guard(), 0.3, 0.0, 180, below2),
        *_hold(85.8, 88.2, poses.knee_slide_stopped, 0.3, 0.0, 180, below2),
        *_hold(89.6, 95.0, poses.half_guard, 0.25, 0.0, 180, below2),
        Key(100.0, poses.half_guard(), 0.3, 0.05, 174, below2),
        Key(103.2, poses.half_guard(), 0.3, 0.0, 180, below2),
        Key(104.3, poses.half_guard_low(), 0.3, 0.0, 180, below2),
        Key(105.0, poses.knee_over(), 0.3, 0.0, 180, below2),
        *_hold(105.8, 106.8, poses.knee_slide_through, 0.3, 0.0, 180, below2),
        *_hold(109.1, 110.0, poses.just_past, 0.27, 0.0, 180, below2),
        *_hold(112.0, 118.0, poses.side_control, 0.25, 0.0, 180, below2),
        Key(123.0, poses.side_control(), 0.2, 0.05, 186, below2),
        Key(126.5, poses.side_control(), 0.25, 0.0, 180, below2),
        *_hold(128.2, 135.2, poses.knee_on_belly, 0.25, 0.0, 180, below2),
        Key(136.2, poses.leg_straightened(), 0.25, 0.0, 180, below2),
        Key(137.1, poses.shin_slid_off(), 0.25, 0.0, 180, below2),
        *_hold(137.9, 138.4, poses.half_guard_back, 0.25, 0.0, 180, below2),
        *_hold(140.6, 141.0, poses.dogfight, 0.1, 0.0, 195, below2),
        Key(142.4, poses.dogfight(), 0.1, 0.0, 235, below2),
        Key(144.2, poses.dogfight(), 0.08, 0.0, 268, below2),
        Key(145.6, poses.tipping(), 0.02, 0.0, 270, below2),
        *_hold(147.2, 152.0, poses.open_guard, -0.1, 0.0, 0, below1),
        Key(157.0, poses.open_guard(), -0.15, 0.05, 12, below1),
        Key(162.0, poses.open_guard(), -0.05, -0.05, -10, below1),
        *_hold(168.0, 172.0, poses.open_guard, -0.1, 0.0, 0, below1),
        *_hold(174.5, 180.0, poses.leg_entanglement, -0.25, 0.0, 0, below1),
        Key(184.0, poses.leg_entanglement(), -0.3, 0.0, 6, below1),
        Key(187.5, poses.leg_entanglement(), -0.25, 0.0, -4, below1),
        Key(188.9, poses.foot_back(), -0.22, 0.0, 0, below1),
        *_hold(189.9, 190.4, poses.open_guard, -0.2, 0.0, 0, below1),
        *_hold(191.6, 192.2, poses.sitting_up, -0.35, 0.0, 0, below1),
        *_hold(193.4, 193.8, poses.arm_drag, -0.35, 0.0, 0, below1),
        *_hold(196.0, 198.0, poses.turtle, 0.1, 0.0, 0, below2),
        Key(200.4, poses.turtle(), 0.08, 0.0, 6, below2),
        *_hold(203.0, 204.9, poses.seat_belt, 0.1, 0.0, 4, below2),
        Key(207.4, poses.one_hook(), 0.2, 0.1, 190, below2),
        *_hold(208.6, 212.0, poses.back_control, 0.2, 0.1, 212, below2),
        Key(217.0, poses.back_control(), 0.18, 0.1, 222, below2),
        Key(221.0, poses.back_control(), 0.2, 0.1, 216, below2),
        *_hold(223.2, 229.6, poses.strangle, 0.2, 0.1, 214, below2),
    ]
    for tap in range(len(TAPS)):
        t = TAPS[tap]
        keys.append(Key(t, poses.strangle(), 0.2, 0.1, 214, below2))
        keys.append(Key(t + 0.3, poses.strangle(tap=True), 0.2, 0.1, 214, below2))
    keys += [
        Key(232.8, poses.back_control(), 0.2, 0.1, 214, below2),
        Key(234.6, poses.kneeling_apart(), 0.15, 0.0, 212, below2),
        Key(235.9, poses.getting_up(), 0.1, 0.0, 206, below2),
        Key(237.2, poses.verdict(), 0.0, -0.1, 200),
        *_hold(RAISED, 240.5, lambda: poses.verdict(won=True), 0.0, -0.1, 200, STANDING),
    ]
    return Wanted(keys, BOUT_HOLDS)


BOUT_HOLDS = (
    Hold(11.2, 19.3, WREN, "lh", MOSS, "chest", "head", 0.4, 0.11),
    Hold(11.2, 19.3, MOSS, "lh", WREN, "chest", "head", 0.4, 0.11),
    Hold(23.8, 30.4, WREN, "lh", MOSS, "chest", "head", 0.4, 0.11),
    Hold(23.8, 30.4, MOSS, "lh", WREN, "chest", "head", 0.4, 0.11),
    Hold(11.2, 19.3, WREN, "rh", MOSS, "le", length=0.105),
    Hold(23.8, 30.4, MOSS, "rh", WREN, "le", length=0.105),
    # The single leg: hands locked behind the knee until he falls.
    Hold(33.6, 38.6, WREN, "lh", MOSS, "rk", "rf", 0.08, 0.11),
    Hold(33.6, 38.6, WREN, "rh", MOSS, "rk", "rf", 0.08, 0.11),
    Hold(33.6, 38.6, WREN, "lh", WREN, "rh", length=0.09),
    # The stopped knee slide: his far hand on her collarbone.
    Hold(85.8, 88.2, MOSS, "lh", WREN, "chest", "ls", 0.3, 0.215),
    Hold(84.8, 88.4, WREN, "lh", MOSS, "re", length=0.09),
    # The one that goes through: her right hand behind his far shoulder.
    Hold(104.3, 109.6, WREN, "rh", MOSS, "ls", length=0.14),
    Hold(137.8, 144.6, MOSS, "lh", WREN, "rs", "rhip", 0.35, 0.19),
    Hold(139.8, 144.6, MOSS, "rh", WREN, "le", length=0.105),
    # The heel hook: both hands on the foot.
    Hold(175.0, 188.2, WREN, "lh", MOSS, "rf", length=0.09),
    Hold(175.0, 188.2, WREN, "rh", MOSS, "rf", "rk", 0.15, 0.10),
    Hold(191.8, 194.4, WREN, "lh", MOSS, "rh", "re", 0.15, 0.09),
    Hold(191.8, 193.0, WREN, "rh", MOSS, "re", "rs", 0.2, 0.10),
    # The seat belt: one hand over the other, kept until the forearm goes under the chin.
    Hold(203.6, 231.6, WREN, "rh", WREN, "lh", length=0.07),
    Hold(212.5, 221.6, MOSS, "rh", WREN, "rh", "re", 0.2, 0.09),
    Hold(212.5, 221.6, MOSS, "lh", WREN, "lh", "le", 0.25, 0.09),
    Hold(223.4, 231.6, WREN, "rh", MOSS, "chest", "ls", 0.5, 0.235),
    Hold(223.4, 231.6, MOSS, "rh", WREN, "re", "rh", 0.3, 0.09),
    Hold(223.4, 229.2, MOSS, "lh", WREN, "re", "rh", 0.75, 0.09),
    *(Hold(t, t + 0.05, MOSS, "lh", WREN, "re", "rh", 0.75, 0.09, ease=0.2) for t in TAPS),
)
"""What hands hold. Common practice: the single leg is locked behind the knee, the tap is on the arm that chokes."""


def sparring() -> Wanted:
    """Forty seconds of a Tuesday round: Wren's knee slide from half guard, done slowly and cleanly."""
    below2 = SECOND_BELOW
    keys = [
        *_hold(0.0, 3.0, poses.closed_guard, 0.3, 0.0, 180, below2),
        *_hold(6.0, 9.5, poses.half_guard, 0.3, 0.0, 180, below2),
        *_hold(11.5, 12.6, poses.half_guard_low, 0.3, 0.0, 182, below2),
        Key(13.8, poses.knee_over(), 0.3, 0.0, 183, below2),
        *_hold(15.0, 18.4, poses.knee_slide_through, 0.3, 0.0, 184, below2),
        *_hold(21.4, 22.0, poses.just_past, 0.25, 0.0, 184, below2),
        *_hold(24.0, 28.0, poses.side_control, 0.25, 0.0, 184, below2),
        *_hold(30.5, 36.0, poses.knee_on_belly, 0.25, 0.0, 180, below2),
        *_hold(38.5, 40.5, poses.side_control, 0.25, 0.0, 180, below2),
    ]
    return Wanted(keys, (Hold(11.5, 21.6, WREN, "rh", MOSS, "ls", length=0.14),))


REFEREE_WALK = (
    (0, 0.0, 1.5), (5, 0.3, 1.7), (12, 1.6, 1.4), (24, 1.9, 1.25), (29, 1.8, 1.5), (34, 1.7, 1.55),
    (38, 1.6, 1.5), (41, 1.3, 1.75), (44, 0.9, 1.75), (58, -0.6, 1.7),
    (66, -1.7, 0.8), (70, -1.5, -0.9), (73, -0.4, -1.5), (76, 0.9, -1.4), (80, 1.9, -0.3), (90, 1.8, 0.7),
    (104, 1.2, 1.5), (120, -0.2, 1.7), (134, -1.5, 1.1), (148, -1.8, 0.6), (160, -0.8, 1.6), (172, 0.5, 1.7),
    (186, 1.5, 1.2), (196, 1.8, 0.7), (206, 1.3, 1.4), (210, 1.42, 1.2), (213.6, 1.38, 1.2), (217, 0.6, 1.7),
    (220, 0.3, 1.4), (229, 0.2, 1.1), (231.8, 0.2, 0.8), (234, 0.1, 0.9), (238, 0.0, 0.75), (240.5, 0.0, 0.75),
)  # fmt: skip
"""(time, x, y): the referee walks in front of the table-side camera between about 70 s and 77 s.

He stands in front of the far one until 39 s, and from 200 s to 214 s."""


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
    if t > RAISED - 1.2:
        raise_by = float(np.clip((t - RAISED) / 1.2 + 1, 0, 1))
        up = np.array([0.26, 0.47, 1.0 + 0.85 * raise_by])
        side = "lh" if unit(world["front"])[1] < 0 else "rh"
        world[side] = world[side] * (1 - raise_by) + up * raise_by
    return pose_joints(world)
