"""How both athletes move between keyframes, with weight: steps, grips that hold, bodies that keep apart.

Between keyframes every point moves along a shape-preserving cubic (PCHIP), which never overshoots a held posture.
A foot or hand that stands on the mat stays until it steps. The whole is then settled (`settling`), each time from where
it was. The result ships beside the footage, since working it out takes minutes.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from functools import lru_cache
from pathlib import Path

import numpy as np
from scipy.interpolate import PchipInterpolator

from chapto.demo.bodies import AT, COUNT, Array, both, posture_of
from chapto.demo.body import CHANNELS, Joints, Vec, pose_joints
from chapto.demo.poses import Pair, Posture, placed
from chapto.demo.settling import Tether, settled

FIRST_BELOW, SECOND_BELOW, STANDING = "first below", "second below", "standing"
RATE = 20
"""Settled postures a second."""
GRAIN = 1e4
"""Steps a metre in the file: a tenth of a millimetre."""
GRIP_SECONDS = 0.5
"""A hand takes this long to close on what it holds, and to leave it."""
LOW = {"lf": 0.11, "rf": 0.11, "lh": 0.075, "rh": 0.075}
"""An ankle or wrist below this many metres at a keyframe stands on the mat."""
RETURN, NEAR_MAT = 0.07, 0.12
"""Of what bodies were pushed off, this share is given back from one settled posture to the next; not to a foot so
near the mat, in metres, which would slide."""
_FEET = np.isin(np.arange(2 * COUNT) % COUNT, (AT["lf"], AT["rf"]))
STEP_SECONDS, STEP_SPEED = 0.5, 1.8
"""A step takes this long, or as long as its metres at this many a second."""
TREMOR = {"pelvis": 0.006, "chest": 0.010, "lh": 0.016, "rh": 0.016, "lf": 0.008, "rf": 0.008, "head": 0.05}


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


@dataclass(frozen=True)
class Hold:
    """`who` (0 or 1) keeps `hand` at `length` metres from a place on a body, from `start` to `end`.

    The place lies at `share` of the way from point `a` to point `b` of athlete `of`.
    """

    start: float
    end: float
    who: int
    hand: str
    of: int
    a: str
    b: str = ""
    share: float = 0.0
    length: float = 0.09
    ease: float = GRIP_SECONDS

    def tether(self, t: float) -> Tether | None:
        """The hold at second `t`, None where there is none."""
        near = min(t - self.start + self.ease, self.end + self.ease - t) / self.ease
        if near <= 0:
            return None
        far = self.of * COUNT
        mix = [(far + AT[self.a], 1 - self.share)]
        if self.b:
            mix.append((far + AT[self.b], self.share))
        return Tether(self.who * COUNT + AT[self.hand], tuple(mix), self.length, min(near, 1.0) ** 2)


class _Path:
    """Where one hand or foot is wanted: it stands, steps from stand to stand, or moves freely."""

    def __init__(self, times: Vec, places: Vec, low: float, late: float) -> None:
        self._times, self._places = times, places.copy()
        self._low = places[:, 2] < low
        self._late = late
        self._free = PchipInterpolator(times, places)
        for i in range(1, len(times)):
            if self._low[i - 1] and self._low[i] and np.linalg.norm(places[i] - self._places[i - 1]) < 0.03:
                self._places[i] = self._places[i - 1]

    def at(self, t: float) -> tuple[Vec, bool]:
        """Place (3,) at second `t`, and whether it stands there."""
        i = int(np.clip(np.searchsorted(self._times, t, side="right") - 1, 0, len(self._times) - 2))
        a, b = self._places[i], self._places[i + 1]
        t0, t1 = self._times[i], self._times[i + 1]
        if not (self._low[i] or self._low[i + 1]):
            return np.asarray(self._free(t), dtype=float), False
        if self._low[i] and self._low[i + 1]:
            if np.array_equal(a, b):
                return a, True
            long = min(max(STEP_SECONDS, float(np.linalg.norm(b - a)) / STEP_SPEED), (t1 - t0) * 0.8)
            t0 = t0 + (t1 - t0 - long) * self._late
            t1 = t0 + long
        u = float(np.clip((t - t0) / (t1 - t0), 0, 1))
        if u in (0.0, 1.0):
            return (a, b)[int(u)], bool(self._low[i + int(u)])
        lift = min(max(0.4 * float(np.linalg.norm((b - a)[:2])), 0.06), 0.14) * 4 * u * (1 - u)
        if self._low[i] and self._low[i + 1]:
            over = (u - 0.14) / 0.72
        elif self._low[i]:
            over = (u - 0.15) / 0.85
        else:
            over = u / 0.85
        place = a + (b - a) * _smooth(over)
        place[2] = a[2] + (b[2] - a[2]) * _smooth(u) + lift
        return place, False


def _smooth(u: float) -> float:
    u = min(max(u, 0.0), 1.0)
    return u * u * (3 - 2 * u)


class Wanted:
    """What the keyframes ask for, before bodies get into one another's way."""

    def __init__(self, keys: Sequence[Key], holds: Sequence[Hold]) -> None:
        times = np.array([k.t for k in keys])
        if np.any(np.diff(times) <= 0):
            raise ValueError("keyframe times must rise")
        self.end = float(times[-1])
        self.holds = tuple(holds)
        both_of = [k.postures() for k in keys]
        self._curves = []
        self._paths: list[dict[str, _Path]] = []
        for who in (0, 1):
            points = {c: np.array([b[who][c] for b in both_of]) for c in both_of[0][0]}
            self._curves.append({c: PchipInterpolator(times, points[c]) for c in points if c not in LOW})
            self._paths.append({
                c: _Path(times, points[c], low, 0.2 if c[0] == "l" else 0.8) for c, low in LOW.items()
            })  # fmt: skip

    def postures(self, t: float) -> tuple[tuple[Posture, Posture], Array]:
        """Postures of both at second `t`, and which points of theirs are pinned to the mat (2·COUNT,)."""
        found, pinned = [], np.zeros(2 * COUNT, dtype=bool)
        for who in (0, 1):
            posture = {c: np.asarray(curve(t), dtype=float) for c, curve in self._curves[who].items()}
            for c, path in self._paths[who].items():
                posture[c], stands = path.at(t)
                pinned[who * COUNT + AT[c]] = stands
            for i, (channel, size) in enumerate(TREMOR.items()):
                if channel not in LOW or not pinned[who * COUNT + AT[channel]]:
                    posture[channel] = posture[channel] + size * _tremor(t, seed=17 * who + i)
            found.append(posture)
        return (found[0], found[1]), pinned

    def tethers(self, t: float) -> list[Tether]:
        """Every hold at second `t`."""
        return [x for x in (h.tether(t) for h in self.holds) if x is not None]

    def settle(self, t: float, before: tuple[Array, Array] | None) -> tuple[Array, Array]:
        """(points settled at `t`, points wanted at `t`), starting from what this gave a moment before."""
        (one, other), pinned = self.postures(t)
        asked = both(one, other)
        if before is None:
            return settled(asked, asked, pinned, self.tethers(t)), asked
        was, was_asked = before
        start = was + (asked - was_asked)
        start += (asked - start) * np.where(_FEET & (was[:, 2] < NEAR_MAT), 0, RETURN)[:, None]
        start[pinned] = was[pinned]
        start[pinned, 2] += np.clip(asked[pinned, 2] - was[pinned, 2], -0.03, 0.03)
        return settled(start, asked, pinned, self.tethers(t)), asked


def _tremor(t: float, *, seed: int) -> Vec:
    """A smooth wander within about ±1 on each axis, the same for the same time and seed."""
    phase = np.array([0.0, 2.1, 4.2]) + seed * 1.37
    return 0.5 * np.sin(2.1 * t + phase) + 0.3 * np.sin(5.3 * t + 1.7 * phase) + 0.2 * np.sin(9.7 * t + 0.6 * phase)


def worked_out(wanted: Wanted) -> Vec:
    """Settled postures at `RATE` a second: (times, 2 athletes, len(CHANNELS), 3), metres."""
    rows, before = [], None
    for k in range(int(np.ceil(wanted.end * RATE)) + 1):
        before = wanted.settle(min(k / RATE, wanted.end), before)
        points = before[0]
        rows.append([[posture_of(points[w * COUNT : (w + 1) * COUNT])[c] for c in CHANNELS] for w in (0, 1)])
    return np.array(rows)


def save(path: Path, postures: Vec) -> None:
    """Write settled postures to a NumPy archive."""
    np.savez_compressed(path, postures=np.round(postures * GRAIN).astype(np.int16))


@lru_cache(maxsize=4)
def load(path: Path) -> Vec:
    """Settled postures as `worked_out` gave them."""
    with np.load(path) as archive:
        postures: Vec = archive["postures"].astype(float) / GRAIN
    return postures


class Motion:
    """Smooth motion of both athletes through settled postures."""

    def __init__(self, postures: Vec) -> None:
        self._curve = PchipInterpolator(np.arange(len(postures)) / RATE, postures)
        self._end = (len(postures) - 1) / RATE

    def joints(self, t: float) -> tuple[Joints, Joints]:
        """Joints of (first, second) at `t` seconds."""
        at = np.asarray(self._curve(min(max(t, 0.0), self._end)))
        first, second = (pose_joints(dict(zip(CHANNELS, at[who], strict=True))) for who in (0, 1))
        return first, second
