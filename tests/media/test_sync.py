"""Cameras come onto one clock by their sound, or are refused.

The demo's generator says where each camera really lies: its microphone hears at second t what sounded at mat time
`mat_in + (1 + drift) · t − sound_delay`.
"""

from __future__ import annotations

from dataclasses import replace
from datetime import UTC, datetime, timedelta
from fractions import Fraction
from pathlib import Path

import av
import numpy as np
import pytest
from msgspec import structs
from scipy.signal import butter, correlate, sosfiltfilt

from chapto.demo.generate import FOOTAGE, shipped_motion
from chapto.demo.shots import SHOTS, Shot
from chapto.demo.sounds import heard_by, world_sound
from chapto.demo.story import demo_breakdown
from chapto.media.one_clock import chained, one_clock, sync_pictures
from chapto.media.probe import probe
from chapto.media.readings import Readings
from chapto.media.signals import find_signals
from chapto.media.sound import RATE, FootageSound, load_sound
from chapto.media.sync import SYNC_RATE, TRUSTED, Signal, listening, sync_sounds
from tests.media.clips import Clip, make

SHOT = {s.name: s for s in SHOTS}
TABLE, LATER, WALL, TUESDAY = (SHOT[n] for n in ("table-side-1", "table-side-2", "far-wall", "tuesday-round"))


@pytest.fixture(scope="session")
def heard() -> dict[str, Signal]:
    """What each shipped demo file sounds like."""
    return {s.name: listening(load_sound(FOOTAGE / f"{s.name}.mp4", f"test-{s.name}")) for s in SHOTS}


def true_lag(first: Shot, second: Shot) -> float:
    """Second of `first` at which what `second` hears at its second 0 is heard."""
    return ((second.mat_in - second.sound_delay) - (first.mat_in - first.sound_delay)) / (1 + first.drift)


def sound_of(samples: np.ndarray) -> FootageSound:
    return FootageSound(np.repeat((np.clip(samples, -1, 1) * 32767).astype(np.int16)[:, None], 2, axis=1))


@pytest.mark.parametrize("first", [TABLE, LATER], ids=lambda s: s.name)
def test_the_far_wall_is_found_within_10_ms_and_5_millionths(heard: dict[str, Signal], first: Shot) -> None:
    found = sync_sounds(heard[first.name], heard["far-wall"])
    assert found.is_trusted
    assert found.offset == pytest.approx(true_lag(first, WALL), abs=0.010)
    assert found.drift == pytest.approx(WALL.drift, abs=5e-6)


@pytest.mark.parametrize("first", [TABLE, LATER], ids=lambda s: s.name)
def test_also_in_10_db_more_noise_with_one_microphone_deaf_above_3_khz(heard: dict[str, Signal], first: Shot) -> None:
    rng = np.random.default_rng(11)

    def worse(shot: Shot) -> Signal:
        """White noise at 48 kHz keeps a sixth of its power when brought to 8 kHz."""
        extra = shot.sound_noise * np.sqrt((10 - 1) * SYNC_RATE / RATE)
        signal = heard[shot.name]
        return (signal + extra * rng.standard_normal(len(signal))).astype(np.float32)

    dull = sosfiltfilt(butter(8, 3000, fs=SYNC_RATE, output="sos"), worse(WALL)).astype(np.float32)
    found = sync_sounds(worse(first), dull)
    assert found.is_trusted
    assert found.offset == pytest.approx(true_lag(first, WALL), abs=0.010)
    assert found.drift == pytest.approx(WALL.drift, abs=5e-6)


def test_twenty_seconds_of_overlap_in_300_second_files_are_enough() -> None:
    world = world_sound(582.0, shipped_motion("bout"), bout=True)
    early = replace(TABLE, mat_in=0.0, seconds=300.0)
    late = replace(WALL, mat_in=280.0, seconds=300.0)
    found = sync_sounds(*(listening(sound_of(heard_by(s, world))) for s in (early, late)))
    assert found.is_trusted
    assert found.offset == pytest.approx(true_lag(early, late), abs=0.010)


@pytest.mark.parametrize(("first", "second"), [(TABLE, TUESDAY), (WALL, TUESDAY), (TABLE, LATER)], ids=lambda s: s.name)
def test_sound_of_other_times_and_places_is_refused(heard: dict[str, Signal], first: Shot, second: Shot) -> None:
    assert sync_sounds(heard[first.name], heard[second.name]).confidence < TRUSTED / 2


@pytest.mark.parametrize("seed", range(4))
def test_noise_is_never_taken_for_the_same_place(seed: int) -> None:
    rng = np.random.default_rng(seed)
    one, other = (rng.standard_normal(40 * SYNC_RATE).astype(np.float32) * 0.1 for _ in range(2))
    assert not sync_sounds(one, other).is_trusted
    assert not sync_sounds(one, np.zeros_like(other)).is_trusted
    assert not sync_sounds(one, other[: 3 * SYNC_RATE]).is_trusted


def test_a_clean_case_agrees_with_correlating_the_raw_samples(heard: dict[str, Signal]) -> None:
    """Reference: `scipy.signal.correlate` on the samples themselves."""
    whole = heard["table-side-1"][: 50 * SYNC_RATE]
    first, second = whole[: 40 * SYNC_RATE], whole[round(11.3004 * SYNC_RATE) :]
    reference = (np.argmax(correlate(first, second, mode="full", method="fft")) - (len(second) - 1)) / SYNC_RATE
    found = sync_sounds(first, second)
    assert found.is_trusted
    assert found.offset == pytest.approx(reference, abs=1 / SYNC_RATE)


def test_files_of_the_demo_find_one_another_and_the_other_day_stays_put(heard: dict[str, Signal]) -> None:
    b = demo_breakdown(Path.cwd())
    scattered = tuple(c if i == 0 else _moved(c, 100 * i) for i, c in enumerate(b.footage))
    sounds = {c.id: heard[s.name] for c, s in zip(b.footage, SHOTS, strict=True)}
    found = {p.footage: p for p in one_clock(scattered, sounds, {})}
    late = TABLE.sound_delay - WALL.sound_delay
    assert float(found["f2"].offset) == pytest.approx(LATER.mat_in, abs=0.010)
    assert float(found["f3"].offset) == pytest.approx(WALL.mat_in + late, abs=0.010)
    assert not found["f4"].is_trusted and found["f4"].offset == 300
    assert "was not moved" in found["f4"].sentence


def _moved(c: object, offset: int) -> object:
    return structs.replace(c, offset=Fraction(offset), drift=Fraction(0))


def test_without_sound_the_pictures_place_a_file_less_surely() -> None:
    """The same movements seen by two cameras, one starting 31.4 s later; then two that have nothing in common."""
    rng = np.random.default_rng(4)
    lively = np.convolve(rng.standard_normal(2000) ** 2, np.hanning(15), "same") * 0.004 + 0.01
    first = readings_of(lively[:1500])
    second = readings_of(lively[314:1814] * 1.3 * rng.uniform(0.8, 1.2, 1500))
    found = sync_pictures(first, second)
    assert found.is_trusted and found.confidence <= 0.7
    assert found.offset == pytest.approx(31.4, abs=0.2)
    assert not sync_pictures(first, readings_of(rng.uniform(0.005, 0.05, 1500))).is_trusted


def readings_of(activity: np.ndarray) -> Readings:
    n = len(activity)
    flat = np.ones(n, np.float32)
    return Readings(
        np.arange(n, dtype=np.float32) / 10, activity.astype(np.float32), flat, flat, flat, flat, flat, flat
    )


def test_split_files_of_one_recorder_chain_up_by_their_time_stamps() -> None:
    start = datetime(2026, 1, 10, 14, 0, 0, tzinfo=UTC)
    files = {
        "third": (start + timedelta(seconds=1500), Fraction(60)),
        "first": (start, Fraction("600.4")),
        "second": (start + timedelta(seconds=601), Fraction("600.4")),
        "unknown": (None, Fraction(10)),
    }
    found = chained(files)
    assert found == {"first": 0, "second": Fraction("600.4"), "third": Fraction("600.4") + 899}


def test_the_buzzer_and_the_whistle_are_heard_and_nothing_else() -> None:
    """Mat times from the generator: buzzer at 4.0 s, whistle at 231.6 s."""
    tones = {s.name: find_signals(load_sound(FOOTAGE / f"{s.name}.mp4", f"test-{s.name}")) for s in SHOTS}
    assert [len(tones[s.name]) for s in SHOTS] == [1, 1, 1, 0]
    for name, mat, hertz in (("table-side-1", 4.0, 415), ("table-side-2", 231.6, 2950), ("far-wall", 231.6, 2950)):
        (tone,) = tones[name]
        assert SHOT[name].mat_at(tone.start) - SHOT[name].sound_delay == pytest.approx(mat, abs=0.1)
        assert tone.hertz == pytest.approx(hertz, rel=0.05)


def test_talk_and_music_like_sound_is_no_whistle() -> None:
    t = np.arange(20 * RATE) / RATE
    chord = sum(np.sin(2 * np.pi * f * t) for f in (220, 277, 330, 440, 554)) * 0.05
    melody = 0.1 * np.sin(2 * np.pi * np.cumsum(400 + 200 * (np.floor(t * 5) % 4)) / RATE)
    assert find_signals(sound_of(chord + melody)) == ()


def test_the_recorders_time_stamp_is_read(tmp_path: Path) -> None:
    plain = make(tmp_path / "plain.mp4", Clip(frames=4))
    assert probe(plain).made is None
    stamped = tmp_path / "stamped.mp4"
    with av.open(str(plain)) as source, av.open(str(stamped), "w") as out:
        out.metadata["creation_time"] = "2026-01-10T14:02:03.000000Z"
        video = source.streams.video[0]
        copied = out.add_stream_from_template(video)
        for packet in source.demux(video):
            if packet.size:
                packet.stream = copied
                out.mux(packet)
    assert probe(stamped).made == datetime(2026, 1, 10, 14, 2, 3, tzinfo=UTC)
