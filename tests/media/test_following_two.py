"""Where the two are, against where the demo's figures truly are: a narrow picture holds all of both."""

from __future__ import annotations

import numpy as np
import pytest

from chapto.demo.generate import FOOTAGE
from chapto.demo.shots import SHOTS
from chapto.demo.truth import truth_at
from chapto.media.following_two import boxes_of, follow_two
from chapto.paint.crops import near_to
from chapto.paint.follow_way import FollowWay
from chapto.store.fingerprint import fingerprint

SPANS = {"table-side-1": (10.0, 34.0), "table-side-2": (20.0, 44.0), "tuesday-round": (8.0, 24.0)}


@pytest.mark.parametrize("name", SPANS)
def test_all_joints_of_both_stay_inside_an_upright_picture(name: str) -> None:
    """In at least 95 of a hundred frames, though a referee walks about in two of the files; and the picture never
    jerks."""
    inside, middles, nearer = _followed(name, *SPANS[name])
    assert np.mean(inside) >= 0.95
    assert np.abs(np.diff(middles)).max() < 0.05 and np.mean(nearer) > 1.1


def test_points_of_the_creator_find_two_who_lie_still_before_a_referee() -> None:
    """From the far wall both lie still for seconds, smaller than the referee before them; a point of each every eight
    seconds, as one puts them down for marks, is enough."""
    seen, marked = (np.mean(_followed("far-wall", 24.0, 48.0, points_every=every)[0]) for every in (0, 8))
    assert marked >= 0.95 and marked > seen


def _followed(
    name: str, start: float, end: float, *, points_every: int = 0
) -> tuple[list[bool], list[float], list[float]]:
    """Ten times a second: whether all joints are inside, the picture's middle, and how near it is."""
    shot = next(s for s in SHOTS if s.name == name)
    place, size = FOOTAGE / f"{name}.mp4", np.array([shot.camera.width, shot.camera.height])
    put = np.arange(start + points_every / 2, end, points_every) if points_every else ()
    points = [(at, *one.mean(axis=0) / size) for at in put for one in truth_at(shot, float(at)).places]
    way = FollowWay(follow_two(place, fingerprint(place), start, end, np.array(points).reshape(-1, 3)))
    shape = shot.camera.width / shot.camera.height
    inside, middles, nearer = [], [], []
    for second in np.arange(start + 1, end - 1, 1 / 10):
        near = near_to(way.at(float(second)), shape, 9 / 16)
        left = near.corner[0]
        joints = truth_at(shot, float(second)).places[..., 0] / shot.camera.width
        # A place in the picture as it lies in its upright frame, as wide as that.
        inside.append(bool((joints >= left).all() and (joints <= left + 1 / near.zoom).all()))
        middles.append(near.x if near.zoom > 1 else 0.5)
        nearer.append(near.zoom)
    return inside, middles, nearer


def test_who_lies_still_is_still_there_and_a_walker_is_held_too() -> None:
    """Two who no longer move stand out of nothing; somebody walks past. Neither is lost, and nobody is cut."""
    moved, there = np.zeros((20, 40), np.float32), np.zeros((20, 40), bool)
    looks = []
    for i in range(20):
        m, t = moved.copy(), there.copy()
        if i < 8:
            t[8:14, 10:18] = True
            m[9:12, 11:15] = 9.0
        t[4:16, 24 + i // 2 : 27 + i // 2] = True
        m[4:16, 26 + i // 2] = 9.0
        looks.append((m, t))
    boxes = boxes_of(looks)
    assert (boxes[:, 0] <= 10 / 40).all() and (boxes[:, 2] >= 27 / 40).all()


def test_where_the_camera_moves_everything_is_shown() -> None:
    assert boxes_of([None, None]).tolist() == [[0, 0, 1, 1]] * 2
