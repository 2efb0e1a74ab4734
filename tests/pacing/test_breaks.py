"""Unpunctuated talk falls into beats and phrases as people talk."""

from __future__ import annotations

from itertools import pairwise

import pytest
from bench.hour_of_talk import PACE, talk
from hypothesis import given
from hypothesis import strategies as st

from chapto.demo.script import SCRIPT
from chapto.pacing.breaks import MOST, beat_starts, is_unpunctuated
from chapto.pacing.openers import OPENS, weights
from chapto.pacing.spoken import pause_after, phrase_starts


@pytest.mark.parametrize("name", ["own-roll", "walk-through"])
def test_talk_falls_into_beats_at_its_openers(name: str) -> None:
    """6 to 12 beats a minute at 190 words (common practice), none over 45 words, four of five begin at an opener."""
    beats = opened = count = 0
    for _, words in talk(name):
        starts = beat_starts(words)
        heavy = weights(words)
        beats, count = beats + len(starts), count + len(words)
        opened += sum(i == 0 or heavy[i] >= OPENS for i in starts)
        assert all(z - a <= MOST for a, z in pairwise((*starts, len(words))))
        if len(words) >= 16:
            assert all(z - a >= 8 for a, z in pairwise((*starts, len(words))))
    assert 6 <= beats / count * PACE <= 12
    assert opened / beats >= 0.8


@given(st.lists(st.sampled_from(["so", "now", "he", "the", "knee", "slide", "and", "then", "okay"]), max_size=300))
def test_every_word_is_in_one_beat_and_no_beat_is_too_long(words: list[str]) -> None:
    starts = beat_starts(words)
    assert starts == tuple(sorted(set(starts))) and (not words or starts[0] == 0)
    assert all(z - a <= MOST for a, z in pairwise((*starts, len(words))))


def test_a_pause_speaks_for_a_break() -> None:
    text = "pull the arm across the body keep the head low while walking round to the other side before going back"
    words = text.split()
    pauses = [0.0] * len(words)
    pauses[10] = 1.0
    assert beat_starts(words) == (0,)
    assert beat_starts(words, pauses) == (0, 10)


def test_a_name_of_several_words_is_never_torn() -> None:
    text = " ".join(["she has the rear naked choke and the half guard and the single leg takedown"] * 12).split()
    for i in beat_starts(text)[1:]:
        assert text[i] not in ("naked", "choke", "guard", "leg", "takedown")


def test_punctuated_text_is_no_such_talk_and_its_phrases_stay_where_its_marks_are() -> None:
    for line in (line.words for part in SCRIPT for line in part.lines):
        words = line.split()
        assert not is_unpunctuated(words)
        marks = tuple(i for i in range(len(words)) if i == 0 or pause_after(words[i - 1]) > 0)
        assert phrase_starts(line) == marks


def test_phrases_inside_an_unpunctuated_beat_begin_where_something_new_does() -> None:
    text = "because when he moves something opens and here he tries to stand up but now i have the second hook"
    words, starts = text.split(), phrase_starts(text)
    assert [words[i] for i in starts] == ["because", "and", "but"]
