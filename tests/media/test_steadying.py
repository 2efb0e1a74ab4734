"""The shaking of a hand is taken out, and nothing of the picture's edge comes into sight."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from chapto.demo.generate import FOOTAGE
from chapto.media.reader import FrameReader
from chapto.media.steadying import MOST_CROP, _step, smoothed
from chapto.paint.lens import Lens
from tests.media.followed import SIZE, Shaken


def test_steps_of_a_shaken_picture_are_those_it_was_shaken_by() -> None:
    """Shift within a pixel of 960, turn within a thousandth."""
    reader = FrameReader(FOOTAGE / "table-side-1.mp4")
    pictures = Shaken(reader, SIZE)
    width, height = pictures.size
    for number in (1500, 1510, 1520):
        before, after = (np.ascontiguousarray(pictures.grey(k)) for k in (number, number + 1))
        found = _step(before, after)
        whole = pictures.matrix(number + 1) @ np.linalg.inv(pictures.matrix(number))
        middle = whole @ np.array([width / 2, height / 2, 1])
        true = middle[:2] / middle[2] - (width / 2, height / 2)
        assert found[:2] * height == pytest.approx(true, abs=1)
        assert found[2] == pytest.approx(np.arctan2(whole[1, 0], whole[0, 0]), abs=1e-3)
    reader.close()


steps = st.lists(
    st.tuples(st.floats(-0.02, 0.02), st.floats(-0.02, 0.02), st.floats(-0.01, 0.01), st.floats(-0.01, 0.01)),
    min_size=2, max_size=60,
)  # fmt: skip


@given(steps, st.sampled_from([9 / 16, 4 / 3, 16 / 9]))
def test_a_steadied_picture_fills_its_place_and_loses_no_more_than_may_be(
    moved: list[tuple[float, float, float, float]], aspect: float
) -> None:
    found = smoothed(np.arange(len(moved) + 1) / 30, np.array(moved), aspect, 12)
    assert 0 <= found.crop <= MOST_CROP + 1e-9
    for matrix in found.matrices:
        corners = np.array([(0, 0), (aspect, 0), (aspect, 1), (0, 1)]) - matrix[:, 2]
        inside = corners @ np.linalg.inv(matrix[:, :2]).T
        assert (inside > -1e-6).all() and (inside < np.array([aspect, 1]) + 1e-6).all()


def test_what_shook_shakes_less_and_a_slow_turn_of_the_camera_stays() -> None:
    t = np.arange(300) / 30
    shake = np.stack([0.012 * np.sin(9 * t), 0.009 * np.sin(11 * t), 0.004 * np.sin(7 * t), 0 * t], axis=1)
    pan = np.stack([0.02 * t, 0 * t, 0 * t, 0 * t], axis=1)
    found = smoothed(t, np.diff(shake + pan, axis=0), 16 / 9, 0.7 * 30)
    middle = np.array([8 / 9, 0.5, 1])
    moved = np.array([m @ middle for m in found.matrices])[:, 0] - 8 / 9
    left = np.diff(shake[:, 0] + moved)[30:-30]
    assert np.abs(left).mean() < 0.25 * np.abs(np.diff(shake[:, 0])).mean()


def test_a_place_goes_through_a_steadied_lens_and_back() -> None:
    matrix = np.array([[1.05, -0.02, -0.03], [0.02, 1.05, -0.05]])
    for mirrored in (False, True):
        lens = Lens((0, 0, 1280, 720), 16 / 9, mirrored, steady=matrix)
        assert lens.back(lens.point(0.3, 0.7)) == pytest.approx((0.3, 0.7), abs=1e-9)
        plain = Lens((0, 0, 1280, 720), 16 / 9, mirrored).point(0.3, 0.7)
        shown = lens.matrix() @ np.array([plain.x(), plain.y(), 1])
        at = lens.point(0.3, 0.7)
        assert (shown[0], shown[1]) == pytest.approx((at.x(), at.y()), abs=1e-6)
