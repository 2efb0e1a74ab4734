"""Rates and the rounding between seconds and frames."""

from fractions import Fraction

import pytest
from hypothesis import given
from hypothesis import strategies as st

from chapto.clock.rates import RATES, ClockError, frames_from_seconds, nearest_rate, programme_rate, seconds_from_frames


def test_known_rates_are_taken_in_any_form() -> None:
    assert programme_rate("30000/1001") == Fraction(30000, 1001)
    assert programme_rate(25) == 25


def test_an_unknown_rate_is_refused_with_the_known_ones() -> None:
    with pytest.raises(ClockError, match="choose one of 24000/1001"):
        programme_rate(29)


@pytest.mark.parametrize(
    ("measured", "rate"),
    [
        (29.97, Fraction(30000, 1001)),
        (59.5, Fraction(60000, 1001)),
        (30.02, Fraction(30)),
        (240, Fraction(60)),
        (12, 0),
    ],
)
def test_footage_gets_the_nearest_programme_rate(measured: float, rate: Fraction) -> None:
    assert nearest_rate(measured) == (rate or RATES[0])


@given(st.integers(0, 10**7), st.sampled_from(RATES))
def test_a_frame_start_rounds_to_its_own_frame(frame: int, rate: Fraction) -> None:
    assert frames_from_seconds(seconds_from_frames(frame, rate), rate) == frame


@given(st.fractions(0, 10**5), st.sampled_from(RATES))
def test_rounding_is_never_off_by_more_than_half_a_frame(seconds: Fraction, rate: Fraction) -> None:
    assert abs(frames_from_seconds(seconds, rate) - seconds * rate) <= Fraction(1, 2)
