"""Estimated word times and where phrases begin."""

from fractions import Fraction

import pytest
from hypothesis import given
from hypothesis import strategies as st

from chapto.pacing.spoken import SpokenLine, estimate, phrase_starts
from tests.document.samples import WORDS


def test_at_the_usual_pace_190_words_take_a_minute() -> None:
    """190 words a minute is the typical narrator's pace (common practice)."""
    line = estimate(" ".join(["hold"] * 190), 190)
    assert line.seconds == 60


def test_pauses_come_on_top_at_commas_and_stops_but_not_at_the_end() -> None:
    plain, marked = estimate("one two three four", 200), estimate("one, two. three four.", 200)
    assert marked.seconds - plain.seconds == pytest.approx(0.18 + 0.38, abs=0.02)


@given(st.lists(st.sampled_from(WORDS), min_size=1, max_size=30), st.integers(60, 400))
def test_words_follow_one_another_without_overlap(words: list[str], pace: int) -> None:
    line = estimate(" ".join(words), pace)
    assert len(line.words) == len(words)
    for (start, end), (following, _) in zip(line.words, line.words[1:], strict=False):
        assert 0 <= start < end <= following
    assert line.words[-1][1] == line.seconds


def test_an_empty_text_takes_no_time() -> None:
    assert estimate("  ", 190) == SpokenLine((), Fraction(0))


def test_phrases_begin_after_commas_and_stops() -> None:
    assert phrase_starts("Now the pass. Her knee lands, and stays – there") == (0, 3, 6, 9)


def test_a_line_is_parted_in_the_middle_of_a_gap() -> None:
    line = SpokenLine(((Fraction(0), Fraction(1)), (Fraction(2), Fraction(3))), Fraction(3))
    assert [line.cut_before(i) for i in range(3)] == [0, Fraction(3, 2), 3]
