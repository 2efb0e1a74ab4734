"""Where the joints of the demo's athletes are in its pictures, and whether they can be seen: what following and facts
are checked against."""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache

import numpy as np
from numpy.typing import NDArray

from chapto.demo.body import Joints
from chapto.demo.choreography import referee_joints
from chapto.demo.figures import MOSS, REFEREE, WREN, limbs_of
from chapto.demo.generate import shipped_motion
from chapto.demo.raster import Limb
from chapto.demo.scene import OPEN
from chapto.demo.shots import Shot

Points = NDArray[np.float64]
SKIN = 0.035
"""Metres: what lies no deeper under a limb's surface than this counts as that limb's own."""


def fourteen(j: Joints) -> Points:
    """The points of one athlete in the order of `Joint`, (14, 3) metres."""
    return np.array([j.head, j.chest, *j.shoulders, *j.elbows, *j.wrists, *j.hips, *j.knees, *j.ankles])


@dataclass(frozen=True)
class Truth:
    """One moment of a shot: (2, 14, 2) pixels of the camera's picture, (2, 14) whether each is in sight."""

    places: Points
    seen: NDArray[np.bool_]


@lru_cache(maxsize=4096)
def truth_at(shot: Shot, second: float) -> Truth:
    """Both athletes at a second of the shot's file."""
    mat = shot.mat_at(second)
    bout = shot.hall == OPEN
    both = shipped_motion("bout" if bout else "sparring").joints(mat)
    limbs = limbs_of(both[0], WREN) + limbs_of(both[1], MOSS)
    if bout:
        limbs += limbs_of(referee_joints(mat), REFEREE)
    world = np.array([fourteen(j) for j in both])
    places = shot.camera.project(world.reshape(-1, 3))[:, :2].reshape(2, 14, 2)
    seen = _are_seen(world.reshape(-1, 3), np.array(shot.camera.position), limbs).reshape(2, 14)
    inside = (places > 0).all(2) & (places < (shot.camera.width, shot.camera.height)).all(2)
    return Truth(places, seen & inside)


def _are_seen(points: Points, eye: Points, limbs: list[Limb]) -> NDArray[np.bool_]:
    """Of (n, 3) points, those before which no limb lies but the ones that the point itself lies in, (n,)."""
    along = np.linspace(0, 1, 9)
    one, other = np.array([x.a for x in limbs]), np.array([x.b for x in limbs])
    axis = one[:, None] + along[:, None] * (other - one)[:, None]
    thick = np.array([[x.radius_a, x.radius_b] for x in limbs])
    radius = thick[:, :1] + along * (thick[:, 1:] - thick[:, :1])
    way = points - eye
    own = (np.linalg.norm(axis - points[:, None, None], axis=3) < radius + SKIN).any(2)
    share = np.einsum("lak,nk->nla", axis - eye, way) / (way * way).sum(1)[:, None, None]
    nearest = eye + np.clip(share, 0, 1)[..., None] * way[:, None, None]
    before = (np.linalg.norm(axis - nearest, axis=3) < radius) & (share < 1)
    return np.asarray(~(before.any(2) & ~own).any(1))
