"""What becomes of a take: cleaned, cut, joined, hurried, written down, and told apart by voice."""

from __future__ import annotations

from dataclasses import replace
from fractions import Fraction as F
from pathlib import Path

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from scipy.signal import butter, resample_poly, sosfilt

from chapto.demo.story import demo_breakdown
from chapto.demo.takes import TAKES, know_words, with_takes
from chapto.document.breakdown import Breakdown, DocumentError
from chapto.document.edit_script import set_narrator
from chapto.document.edit_takes import add_take, change_take, cut_out, take_back_cut
from chapto.document.script import words_of
from chapto.document.takes import TakeOf
from chapto.document.takes_by_beat import take_problems
from chapto.lexicon.lexicon import shipped_lexicon
from chapto.lexicon.spelling import Spelling
from chapto.media.loudness import integrated, true_peak
from chapto.media.sound import RATE, FootageSound, load_sound
from chapto.media.stretch import stretched
from chapto.pacing.styles import house_styles
from chapto.voice.as_said import text_as_said
from chapto.voice.cleaning import cleaned
from chapto.voice.espeak import VoiceError
from chapto.voice.finding.changed_part import changed_part
from chapto.voice.finding.comparing import AddedWord, FoundWord, Said
from chapto.voice.finding.words_found import WordsFound, find_words
from chapto.voice.listening.listen import HeardPhrase, HeardWord, listen
from chapto.voice.listening.model import INSTALL
from chapto.voice.punch_in import Punch, joined
from chapto.voice.recording.loopback import delay_of, pattern
from chapto.voice.recording.stand_in_speech import read_line
from chapto.voice.taken_line import TakenLine
from chapto.voice.takes import lines_of_take, speak_takes
from chapto.voice.who_speaks import proposed_narrators
from chapto.voice.written_down import parts_said, written_down
from tests.voice.test_words_found import READINGS, noisy, reading


@pytest.fixture(scope="module")
def demo() -> Breakdown:
    know_words()
    return with_takes(demo_breakdown(TAKES), TAKES)


def as_heard(name: str, decibels: float | None) -> tuple[np.ndarray, np.ndarray]:
    """A read sentence between silences, and the same with noise so far under it: −1…1 at 48 kHz."""
    sound = np.pad(reading(name)[0], 16_000)
    both = (sound, sound if decibels is None else noisy(sound, decibels))
    clean, worse = (resample_poly(x / 32768.0, 3, 1) for x in both)
    return clean, worse


def over_noise(clean: np.ndarray, heard: np.ndarray) -> float:
    """Decibels of speech over all that is not speech, frame by frame, each frame's own gain taken out."""
    rows = [x[: len(x) // 960 * 960].reshape(-1, 960) for x in (clean, heard)]
    gains = (rows[0] * rows[1]).sum(1) / np.maximum((rows[0] ** 2).sum(1), 1e-12)
    rest = ((rows[1] - gains[:, None] * rows[0]) ** 2).sum(1)
    active = (rows[0] ** 2).mean(1) > 1e-4
    return float(np.mean(10 * np.log10((gains**2 * (rows[0] ** 2).sum(1))[active] / np.maximum(rest[active], 1e-12))))


@pytest.mark.parametrize(("decibels", "better"), [(None, -50.0), (20.0, 0.5), (10.0, 1.2)])
def test_a_take_is_cleaned_to_one_loudness_and_never_made_worse(decibels: float | None, better: float) -> None:
    """−19 LUFS a voice (common practice for one channel). Clean speech stays 30 dB over what cleaning changes."""
    for name in READINGS[:2]:
        clean, worse = as_heard(name, decibels)
        given_sound = np.round(np.stack([worse, worse], 1) * 32767).clip(-32768, 32767).astype(np.int16)
        out = np.concatenate(list(cleaned(FootageSound(given_sound))))
        assert len(out) == len(worse) and integrated(out[:, :1]) == pytest.approx(-19, abs=0.5)
        assert true_peak(out) <= -1.9
        rumble = butter(2, 80, "high", fs=RATE, output="sos")
        wanted, before = sosfilt(rumble, clean), sosfilt(rumble, worse)
        after = over_noise(wanted, out[:, 0].astype(float))
        assert after > (30 if decibels is None else over_noise(wanted, before) + better)


def test_speech_is_hurried_without_its_pitch(demo: Breakdown) -> None:
    tone = np.sin(2 * np.pi * 220 * np.arange(RATE * 2) / RATE).astype(np.float32) * 0.3
    for tempo in (0.92, 1.08):
        out = stretched(tone, tempo)
        assert len(out) == round(len(tone) / tempo)
        middle = out[len(out) // 4 : len(out) // 4 + RATE]
        assert np.argmax(np.abs(np.fft.rfft(middle * np.hanning(len(middle))))) == 220
    style = house_styles()["stop-and-talk"]
    plain = speak_takes(demo, TAKES / "x.chapto", style).speeches["b4"].line
    for tempo, allowed in ((F(21, 20), F(21, 20)), (F(3, 2), 1 + style.hurry), (F(2, 3), 1 - style.linger)):
        taken = next(t for t in demo.takes if t.subject == "b4")
        spoken = speak_takes(change_take(demo, taken.id, tempo=tempo), TAKES / "x.chapto", style).speeches["b4"]
        assert float(spoken.line.seconds * allowed / plain.seconds) == pytest.approx(1, abs=1e-3)
        assert float(spoken.line.words[3][0] * allowed) == pytest.approx(float(plain.words[3][0]), abs=1e-3)
        assert len(spoken.samples) == pytest.approx(float(spoken.line.seconds) * RATE, abs=2)


@given(st.lists(st.tuples(st.integers(0, 99), st.integers(1, 40)), max_size=8), st.integers(0, 100))
def test_cuts_stay_in_order_and_apart_and_come_back(cuts: list[tuple[int, int]], at: int) -> None:
    b = add_take(Breakdown(title="x"), path="a.flac", fingerprint="0-0", seconds=F(6), of=TakeOf.WHOLE)
    take = b.takes[0]
    for start, length in cuts:
        b = cut_out(b, take.id, F(start, 20), F(start + length, 20))
    assert not list(take_problems(b))
    back = take_back_cut(b, take.id, F(at, 20))
    assert not any(a <= F(at, 20) < z for a, z in back.takes[0].cuts)
    with pytest.raises(DocumentError):
        cut_out(b, take.id, take.seconds, take.seconds + 1)


def a_line(words: list[FoundWord], added: tuple[AddedWord, ...] = ()) -> TakenLine:
    spans = tuple((i * 0.4, i * 0.4 + 0.3) for i in range(len(words)))
    return TakenLine("t1", tuple(words), added, spans, ((0.0, 10.0),))


def test_the_text_becomes_what_was_said() -> None:
    words = ("Take", "the", "base", "away", "first,", "then", "finish.")
    said = [FoundWord(Said.AS_WRITTEN, (0, 1))] * 7
    said[2] = FoundWord(Said.OTHERWISE, (0, 1), "balance")
    said[5] = FoundWord(Said.LEFT_OUT, None)
    added = (AddedWord(1, "um", (0.31, 0.39)), AddedWord(6, "always", (2.31, 2.39)))
    line = a_line(said, added)
    assert text_as_said(words, line) == "Take the balance away first, always finish."
    assert text_as_said(words, line, only=2) == "Take the balance away first, then finish."
    unknown = a_line([replace(w, heard="") for w in said])
    assert text_as_said(words, unknown, only=2).split() == list(words)


def test_a_changed_line_is_found_alone(demo: Breakdown) -> None:
    takes = demo.takes[:6]
    sound = np.concatenate(
        [load_sound(TAKES / t.path, t.fingerprint).read(0, round(t.seconds * RATE))[::3, 0] for t in takes]
    )
    heard = np.asarray(sound * 32767, dtype=np.int16)
    words = [w for t in takes for w in words_of(demo.find_beat(t.subject)[1].text)]
    known = find_words(heard, words)
    new = [*words[:70], "carefully", *words[71:]]
    part = changed_part(words, new, known)
    assert part is not None and part.new_end - part.first < 12
    again = part.found_again(heard, new, 0.0, lambda: False)
    assert len(again.words) == len(new) and again.words[70].state is not Said.AS_WRITTEN
    whole = find_words(heard, new).words
    differ = [i for i, (a, z) in enumerate(zip(again.words, whole, strict=True)) if a.state is not z.state]
    assert len(differ) <= 3
    assert changed_part(words, list(reversed(words)), known) is None
    assert changed_part(words, words, known) is None and changed_part(["a"], ["b"], WordsFound((), (), ())) is None


def test_voices_on_one_track_are_told_apart(demo: Breakdown) -> None:
    """All lines of the demo in one file: two are given to the wrong narrator, and then all to one."""
    pieces, lines, at = [], {}, 0.0
    for take in demo.takes:
        sound = load_sound(TAKES / take.path, take.fingerprint)
        line = lines_of_take(demo, take, TAKES / take.path)[take.subject]
        assert line is not None
        lines[take.subject] = replace(line, kept=tuple((a + at, z + at) for a, z in line.kept))
        pieces.append((sound.read(0, len(sound)) * 32767).astype(np.int16))
        at += len(sound) / RATE
    track = FootageSound(np.concatenate(pieces))
    says = {beat.id: demo.narrator(beat).id for _, beat in demo.beats()}
    brams = {k for k, v in says.items() if v == "n2"}
    assert proposed_narrators(demo, lines, track) == {}
    wrong = set_narrator(set_narrator(demo, "b3", "n1"), "b10", "n2")
    assert proposed_narrators(wrong, lines, track) == {"b3": "n2", "b10": "n1"}
    for beat in brams:
        demo = set_narrator(demo, beat, "n1")
    assert proposed_narrators(demo, lines, track) == dict.fromkeys(brams, "n2")


def test_a_recording_before_its_script_is_written_down_from_its_captions(tmp_path: Path) -> None:
    project, source = tmp_path / "p.chapto", tmp_path / "talk.flac"
    source.write_bytes((TAKES / "b6.flac").read_bytes())
    source.with_suffix(".srt").write_text("1\n00:00:00,900 --> 00:00:03,000\nTake the base away first,\nthen finish.\n")
    found = written_down(source, project, Spelling(shipped_lexicon()))
    b = found.put_into(Breakdown(title="New"), "")
    assert [beat.text for _, beat in b.beats()] == ["Take the base away first, then finish."]
    spoken = speak_takes(b, project)
    assert spoken.troubles == () and list(spoken.lines) == [b.script[0].beats[0].id]


def test_speech_is_recognised_without_a_script() -> None:
    """Real read speech: at most one word in seventeen wrong, none where nobody speaks."""
    pytest.importorskip("faster_whisper", reason=INSTALL)
    sound, words, (start, end) = reading(READINGS[0])
    found = listen(sound)
    heard = " ".join(p.text for p in found).replace("Mr.", "mister").replace(".", "").casefold().split()
    assert sum(a != z for a, z in zip(heard, words, strict=True)) <= len(words) / 17
    assert found[0].words[0].start == pytest.approx(start, abs=0.15)
    assert found[-1].words[-1].end == pytest.approx(end, abs=0.15)
    assert listen(np.zeros(RATE, np.int16)) == ()


def test_what_was_recognised_becomes_beats_at_pauses() -> None:
    def phrase(at: float, n: int) -> HeardPhrase:
        words = tuple(HeardWord(f"w{i}", at + i * 0.3, at + i * 0.3 + 0.2) for i in range(n))
        return HeardPhrase(words, "")

    (part,) = parts_said([phrase(0, 5), phrase(2, 4), phrase(6, 30), phrase(15.2, 3)])
    assert [len(beat.text.split()) for beat in part.beats] == [9, 30, 3]


def test_the_delay_of_a_device_is_measured_in_noise() -> None:
    noise = np.random.default_rng(5).normal(0, 0.01, 4 * RATE)
    for delay in (0.02, 0.35):
        heard = noise.copy()
        at = round(delay * RATE)
        heard[at : at + len(pattern())] += 0.05 * pattern()
        assert delay_of((heard * 32767).astype(np.int16)[:, None]) == pytest.approx(delay, abs=0.001)
    assert delay_of((noise * 32767).astype(np.int16)[:, None]) is None


def test_a_slip_of_the_stand_in_is_cut_out_of_the_demo(demo: Breakdown) -> None:
    """Every line of the demo is spoken by its take, within 4 MB, and nothing in it is told as otherwise."""
    spoken = speak_takes(demo, TAKES / "x.chapto", only_known=True)
    assert spoken.pending == () and spoken.troubles == ()
    assert set(spoken.speeches) == {beat.id for _, beat in demo.read_beats() if words_of(beat.text)}
    assert sum(line.differences for line in spoken.lines.values()) == 0
    assert max(p.stat().st_size for p in TAKES.glob("*.flac")) < 4_000_000
    assert read_line("One, two.", voice="en-us+f2").words[1][0] > 0.2


def test_words_read_again_are_joined_and_what_was_cut_stays_out(tmp_path: Path) -> None:
    """Each second of the old take has a level of its own; words 1 and 2 come from the new one."""
    old = np.repeat(np.arange(1, 9, dtype=np.int16) * 1000, RATE)
    sounds = [FootageSound(np.stack([x, x], 1)) for x in (old, np.full(4 * RATE, 20_000, np.int16))]
    spans = tuple((i + 1.0, i + 1.6) for i in range(6))
    line = TakenLine("t1", (), (), spans, ((0.9, 4.9), (5.9, 7.0)))
    found = WordsFound(tuple(FoundWord(Said.AS_WRITTEN, s) for s in ((1.0, 1.5), (1.8, 2.4))), (), ())
    joined(sounds[0], line, sounds[1], found, Punch("b1", "t1", 1, 3), tmp_path / "new.wav")
    new = load_sound(tmp_path / "new.wav", "joined")
    heard = np.round(new.read(0, len(new))[:, 0] * 32.768).astype(int)
    seconds = {level: (heard == level).sum() / RATE for level in (2, 3, 5, 6, 7, 20)}
    # Words 1 and 2 are said from 2.0 to 3.6 s; the new reading is heard from the middle of the gaps round them.
    assert seconds[20] == pytest.approx(1.4 + 2 * 0.12, abs=0.05) and seconds[3] < 0.01
    assert seconds[2] == pytest.approx(0.8, abs=0.05) and seconds[7] == pytest.approx(1.0, abs=0.05)
    assert seconds[6] == pytest.approx(0.1, abs=0.03) and seconds[5] == pytest.approx(0.9, abs=0.05)
    nothing = WordsFound((FoundWord(Said.LEFT_OUT, None),) * 2, (), ())
    with pytest.raises(VoiceError, match="are not in the new recording"):
        joined(sounds[0], line, sounds[1], nothing, Punch("b1", "t1", 1, 3), tmp_path / "other.wav")
