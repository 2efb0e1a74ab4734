"""The marks of a time ruler."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from chapto.app.ruler import STEPS, marks, step_for


@given(st.floats(0.05, 500), st.sampled_from([40.0, 58.0, 64.0]))
def test_marks_stand_apart_and_never_closer_than_asked(scale: float, apart: float) -> None:
    step = step_for(scale, apart=apart)
    assert step >= 1 and (step * scale >= apart or step == STEPS[-1])
    shorter = [s for s in STEPS if 1 <= s < step]
    assert all(s * scale < apart for s in shorter)


@given(st.floats(0, 5000), st.floats(0.1, 900), st.sampled_from(STEPS))
def test_every_multiple_inside_is_marked_once(start: float, length: float, step: float) -> None:
    found = list(marks(start, start + length, step))
    assert len(found) == len({round(m / step) for m in found})
    assert all(start - 1e-6 <= m <= start + length + 1e-6 for m in found)
    assert abs(len(found) - length / step) <= 1.001


def test_both_ends_are_marked() -> None:
    assert list(marks(10, 30, 10)) == [10, 20, 30]
    assert list(marks(0.0, 0.3, 0.1)) == pytest.approx([0, 0.1, 0.2, 0.3])
