"""Timecode against SMPTE ST 12-1 (values from memory; the standard is the source)."""

from fractions import Fraction

import pytest
from hypothesis import given
from hypothesis import strategies as st

from chapto.clock.rates import RATES, ClockError
from chapto.clock.timecode import clock_text, frames_from_timecode, timecode_from_frames

NTSC, NTSC60 = Fraction(30000, 1001), Fraction(60000, 1001)


@pytest.mark.parametrize(
    ("frame", "text"),
    [(0, "00:00:00;00"), (1799, "00:00:59;29"), (1800, "00:01:00;02"), (17982, "00:10:00;00"), (107892, "01:00:00;00")],
)
def test_drop_frame_skips_numbers_as_the_standard_says(frame: int, text: str) -> None:
    assert timecode_from_frames(frame, NTSC) == text
    assert frames_from_timecode(text, NTSC) == frame


def test_at_double_rate_four_numbers_are_skipped() -> None:
    assert timecode_from_frames(35964, NTSC60) == "00:10:00;00"
    assert timecode_from_frames(3600, NTSC60) == "00:01:00;04"


def test_skipped_numbers_are_refused() -> None:
    with pytest.raises(ClockError, match="does not exist"):
        frames_from_timecode("00:01:00;00", NTSC)
    assert frames_from_timecode("00:10:00;00", NTSC) == 17982


@pytest.mark.parametrize("text", ["", "1:2:3", "00:00:60:00", "00:00:00:25", "ab:cd:ef:gh"])
def test_impossible_timecode_is_refused_in_a_sentence(text: str) -> None:
    with pytest.raises(ClockError, match="is no timecode"):
        frames_from_timecode(text, Fraction(25))


@given(st.integers(0, 3_000_000), st.sampled_from(RATES))
def test_timecode_and_back_is_the_same_frame(frame: int, rate: Fraction) -> None:
    assert frames_from_timecode(timecode_from_frames(frame, rate), rate) == frame


@given(st.integers(0, 500_000), st.sampled_from(RATES))
def test_a_later_frame_has_a_later_timecode(frame: int, rate: Fraction) -> None:
    assert timecode_from_frames(frame, rate) < timecode_from_frames(frame + 1, rate)


@pytest.mark.parametrize(
    ("seconds", "text"),
    [(0, "0:00"), (59.99, "0:59"), (60, "1:00"), (3599, "59:59"), (3600, "1:00:00"), (-5, "−0:05")],
)
def test_clock_text_cuts_off_fractions(seconds: float, text: str) -> None:
    assert clock_text(seconds) == text


def test_clock_text_with_tenths() -> None:
    assert clock_text(Fraction("87.29"), tenths=True) == "1:27.2"
