"""The demo footage is what the generator draws, and is small enough to ship."""

import pickle
from fractions import Fraction

import av
import numpy as np
import pytest

from chapto.demo import sounds
from chapto.demo.bodies import AT, COUNT, NAMES, PAIRS, both, overlaps, points_of
from chapto.demo.body import FOREARM, SHIN, SPINE, THIGH, UPPER_ARM
from chapto.demo.choreography import referee_joints
from chapto.demo.generate import FOOTAGE, MOVES, Drawer, shipped_motion
from chapto.demo.motion import RATE
from chapto.demo.shots import BOUT, SHOTS, Shot
from chapto.demo.story import MOMENTS, demo_breakdown
from chapto.media.probe import probe
from chapto.media.sound import load_sound

moves = pytest.mark.parametrize("name", MOVES)


def points(name: str, t: float) -> np.ndarray:
    return np.concatenate([points_of(j) for j in shipped_motion(name).joints(t)])


@moves
def test_bones_keep_their_length_and_nobody_jumps_or_sinks_into_the_mat(name: str) -> None:
    motion, before = shipped_motion(name), None
    for t in np.arange(0.0, MOVES[name]().end, 0.1):
        now = motion.joints(float(t))
        for j in now:
            assert np.linalg.norm(j.chest - j.pelvis) == pytest.approx(SPINE)
            for side in (0, 1):
                bones = (
                    (j.hips[side], j.knees[side], THIGH), (j.knees[side], j.ankles[side], SHIN),
                    (j.shoulders[side], j.elbows[side], UPPER_ARM), (j.elbows[side], j.wrists[side], FOREARM),
                )  # fmt: skip
                for a, b, length in bones:
                    assert np.linalg.norm(b - a) == pytest.approx(length, abs=0.006)
            assert min(float(p[2]) for p in (j.pelvis, j.head, *j.ankles)) > 0.0
        for one, other in zip(before or now, now, strict=True):
            assert np.linalg.norm(other.pelvis - one.pelvis) < 0.35 and np.linalg.norm(other.head - one.head) < 0.5
        before = now


@moves
def test_no_limb_goes_more_than_three_centimetres_into_a_body(name: str) -> None:
    for t in np.arange(0.0, MOVES[name]().end, 0.15):
        depth = overlaps(points(name, float(t)))[0]
        worst = int(np.argmax(depth))
        assert depth[worst] <= 0.03, (t, [(i // len(NAMES), NAMES[i % len(NAMES)]) for i in PAIRS[worst]])


@moves
def test_what_stands_on_the_mat_slides_less_than_two_centimetres(name: str) -> None:
    """By the plan for feet and posted hands; and by what is drawn for the feet of whoever is upright."""
    wanted = MOVES[name]()
    ends = [who * COUNT + AT[c] for who in (0, 1) for c in ("lf", "rf", "lh", "rh")]
    since: dict[int, np.ndarray] = {}
    for k in range(1, int(wanted.end * RATE)):
        now, pinned = points(name, k / RATE), wanted.postures(k / RATE)[1] & wanted.postures((k - 1) / RATE)[1]
        for i in ends:
            upright = now[i // COUNT * COUNT + AT["pelvis"], 2] > 0.6 and i % COUNT in (AT["lf"], AT["rf"])
            if pinned[i] or (upright and now[i, 2] < 0.1):
                assert np.linalg.norm((now[i] - since.setdefault(i, now[i]))[:2]) < 0.02, (k / RATE, i)
            else:
                since.pop(i, None)


@moves
def test_hands_hold_what_they_hold(name: str) -> None:
    for hold in MOVES[name]().holds:
        now = points(name, (hold.start + hold.end) / 2)
        tether = hold.tether((hold.start + hold.end) / 2)
        assert tether is not None
        place = sum(share * now[i] for i, share in tether.mix)
        assert np.linalg.norm(place - now[tether.point]) == pytest.approx(hold.length, abs=0.035), hold


@moves
def test_the_shipped_motion_is_what_the_keyframes_give(name: str) -> None:
    wanted = MOVES[name]()
    for k in range(20, int(wanted.end * RATE), int(wanted.end)):
        before = points(name, k / RATE), both(*wanted.postures(k / RATE)[0])
        settled, _ = wanted.settle((k + 1) / RATE, before)
        assert np.abs(settled - points(name, (k + 1) / RATE)).max() < 0.03, k


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
