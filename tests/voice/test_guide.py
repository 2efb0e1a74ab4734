"""The guide voice: word times that are in the sound, and a cache that tells nothing else."""

import re
from pathlib import Path

import numpy as np
import pytest

from chapto.demo.story import SCRIPT
from chapto.document.script import words_of
from chapto.voice.espeak import VoiceError, say
from chapto.voice.guide import LEVEL, RATE, GuideVoice

TEXT = "Watch the knee here, it cuts across the half-guard. Then she's past, and 3 points."


def test_every_word_has_its_time_in_order(guide: GuideVoice) -> None:
    line = guide.speak(TEXT).line
    assert len(line.words) == len(words_of(TEXT))
    for (start, end), (following, _) in zip(line.words, line.words[1:], strict=False):
        assert 0 <= start < end <= following
    assert line.words[-1][1] <= line.seconds


@pytest.mark.parametrize("pace", [160, 190, 260])
def test_the_voice_keeps_about_the_pace_it_is_given(guide: GuideVoice, pace: int) -> None:
    """160 to 260 words a minute are usual (common practice); the voice may be 6 % off."""
    texts = [re.sub(r"@\w+", "", line.words) for talk in SCRIPT for line in talk.lines]
    lines = [guide.speak(text, pace=pace).line for text in texts]
    minutes = sum(float(line.seconds) for line in lines) / 60
    assert sum(len(line.words) for line in lines) / minutes == pytest.approx(pace, rel=0.06)


def test_a_word_that_starts_after_a_pause_starts_where_the_sound_does(guide: GuideVoice) -> None:
    """Found in the samples: silence before the word's start, sound right after it."""
    speech = guide.speak("Wait for it. Now! She goes.")
    start = round(speech.line.words[3][0] * RATE)
    before, after = speech.samples[start - RATE // 12 : start], speech.samples[start : start + RATE // 8]
    assert np.abs(before).max() < 0.2 * np.abs(after).max()


def test_the_level_is_the_same_whatever_is_said(guide: GuideVoice) -> None:
    for text in ("Short.", TEXT):
        samples = guide.speak(text).samples
        sounding = samples[np.abs(samples) > 0.02]
        assert np.sqrt(np.mean(sounding**2)) == pytest.approx(LEVEL, rel=0.25)
        assert np.abs(samples).max() <= 0.97 + 1e-6


def test_a_line_is_spoken_once_and_then_comes_from_the_cache(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    first = GuideVoice(tmp_path).speak("The hips follow.")

    def never(*_: object) -> None:
        raise AssertionError("spoken again")

    monkeypatch.setattr("chapto.voice.guide.say", never)
    again = GuideVoice(tmp_path).speak("The hips follow.")
    assert again.line == first.line
    assert np.allclose(again.samples, first.samples, atol=1e-4)
    with pytest.raises(AssertionError):
        GuideVoice(tmp_path).speak("The hips follow.", pace=200)


def test_a_damaged_cache_file_is_made_anew(tmp_path: Path) -> None:
    line = GuideVoice(tmp_path).speak("The grip breaks.").line
    for file in tmp_path.iterdir():
        file.write_bytes(file.read_bytes()[:100])
    again = GuideVoice(tmp_path).speak("The grip breaks.").line
    assert [a for a, _ in again.words] == [a for a, _ in line.words]


def test_an_empty_line_is_silent(guide: GuideVoice) -> None:
    assert guide.speak("  ").line.seconds == 0


def test_an_unknown_voice_is_said_in_a_sentence() -> None:
    with pytest.raises(VoiceError, match="no guide voice “klingon-x”"):
        say("hello", "klingon-x", 190)


def test_a_word_before_a_pause_ends_where_its_sound_does_not_where_the_next_begins(guide: GuideVoice) -> None:
    line = guide.speak("Wait for it. Now! She goes.").line
    gap = line.words[3][0] - line.words[2][1]
    assert gap > 0.1
