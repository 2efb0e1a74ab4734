"""Words are found where they are said: read speech, silences of known place, a voice that tells its times."""

from __future__ import annotations

from pathlib import Path

import numpy as np
import pytest
from scipy.io import wavfile
from scipy.signal import resample_poly

from chapto.document.script import word_spans, words_of
from chapto.voice.espeak import say
from chapto.voice.finding.comparing import Said, compared
from chapto.voice.finding.phrases import RATE
from chapto.voice.finding.pronouncing import from_ipa, shipped_dictionary, spoken_form, without_r
from chapto.voice.finding.recogniser import Heard
from chapto.voice.finding.words_found import find_words

SPEECH = Path(__file__).parent / "speech"
READINGS = sorted(p.stem for p in SPEECH.glob("*.wav"))
LINE = "She waits for him to lift his hands, and here she drops her hips underneath them. From there she does not lift."


def reading(name: str) -> tuple[np.ndarray, list[str], tuple[float, float]]:
    _, sound = wavfile.read(SPEECH / f"{name}.wav")
    lab = (SPEECH / f"{name}.lab").read_text().split()
    return sound, (SPEECH / f"{name}.txt").read_text().split(), (float(lab[0]), float(lab[3]))


def noisy(sound: np.ndarray, decibels: float) -> np.ndarray:
    """`sound` with pink noise so far under its speech."""
    noise = np.fft.rfft(np.random.default_rng(1).normal(size=len(sound)))
    noise[1:] /= np.sqrt(np.arange(1, len(noise)))
    shaped = np.fft.irfft(noise, len(sound))
    level = np.sqrt(np.mean(sound[np.abs(sound) > 200].astype(float) ** 2)) * 10 ** (-decibels / 20)
    return np.clip(sound + shaped / shaped.std() * level, -32768, 32767).astype(np.int16)


def spoken(text: str, voice: str = "en-us") -> tuple[np.ndarray, dict[int, float]]:
    """The guide voice, between silences, and the second at which it begins each word."""
    raw = say(text, voice, 180)
    sound = np.pad(resample_poly(raw.samples.astype(float), RATE, raw.rate), 6000).astype(np.int16)
    spans = word_spans(text)
    return sound, {
        next(i for i, (a, z) in enumerate(spans) if a <= place < z): ms / 1000 + 6000 / RATE for place, ms in raw.words
    }


def test_the_edges_of_read_sentences_are_those_of_their_labels() -> None:
    """Utterance edges as the corpus labels them, for whole sentences of a reader."""
    off = []
    for name in READINGS:
        sound, words, (start, end) = reading(name)
        spans = [w.span for w in find_words(sound, words).words if w.span]
        off += [abs(spans[0][0] - start), abs(spans[-1][1] - end)]
    assert np.median(off) <= 0.03 and max(off) <= 0.10


def spliced(name: str) -> tuple[np.ndarray, list[str], list[tuple[int, float, float]]]:
    """A reading with 0.4 s of silence put in wherever it is nearly silent between two words, so that no word is torn.

    For each word after one: its number, and the seconds at which what is before it ends and at which it begins.
    """
    sound, words, _ = reading(name)
    spans = [w.span for w in find_words(sound, words).words]
    loud = np.convolve(np.abs(sound.astype(float)), np.ones(160) / 160, "same")
    pieces, truth, taken = [], [], 0
    for k in range(2, len(words) - 1):
        before, here = spans[k - 1], spans[k]
        if before and here:
            about = round((before[1] + here[0]) / 2 * RATE) - 960
            cut = about + int(np.argmin(loud[about : about + 1920]))
            if loud[cut] > 0.03 * loud.max():
                continue
            pieces += [sound[taken:cut], np.zeros(6400, np.int16)]
            truth.append((k, (cut + len(truth) * 6400) / RATE, (cut + (len(truth) + 1) * 6400) / RATE))
            taken = cut
    return np.concatenate([*pieces, sound[taken:]]), words, truth


@pytest.mark.parametrize(("decibels", "most"), [(None, 0.10), (20, 0.125)])
def test_words_end_and_begin_at_silences_put_between_them(decibels: float | None, most: float) -> None:
    """Nine of ten edges within `most` seconds; in noise the aim of 0.10 is not met yet."""
    off = []
    for name in READINGS:
        sound, words, truth = spliced(name)
        found = find_words(sound if decibels is None else noisy(sound, decibels), words).words
        for k, end, start in truth:
            off += [abs(s[1] - end) for s in [found[k - 1].span] if s] + [
                abs(s[0] - start) for s in [found[k].span] if s
            ]
    assert len(off) >= 28
    assert np.median(off) <= 0.04 and np.percentile(off, 90) <= most


def test_the_guide_voice_is_found_where_it_says_it_speaks() -> None:
    sound, begins = spoken(LINE)
    found = find_words(sound, words_of(LINE)).words
    assert np.median([abs(w.span[0] - begins[i]) for i, w in enumerate(found) if w.span and i in begins]) <= 0.03


def test_what_is_said_otherwise_left_out_and_added_is_told() -> None:
    sound, _ = spoken(LINE)
    assert find_words(sound, words_of(LINE)).as_written >= len(words_of(LINE)) - 1
    for written in (LINE.replace("underneath", "because of"), LINE.replace("waits", "patiently waits")):
        words = words_of(written)
        odd = next(i for i, w in enumerate(words) if w not in words_of(LINE))
        assert find_words(sound, words).words[odd].state is not Said.AS_WRITTEN
    without = words_of(LINE.replace(" underneath", ""))
    after = without.index("them.")

    def is_told() -> bool:
        found = find_words(spoken(LINE)[0], without)
        return bool(found.added) or any(not w.said_as_written for w in found.words[after - 1 : after + 1])

    # The guide voice is never quite the same; at times the words beside it are blamed instead, seldom none.
    assert any(is_told() for _ in range(4))


def test_silence_and_noise_hold_no_words() -> None:
    for sound in (np.zeros(RATE * 3, np.int16), np.random.default_rng(2).normal(0, 60, RATE * 3).astype(np.int16)):
        found = find_words(sound, ["one", "two", "—"])
        assert found.phrases == () and [w.span for w in found.words] == [None] * 3


def test_a_mark_that_stands_alone_is_not_missed() -> None:
    heard = [Heard("one", 0, 1, -10), Heard("um", 1, 2, -10), Heard("two", 2, 3, -10)]
    found = compared(["one", "", "two"], heard)
    assert [w.state for w in found.words] == [Said.AS_WRITTEN] * 3
    assert [(a.before, a.heard, a.is_filler) for a in found.added] == [(2, "um", True)]


def test_words_have_the_phones_of_the_dictionary_or_of_rules() -> None:
    """“collar” and “her” as the CMU Pronouncing Dictionary lists them; names by espeak-ng."""
    known = shipped_dictionary()
    assert known.phones("collar") == ("K AA L ER", "K AA L AH") and "HH ER" in known.phones("her")
    assert known.phones("knee-on-belly")[0] == "N IY AA N B EH L IY"
    assert from_ipa("tˈæɹənt") == "T AE R AH N T" and without_r("HH AA R D ER") == "HH AA D AH"
    assert (spoken_form("“Guard,”"), spoken_form("—"), spoken_form("don’t")) == ("guard", "", "don't")
