"""The sound of the programme, measured in samples."""

import dataclasses
import itertools
from fractions import Fraction

import numpy as np
import pytest
from msgspec.structs import replace

from chapto.document import edit_music, edit_script
from chapto.document.breakdown import Breakdown
from chapto.document.treatments import Slow
from chapto.media.sound import FootageSound
from chapto.pacing.fitted import FitBeat
from chapto.pacing.saying import Saying
from chapto.pacing.spoken import SpokenLine
from chapto.programme.block import PlacedBlock
from chapto.programme.compile import compile_programme
from chapto.programme.programme import Programme
from chapto.render.mix import RAMP, RATE, Mix
from tests.document.samples import small

F = Fraction


def gym() -> FootageSound:
    """A steady 200 Hz tone at a tenth of full scale, 120 s long."""
    tone = 3276 * np.sin(2 * np.pi * 200 * np.arange(120 * RATE) / RATE)
    return FootageSound(np.repeat(tone.astype(np.int16)[:, None], 2, axis=1))


def mixed(b: Breakdown, *, voice: bool = True) -> tuple[Mix, np.ndarray]:
    """The mix with a voice of steady 1 for every beat (or none), and all its samples."""
    p = compile_programme(b, {})
    lengths = {w.beat: max(x.voice_out for x in p.voice if x.beat == w.beat) for w in p.words}
    speech = {k: np.full(round(v * RATE), 0.2, np.float32) for k, v in lengths.items()} if voice else {}
    mix = Mix(b, p, speech, {"f1": gym()})
    return mix, mix.read(0, mix.length)


def level(samples: np.ndarray) -> float:
    return float(20 * np.log10(np.sqrt(np.mean(samples**2)) + 1e-9))


def test_the_gym_is_at_least_20_db_lower_while_someone_speaks() -> None:
    """W3C WCAG 2.x, 1.4.7."""
    b = edit_script.rewrite(small(), "b1", "Watch this.")
    p = compile_programme(b, {})
    _, whole = mixed(b, voice=False)
    speaking = slice(round(p.voice[0].at * RATE), round(p.voice[0].until * RATE))
    quiet = slice(round((p.voice[0].until + F(1, 2)) * RATE), round((p.voice[0].until + 2) * RATE))
    assert level(whole[quiet]) - level(whole[speaking]) >= 20


def test_it_goes_down_and_up_in_ramps_of_150_milliseconds() -> None:
    b = edit_script.rewrite(small(), "b1", "Watch this.")
    p = compile_programme(b, {})
    _, whole = mixed(b, voice=False)
    end = float(p.voice[0].until)
    envelope = [np.abs(whole[round((end + k * 0.025) * RATE) :][: RATE // 200]).max() for k in range(9)]
    assert RAMP == 0.150
    assert envelope[0] < 0.15 * envelope[8]
    assert all(a <= b + 1e-3 for a, b in itertools.pairwise(envelope))
    assert envelope[6] == pytest.approx(envelope[8], rel=0.05)


def test_the_voice_is_heard_exactly_on_its_words() -> None:
    _, silent = mixed(replace(small(), footage=()))
    p = compile_programme(replace(small(), footage=()), {})
    heard = np.flatnonzero(np.abs(silent[:, 0]) > 0.19)
    starts = [round(x.at * RATE) for x in p.voice]
    assert abs(int(heard[0]) - starts[0]) < RATE * 0.01
    for phrase in p.voice:
        inside = silent[round(phrase.at * RATE) + 500 : round(phrase.until * RATE) - 500, 0]
        assert (np.abs(inside - 0.2) < 1e-6).all()


def test_slow_and_held_pictures_have_no_gym_sound() -> None:
    b = edit_script.treat(edit_script.rewrite(small(), "b1", "Watch this now please"), "b1", Slow(F(1, 2)))
    p = compile_programme(b, {})
    _, whole = mixed(b, voice=False)
    for x in p.passages:
        part = whole[round(x.watch_in / p.fps * RATE) : round(x.watch_out / p.fps * RATE)]
        assert bool(np.abs(part).max() > 0.001) == (x.rate == 1)


def test_the_sound_of_a_run_is_that_of_its_mat_time() -> None:
    p = compile_programme(small(), {})
    ramp = np.arange(120 * RATE, dtype=np.int64) // 4800
    sound = FootageSound(np.repeat(ramp.astype(np.int16)[:, None], 2, axis=1))
    mix = Mix(small(), p, {}, {"f1": sound})
    frame = round((p.voice[-1].until + F(1, 2)) * p.fps)
    mat = p.time_map.mat_at(frame)
    assert p.time_map.passage_at(frame).rate == 1
    assert mix.read(round(frame / p.fps * RATE), 10)[0, 0] * 32768 == pytest.approx(float(mat * 10) // 1, abs=1)


def test_reading_in_blocks_gives_the_same_as_reading_at_once() -> None:
    mix, whole = mixed(small())
    blocks = [mix.read(at, min(1024, mix.length - at)) for at in range(0, mix.length, 1024)]
    assert np.allclose(np.concatenate(blocks), whole, atol=1e-6)


def test_nothing_is_ever_louder_than_full_scale() -> None:
    p = compile_programme(small(), {})
    loud = {"b1": np.full(RATE * 20, 3.0, np.float32)}
    assert np.abs(Mix(small(), p, loud, {"f1": gym()}).read(0, RATE * 10)).max() <= 0.99


def test_the_gym_is_heard_at_the_very_moment_it_is_seen() -> None:
    """EBU R 37: sound at most 40 ms before and 60 ms after the picture. A click every 5 s of the footage; wherever a
    programme plays at its own speed, each is heard within a millisecond of when its frame comes."""
    b = edit_script.rewrite(small(), "b1", "Watch.")
    p = compile_programme(b, {})
    clicks = np.zeros(120 * RATE, np.int16)
    clicks[:: 5 * RATE] = 20_000
    mix = Mix(b, p, {}, {"f1": FootageSound(np.repeat(clicks[:, None], 2, axis=1))})
    whole = mix.read(0, mix.length)
    heard = np.flatnonzero(np.abs(whole[:, 0]) > 0.05) / RATE
    runs = [x for x in p.passages if x.rate == 1 and x.footage == "f1"]
    seen = [
        float(x.watch_in / p.fps + (mat - x.mat_in))
        for x in runs
        for mat in range(0, 120, 5)
        if x.mat_in + F(1, 5) < mat < x.mat_in + x.frames / p.fps - F(1, 5)
    ]
    assert len(seen) >= 1
    for second in seen:
        assert min(abs(heard - second), default=1.0) <= 0.001


def test_the_gym_does_not_dip_where_one_passage_goes_on_in_the_next() -> None:
    """Two sections over one stretch of footage that follows on itself: no seam is heard."""
    b = small()
    first, second = b.exchanges[0], replace(b.exchanges[0], id="x2", start=F(20), end=F(26))
    sections = tuple(
        replace(b.script[0], id=f"s{i}", exchange=x.id, beats=()) for i, x in enumerate((first, second), 1)
    )
    b = replace(b, exchanges=(first, second), script=sections, labels=())
    p = compile_programme(b, {})
    seam = next(
        y.watch_in for x, y in itertools.pairwise(p.passages) if x.rate == y.rate == 1 and x.mat_out == y.mat_in
    )
    mix = Mix(b, p, {}, {"f1": gym()})
    whole = mix.read(0, mix.length)
    at = round(seam / p.fps * RATE)
    assert level(whole[at - 2400 : at + 2400]) == pytest.approx(level(whole[at + 9600 : at + 14400]), abs=0.3)


def test_music_is_as_loud_as_wanted_goes_round_and_is_lowered_under_speech() -> None:
    """W3C WCAG 2.x, 1.4.7, for music as for the gym: 20 dB under speech."""
    b = edit_script.rewrite(replace(small(), footage=()), "b1", "Watch this.")
    b = edit_music.add_music(b, name="Tide", path="tide.wav", fingerprint="1-t", seconds=F(1))
    b = edit_music.change_music(b, "u1", gain=F(-6), cards=True)
    p = compile_programme(b, {})
    tone = FootageSound(np.full((RATE, 2), 8192, np.int16))
    whole = Mix(b, p, {}, {"u1": tone}).read(0, round(p.seconds * RATE))
    spoken, quiet = p.voice[0], p.voice[-1].until + F(1, 2)
    talking = whole[round((spoken.at + F(1, 5)) * RATE) : round((spoken.until - F(1, 5)) * RATE)]
    alone = whole[round(quiet * RATE) : round((quiet + 1) * RATE)]
    assert level(alone) == pytest.approx(20 * np.log10(0.25) - 6, abs=0.3)
    assert level(alone) - level(talking) >= 20
    silent = Mix(b, replace_music(p), {}, {"u1": tone}).read(0, RATE)
    assert np.abs(silent).max() == 0


def replace_music(p: Programme) -> Programme:
    return dataclasses.replace(p, music=())


def test_a_voice_at_another_tempo_lies_on_its_words_without_a_seam() -> None:
    """Two tempos in one line: clicks a tenth of a second apart are heard where the words are said to be, and the tone
    under them does not break off where the tempo changes."""
    line = SpokenLine(tuple((F(i), F(i) + F(1, 2)) for i in range(8)), F(8))
    beat = FitBeat("b1", (), (0,))
    saying = Saying(beat, line, F(1))
    saying.go_on_at(4, F(27, 25))
    placed = tuple(saying.phrases())
    t = np.arange(8 * RATE) / RATE
    voice = (0.1 * np.sin(2 * np.pi * 220 * t)).astype(np.float32)
    for i in range(8):
        voice[i * RATE : i * RATE + 96] += 0.5 * np.hanning(96).astype(np.float32)
    b = replace(small(), footage=())
    p = compile_programme(b, {})
    block = dataclasses.replace(p.blocks[0].block, voice=placed, frames=300)
    made = dataclasses.replace(p, blocks=(PlacedBlock(block, 0, p.fps),))
    heard = Mix(b, made, {"b1": voice}, {}).read(0, 10 * RATE)[:, 0]
    for word in range(1, 8):
        at = float(1 + (word if word <= 4 else 4 + F(word - 4) / F(27, 25)))
        near = heard[round((at - 0.03) * RATE) : round((at + 0.03) * RATE)]
        assert abs(int(np.argmax(near)) / RATE - 0.03) < 0.01, word
    seam = heard[round(4.9 * RATE) : round(5.1 * RATE)].reshape(-1, RATE // 200)
    assert np.sqrt((seam**2).mean(axis=1)).min() > 0.03
