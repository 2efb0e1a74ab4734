"""What the pictures say: fog, somebody in front, no picture, shaking, nothing happening."""

from __future__ import annotations

from dataclasses import fields, replace
from fractions import Fraction
from functools import lru_cache
from pathlib import Path

import av
import numpy as np
import pytest

from chapto.demo.choreography import referee_joints
from chapto.demo.figures import MOSS, REFEREE, WREN, limbs_of
from chapto.demo.generate import FOOTAGE, shipped_motion
from chapto.demo.motion import Motion
from chapto.demo.raster import Camera, draw_limbs
from chapto.demo.readings import know_readings
from chapto.demo.shots import BOUT, Shot
from chapto.document.condition import ConditionKind
from chapto.media.cache import cache_file
from chapto.media.judging import Levels, Proposal, judged
from chapto.media.readings import VERSION, Readings, measure, readings
from chapto.store.fingerprint import fingerprint

K = ConditionKind
WALL = next(s for s in BOUT if s.name == "far-wall")


@lru_cache
def seen(name: str) -> Readings:
    """As it ships: `test_what_ships_is_what_the_method_gives` says that it is what would be measured."""
    know_readings()
    path = FOOTAGE / f"{name}.mp4"
    key = fingerprint(path)
    assert cache_file("readings", f"{key}-{VERSION}", ".npz").exists()
    return readings(path, key)


def test_what_ships_is_what_the_method_gives() -> None:
    """The shortest file of the bout, measured anew."""
    shipped, measured = seen("table-side-2"), measure(FOOTAGE / "table-side-2.mp4")
    for curve in fields(Readings):
        assert np.allclose(getattr(shipped, curve.name), getattr(measured, curve.name), atol=1e-3), curve.name


def spans(name: str, kind: ConditionKind) -> list[Proposal]:
    return [p for p in judged(seen(name)) if p.kind is kind]


def inside(times: np.ndarray, found: list[Proposal]) -> np.ndarray:
    return (
        np.any([(p.start <= times) & (times < p.end) for p in found], axis=0) if found else np.zeros(len(times), bool)
    )


def test_the_generators_fog_is_found_and_no_other() -> None:
    """At least 0.9 of its length, at most 5 % too much."""
    assert WALL.fog is not None
    start, end = ((t - WALL.mat_in) / (1 + WALL.drift) for t in WALL.fog)
    (fog,) = spans("far-wall", K.FOGGED)
    assert min(fog.end, end) - max(fog.start, start) >= 0.9 * (end - start)
    assert max(start - fog.start, 0) + max(fog.end - end, 0) <= 0.05 * (end - start)
    assert not any(spans(s.name, K.FOGGED) for s in BOUT if s.fog is None)


def hidden_share(shot: Shot, t: float, motion: Motion) -> float:
    """How much of the two athletes the referee hides from the camera: drawn with and without him, at a quarter size."""
    camera = Camera(shot.camera.position, shot.camera.target, shot.camera.focal / 4, 320, 180)
    world = shot.mat_at(t)
    first, second = motion.joints(world)
    pair = [replace(x, colour=(1.0, 1.0, 1.0)) for x in limbs_of(first, WREN) + limbs_of(second, MOSS)]
    black = [replace(x, colour=(0.0, 0.0, 0.0)) for x in limbs_of(referee_joints(world), REFEREE)]
    counts = []
    for limbs in (pair, pair + black):
        picture = np.zeros((180, 320, 3), np.uint8)
        draw_limbs(picture, limbs, camera)
        counts.append(int((picture.max(axis=2) > 20).sum()))
    return 1 - counts[1] / max(counts[0], 1)


@pytest.mark.parametrize("shot", BOUT, ids=lambda s: s.name)
def test_the_referee_in_front_is_found_where_he_hides_a_quarter(shot: Shot) -> None:
    """Blocked is more than a quarter of the athletes hidden for longer than the shortest proposal; clear is less
    than a twentieth. At least 0.9 of the blocked time is found, and at most 5 % of what is found was clear."""
    motion = shipped_motion("bout")
    times = np.arange(0, shot.seconds, 1.0)
    hidden = np.array([hidden_share(shot, float(t), motion) for t in times])
    found = inside(times, spans(shot.name, K.BLOCKED))
    blocked = hidden > 0.25
    if blocked.sum() > 2:
        assert (found & blocked).sum() >= 0.9 * blocked.sum()
    assert (found & (hidden < 0.05)).sum() <= 0.05 * found.sum()


def clip(path: Path, frames: list[np.ndarray]) -> Path:
    with av.open(str(path), "w") as out:
        video = out.add_stream("libx264", rate=30)
        video.width, video.height, video.pix_fmt = 320, 180, "yuv420p"
        video.options = {"crf": "18", "preset": "ultrafast"}
        for i, picture in enumerate(frames):
            frame = av.VideoFrame.from_ndarray(picture, format="rgb24")
            frame.pts, frame.time_base = i, Fraction(1, 30)
            out.mux(video.encode(frame))
        out.mux(video.encode(None))
    return path


@pytest.fixture
def hall() -> np.ndarray:
    """A picture larger than the frame, with detail everywhere."""
    rng = np.random.default_rng(5)
    return np.kron(rng.integers(30, 220, (30, 50, 3), dtype=np.uint8), np.ones((8, 8, 1), np.uint8))


def moving(hall: np.ndarray, i: int, *, dx: int = 0, dy: int = 0, walks: bool = True) -> np.ndarray:
    picture = hall[20 + dy : 200 + dy, 30 + dx : 350 + dx].copy()
    x = 40 + (i * 5) % 200 if walks else 120
    picture[60:130, x : x + 40] = (200, 60, 40)
    return picture


def test_black_and_frozen_pictures_are_no_picture(tmp_path: Path, hall: np.ndarray) -> None:
    frames = [moving(hall, i) for i in range(240)]
    frames[60:120] = [np.zeros((180, 320, 3), np.uint8)] * 60
    frames[165:210] = [frames[165]] * 45
    found = [p for p in judged(measure(clip(tmp_path / "a.mp4", frames))) if p.kind is K.STOPPED]
    assert [p.start for p in found] == pytest.approx([2.0, 5.5], abs=0.3)
    for p, (start, end) in zip(found, ((2.0, 4.0), (5.5, 7.0)), strict=True):
        assert min(p.end, end) - max(p.start, start) >= 0.85 * (end - start)


def test_a_shaken_camera_is_shaky_and_its_shaking_is_no_activity(tmp_path: Path, hall: np.ndarray) -> None:
    rng = np.random.default_rng(2)
    held = {k: tuple(int(v) for v in rng.integers(-12, 13, 2)) for k in range(200)}
    frames = [moving(hall, i, walks=False) for i in range(120)]
    frames += [moving(hall, i, dx=held[i // 3][0], dy=held[i // 3][1], walks=False) for i in range(120)]
    r = measure(clip(tmp_path / "a.mp4", frames))
    (shaky,) = [p for p in judged(r) if p.kind is K.SHAKY]
    assert shaky.start == pytest.approx(4, abs=0.6) and shaky.end == pytest.approx(8, abs=0.6)
    calm = [
        p for p in judged(measure(clip(tmp_path / "b.mp4", [moving(hall, i) for i in range(120)]))) if p.kind is K.SHAKY
    ]
    assert calm == []


def test_where_nothing_happens_for_three_seconds_is_proposed_and_the_level_can_be_set(
    tmp_path: Path, hall: np.ndarray
) -> None:
    def resting(i: int) -> np.ndarray:
        """Only somebody's hand moves, at the edge."""
        picture = moving(hall, 0, walks=False)
        picture[100:112, 250 + i % 20 : 262 + i % 20] = 255
        return picture

    frames = [moving(hall, i) for i in range(150)] + [resting(i) for i in range(125)]
    frames += [moving(hall, i) for i in range(150)]
    r = measure(clip(tmp_path / "a.mp4", frames))
    quiet = [p for p in judged(r, Levels()) if p.kind is K.IDLE]
    assert (
        len(quiet) == 1 and quiet[0].start == pytest.approx(5, abs=0.8) and quiet[0].end == pytest.approx(9.2, abs=0.8)
    )
    assert not [p for p in judged(r, Levels(quiet_seconds=6)) if p.kind is K.IDLE]
