"""What is said of two bodies is true: against published tables, another library, and the generator's own joints."""

from __future__ import annotations

from fractions import Fraction

import numpy as np
import pytest
import shapely
from hypothesis import given
from hypothesis import strategies as st

from chapto.bodies.angles import knee_angle, spine_angle
from chapto.bodies.base import base_outline, plumb_line
from chapto.bodies.centre import Centre, centre_of
from chapto.bodies.distance import across, gap, speed
from chapto.bodies.height import Standing, higher_hips
from chapto.bodies.posture import Posture
from chapto.bodies.scale import Scale, scale_of
from chapto.bodies.segments import DE_LEVA, LIMBS, TRUNK_LENGTH, WINTER
from chapto.demo.body import SPINE, Joints
from chapto.demo.generate import shipped_motion
from chapto.demo.raster import Camera
from chapto.demo.shots import TABLE, WALL
from chapto.document.joints import ROW, Joint

J = Joint
ON_THE_MAT = 0.13
"""Metres over the mat under which a joint of the demo rests on it."""


def joints_3d(j: Joints) -> np.ndarray:
    """The fourteen points of one athlete of the demo, (14, 3) metres."""
    return np.array(
        [j.head, j.chest, *j.shoulders, *j.elbows, *j.wrists, *j.hips, *j.knees, *j.ankles]
    )  # fmt: skip


def seen(points: np.ndarray, camera: Camera, *, click: float, seed: int) -> Posture:
    """The points as somebody puts them down who errs by `click` pixels."""
    noise = np.random.default_rng(seed).normal(0, click, (14, 2))
    return Posture(camera.project(points)[:, :2] + noise, click)


def stretch(step: float = 0.9) -> list[tuple[np.ndarray, np.ndarray]]:
    """Both athletes through the demo bout."""
    motion = shipped_motion("bout")
    times = np.arange(6.0, 225.0, step)
    return [(joints_3d(a), joints_3d(b)) for a, b in (motion.joints(float(t)) for t in times)]


def carrying(points: np.ndarray) -> tuple[Joint, ...]:
    return tuple(joint for joint, row in ROW.items() if points[row, 2] < ON_THE_MAT)


def test_both_tables_of_masses_sum_to_one() -> None:
    for limbs, table in (([x.de_leva for x in LIMBS], DE_LEVA), ([x.winter for x in LIMBS], WINTER)):
        whole = table.head + table.trunk[0] + 2 * (table.hand + table.foot + sum(m for m, _ in limbs))
        assert whole == pytest.approx(1.0, abs=0.001)


def upright() -> Posture:
    """Somebody of 1,000 pixels who stands, by the table of lengths, seen from the side."""
    s = 1000.0
    hips = np.array([500.0, 900 - (0.245 + 0.246) * s])
    neck = hips - [0, TRUNK_LENGTH * s]
    down = np.array([0.0, s])
    leg, arm = [hips + 0.245 * down, hips + 0.491 * down], [neck + 0.186 * down, neck + 0.332 * down]
    points = [
        neck - [0, 120],
        neck,
        neck,
        neck,
        arm[0],
        arm[0],
        arm[1],
        arm[1],
        hips,
        hips,
        leg[0],
        leg[0],
        leg[1],
        leg[1],
    ]
    return Posture(np.array(points), 2.0)


def test_a_figure_by_the_table_has_its_stature_and_straight_joints() -> None:
    """Drillis and Contini's shares, put together again."""
    posture = upright()
    scale = scale_of([posture])
    assert scale is not None and scale.stature == pytest.approx(1000, abs=0.01)
    spine, knee = spine_angle(posture, scale), knee_angle(posture, scale, left=True)
    assert spine is not None and (spine.value, spine.may_be_said) == (pytest.approx(0), True)
    assert knee is not None and (knee.value, knee.may_be_said) == (pytest.approx(180), True)
    turned = Posture(posture.points @ np.array([[0.0, 1.0], [-1.0, 0.0]]), 2.0)
    lying = spine_angle(turned, scale)
    assert lying is not None and lying.value == pytest.approx(90)


def test_a_limb_that_points_at_the_camera_says_nothing_of_its_angle() -> None:
    points = upright().points.copy()
    points[ROW[J.LEFT_ANKLE]] = points[ROW[J.LEFT_KNEE]] + [0, 0.5 * 246]
    fact = knee_angle(Posture(points, 2.0), Scale(288, 5), left=True)
    assert fact is not None and not fact.may_be_said


def test_one_slip_of_the_hand_does_not_change_the_scale() -> None:
    points = upright().points.copy()
    points[ROW[J.LEFT_WRIST]] += [300, 0]
    scale = scale_of([upright(), Posture(points, 2.0)])
    assert scale is not None and scale.stature == pytest.approx(1000, abs=1)
    assert scale_of([Posture(np.full((14, 2), np.nan))]) is None


@pytest.mark.parametrize(("camera", "most"), [(TABLE, 0.030), (WALL, 0.032)])
def test_the_centre_of_the_demos_athletes_is_found_through_clumsy_clicks(camera: Camera, most: float) -> None:
    """Eight pixels of error on every point: within 0.03 torsos in the median, against the projected true centre. From
    the far wall, where a torso has 125 pixels, it is hardly more."""
    off = []
    for n, pair in enumerate(stretch()):
        for k, points in enumerate(pair):
            clicked = seen(points, camera, click=8.0, seed=2 * n + k)
            exact = seen(points, camera, click=0.0, seed=0)
            depth = float(camera.project(points)[:, 2].mean())
            scale = Scale(SPINE * camera.focal / depth, 3.0)
            found, truth = centre_of(clicked, scale), centre_of(exact, scale)
            assert found is not None and truth is not None and found.error >= 0.05 * scale.torso
            off.append(float(np.linalg.norm(found.place - truth.place)) / scale.torso)
    assert np.median(off) <= most


@pytest.mark.parametrize("camera", [TABLE, WALL])
def test_what_is_said_of_weight_and_hips_is_never_wrong(camera: Camera) -> None:
    """Against the generator's own joints: the plumb line never, higher hips right in at least 97 of 100."""
    right_hips, wrong_plumb, said_plumb, said_hips = 0, 0, 0, 0
    every = stretch()
    for n, pair in enumerate(every):
        clicked = [seen(points, camera, click=3.0, seed=2 * n + k) for k, points in enumerate(pair)]
        exact = [seen(points, camera, click=0.0, seed=0) for points in pair]
        contacts = [carrying(points) for points in pair]
        near = every[max(n - 3, 0) : n + 4]
        scales = [scale_of([seen(x[k], camera, click=3.0, seed=m) for m, x in enumerate(near)]) for k in (0, 1)]
        for k in (0, 1):
            centre, truth = centre_of(clicked[k], scales[k]), centre_of(exact[k], scales[k])  # type: ignore[arg-type]
            assert centre is not None and truth is not None
            fact = plumb_line(centre, clicked[k], contacts[k])
            real = plumb_line(Centre(truth.place, 0.0), Posture(exact[k].points, 0.0), contacts[k])
            if fact is not None and fact.may_be_said and real is not None:
                said_plumb += 1
                wrong_plumb += (fact.value > 0) is not (real.value > 0)
        if all(contacts):
            standing = [Standing(clicked[k], contacts[k], scales[k]) for k in (0, 1)]  # type: ignore[arg-type]
            hips = higher_hips(*standing)
            if hips is not None and hips.may_be_said:
                said_hips += 1
                heights = [
                    (p[8, 2] + p[9, 2]) / 2 - min(p[ROW[j], 2] for j in c) for p, c in zip(pair, contacts, strict=True)
                ]
                right_hips += (hips.value > 0) is bool(heights[0] > heights[1])
    assert said_plumb > 60 and wrong_plumb == 0
    assert said_hips > 20 and right_hips / said_hips >= 0.97


@given(st.lists(st.tuples(st.integers(0, 200), st.integers(0, 200)), min_size=3, max_size=12))
def test_the_outline_of_a_base_is_that_of_another_library(places: list[tuple[int, int]]) -> None:
    points = np.array(places, float)
    outline, hull = base_outline(points), shapely.MultiPoint(places).convex_hull
    if isinstance(hull, shapely.Polygon):
        assert shapely.Polygon(outline).area == pytest.approx(hull.area)
    else:
        assert len(outline) <= len(points)


def test_gaps_sides_and_speeds_are_told_with_their_errors() -> None:
    scale = Scale(100.0, 4.0)
    near, far = np.array([0.0, 0.0]), np.array([30.0, 40.0])
    between = gap(near, far, scale)
    assert between is not None and (between.value, between.at_least, between.may_be_said) == (0.5, True, True)
    assert gap(near, near + 1, scale).may_be_said is False  # type: ignore[union-attr]
    moved = speed(near, far, float(Fraction(1, 4)), scale)
    assert moved is not None and moved.value == 2.0 and speed(near, far, 0.0, scale) is None
    line = (np.array([0.0, 100.0]), np.array([0.0, -100.0]))
    side = across(np.array([25.0, 0.0]), line, scale)
    assert side is not None and side.value == pytest.approx(0.25) and side.may_be_said
    assert across(np.array([3.0, 0.0]), line, scale).may_be_said is False  # type: ignore[union-attr]
    assert gap(near, np.array([np.nan, 1.0]), scale) is None
