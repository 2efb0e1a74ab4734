"""The demo footage is what the generator draws, and is small enough to ship."""

import pickle
from fractions import Fraction

import av
import numpy as np
import pytest

from chapto.demo import poses, sounds
from chapto.demo.body import FOREARM, SHIN, SPINE, THIGH, UPPER_ARM, pose_joints
from chapto.demo.choreography import Motion, bout_keys, referee_joints, sparring_keys
from chapto.demo.generate import FOOTAGE, Drawer
from chapto.demo.shots import BOUT, SHOTS, Shot
from chapto.demo.story import MOMENTS, demo_breakdown
from chapto.media.probe import probe
from chapto.media.sound import load_sound

PAIRS = (
    *("ready", "grips", "single_leg", "falling", "closed_guard", "half_guard", "knee_slide", "side_control"),
    *("knee_on_belly", "dogfight", "open_guard", "leg_entanglement", "turtle", "back_control", "strangle", "apart"),
)


@pytest.mark.parametrize("name", PAIRS)
def test_bones_keep_their_length_in_every_posture(name: str) -> None:
    for posture in getattr(poses, name)():
        j = pose_joints(posture)
        assert np.linalg.norm(j.chest - j.pelvis) == pytest.approx(SPINE)
        for side in (0, 1):
            bones = (
                (j.hips[side], j.knees[side], THIGH), (j.knees[side], j.ankles[side], SHIN),
                (j.shoulders[side], j.elbows[side], UPPER_ARM), (j.elbows[side], j.wrists[side], FOREARM),
            )  # fmt: skip
            for a, b, length in bones:
                assert np.linalg.norm(b - a) == pytest.approx(length, abs=0.006)


@pytest.mark.parametrize("keys", [bout_keys(), sparring_keys()], ids=["bout", "sparring"])
def test_nobody_jumps_and_nobody_sinks_into_the_mat(keys: list[object]) -> None:
    motion = Motion(keys)  # type: ignore[arg-type]
    end = keys[-1].t  # type: ignore[attr-defined]
    before = motion.joints(0.0)
    for t in np.arange(0.1, end - 0.1, 0.1):
        now = motion.joints(float(t))
        for one, other in zip(before, now, strict=True):
            assert np.linalg.norm(other.pelvis - one.pelvis) < 0.35
            assert np.linalg.norm(other.head - one.head) < 0.5
            assert min(float(p[2]) for p in (other.pelvis, other.head, *other.ankles)) > 0.0
        before = now


def test_the_referee_walks_and_never_jumps() -> None:
    places = np.array([referee_joints(float(t)).pelvis for t in np.arange(0, 240, 0.5)])
    steps = np.linalg.norm(np.diff(places, axis=0), axis=1)
    assert steps.max() < 1.0 and steps.sum() > 10


@pytest.mark.parametrize("shot", SHOTS, ids=lambda s: s.name)
def test_shipped_files_are_what_they_should_be(shot: Shot) -> None:
    path = FOOTAGE / f"{shot.name}.mp4"
    info = probe(path)
    assert path.stat().st_size < 4_000_000
    assert (info.codec, info.width, info.height, info.fps) == ("h264", 1280, 720, shot.fps)
    assert float(info.duration) == pytest.approx(shot.seconds, abs=0.05) and info.has_sound


@pytest.mark.parametrize("shot", SHOTS, ids=lambda s: s.name)
def test_shipped_pictures_are_the_generators(shot: Shot, qapp: object) -> None:
    """A frame of the file against the same frame drawn now, by a copy of the shot as another process gets it."""
    drawer = Drawer(pickle.loads(pickle.dumps(shot)))
    number = round(shot.seconds * shot.fps * 0.37)
    with av.open(str(FOOTAGE / f"{shot.name}.mp4")) as media:
        media.seek(int((number / shot.fps - 0.2) * 1e6))
        frame = next(f for f in media.decode(video=0) if f.time is not None and f.time >= number / shot.fps - 1e-4)
        shipped = frame.to_ndarray(format="rgb24").astype(float)
    drawn = drawer.picture(shot.mat_at(number / shot.fps)).astype(float)
    error = np.mean((shipped - drawn) ** 2)
    assert 10 * np.log10(255**2 / error) > 28


def test_drawing_is_deterministic(qapp: object) -> None:
    one, other = (Drawer(BOUT[0]).picture(35.2) for _ in range(2))
    assert np.array_equal(one, other)


def test_the_far_camera_hears_the_buzzer_later_by_its_own_clock() -> None:
    """Whistle at the end of the bout, found by its tone in both files and put on the mat clock."""
    heard = {}
    for shot in (BOUT[1], BOUT[2]):
        sound = load_sound(FOOTAGE / f"{shot.name}.mp4", f"whistle-{shot.name}")
        t0 = (sounds.STOP - 2 - shot.mat_in) / (1 + shot.drift)
        part = sound.read(round(t0 * sounds.RATE), 4 * sounds.RATE)[:, 0]
        blocks = part[: len(part) // 480 * 480].reshape(-1, 480) * np.hanning(480)
        power = np.abs(np.fft.rfft(blocks, axis=1))[:, 27:33].sum(axis=1)
        heard[shot.name] = shot.mat_at(t0 + float(np.argmax(power > power.max() * 0.4)) * 0.01)
    assert heard["table-side-2"] == pytest.approx(sounds.STOP + 0.016, abs=0.03)
    assert heard["far-wall"] - heard["table-side-2"] == pytest.approx(0.029, abs=0.025)


def test_the_fog_takes_contrast_away(qapp: object) -> None:
    shot = next(s for s in BOUT if s.fog)
    assert shot.fog is not None
    clear, fogged = (Drawer(shot).picture(t) for t in (shot.fog[0] - 2, sum(shot.fog) / 2))
    assert fogged.std() < 0.5 * clear.std()


def test_every_moment_of_the_story_was_filmed() -> None:
    from pathlib import Path

    b = demo_breakdown(Path("/"))
    for m in b.moments:
        assert any(c.covers(m.at) for c in b.footage)
    assert len(MOMENTS) == len(b.moments)
    stopped = [c for c in b.footage if c.name.startswith("Table")]
    gap = stopped[1].mat_in - stopped[0].mat_out
    assert 25 <= gap <= 35
    assert b.footage[2].mat_in == Fraction("20.37")
