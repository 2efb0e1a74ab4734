"""Estimated word times and where phrases begin."""

from fractions import Fraction
from pathlib import Path

import pytest
from hypothesis import given
from hypothesis import strategies as st

from chapto.demo.story import demo_breakdown
from chapto.pacing.spoken import SpokenLine, estimate, phrase_starts
from chapto.voice.guide import GuideVoice
from tests.document.samples import WORDS

F = Fraction


def test_at_the_usual_pace_190_words_take_a_minute() -> None:
    """190 words a minute is the typical narrator's pace (common practice)."""
    line = estimate(" ".join(["hold"] * 190), 190)
    assert line.seconds == 60


def test_a_pace_counts_the_pauses_at_commas_and_stops_and_there_is_none_at_the_end() -> None:
    """Words a minute are measured over speech with its pauses, as narrators' are (common practice)."""
    text = "one two, three four five six seven eight nine. ten eleven twelve."
    plain, marked = estimate(text.replace(",", "").replace(".", ""), 200), estimate(text, 200)
    assert marked.seconds == plain.seconds == 60 * F(12) / 200
    gaps = [b[0] - a[1] for a, b in zip(marked.words, marked.words[1:], strict=False)]
    assert (gaps[1], gaps[8]) == (F(18, 100), F(38, 100)) and sum(gaps) == F(56, 100)
    assert marked.words[-1][1] == marked.seconds


def test_where_nearly_every_word_ends_a_sentence_the_pauses_are_shorter() -> None:
    line = estimate("one. two. three. four.", 200)
    assert line.seconds == 60 * F(4) / 200
    assert all(z - a > F(1, 10) for a, z in line.words)


def test_estimate_and_guide_voice_agree_on_the_pace_of_the_demo(tmp_path: Path) -> None:
    b, guide = demo_breakdown(tmp_path), GuideVoice(tmp_path)
    told = [(beat.text, b.narrator(beat)) for _, beat in b.beats()]
    estimated = sum(estimate(text, who.pace).seconds for text, who in told)
    spoken = sum(guide.speak(text, voice=who.guide_voice, pace=who.pace).line.seconds for text, who in told)
    assert float(spoken / estimated) == pytest.approx(1, abs=0.05)


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
