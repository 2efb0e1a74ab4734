"""The demo, rendered by the command line and decoded again: is the tied frame there at the tied word?

Picture and sound are searched for the footage's own frame and the guide voice's own word; nothing of the
programme's metadata is used but which word belongs to which moment.
"""

from __future__ import annotations

import json
import subprocess
import sys
from fractions import Fraction
from pathlib import Path

import av
import numpy as np
import pytest
from numpy.typing import NDArray
from scipy.signal import fftconvolve

from chapto.demo.story import demo_breakdown
from chapto.demo.working_copy import demo_project
from chapto.document.breakdown import Breakdown
from chapto.programme.angles import AngleTrack
from chapto.voice.guide import RATE, GuideVoice

SMALL = (160, 72)
"""Pictures are compared at this size, without their lowest fifth, where labels stand."""
LAG = 0.040


class Decoded:
    """A whole rendered file: small grey pictures with their times, and its mono sound at 48 kHz."""

    def __init__(self, path: Path) -> None:
        pictures, times = [], []
        with av.open(str(path)) as media:
            self.chapters = [(c["metadata"]["title"], float(c["start"] * c["time_base"])) for c in media.chapters()]
            video = media.streams.video[0]
            video.thread_type = "AUTO"
            self.size = (video.width, video.height)
            for frame in media.decode(video):
                pictures.append(small(frame))
                times.append(float(frame.time or 0))
        with av.open(str(path)) as media:
            resampler = av.AudioResampler(format="flt", layout="mono", rate=RATE)
            blocks, self.sound_start = [], 0.0
            for i, sound in enumerate(media.decode(audio=0)):
                if i == 0:
                    self.sound_start = float(sound.time or 0)
                sound.pts = None
                blocks += [out.to_ndarray()[0] for out in resampler.resample(sound)]
        self.pictures = np.array(pictures)
        self.times = np.array(times)
        self.sound = np.concatenate(blocks)

    def shown(self, picture: NDArray[np.float32], near: float) -> tuple[float, float]:
        """From when to when the frames around `near` (±3 s) that look like `picture` are on the screen."""
        inside = np.flatnonzero(np.abs(self.times - near) < 3)
        errors = np.mean((self.pictures[inside] - picture) ** 2, axis=(1, 2))
        alike = errors < errors.min() * 1.6 + 0.15
        best = int(np.argmin(np.where(alike, np.abs(self.times[inside] - near), np.inf)))
        first = last = best
        while first > 0 and alike[first - 1]:
            first -= 1
        while last + 1 < len(inside) and alike[last + 1]:
            last += 1
        return float(self.times[inside[first]]), float(self.times[inside[last]]) + 1 / 30

    def heard(self, word: NDArray[np.float32]) -> float:
        """When the sound `word` is heard: the peak of its normalised correlation over the whole programme."""
        score = fftconvolve(self.sound, word[::-1], mode="valid")
        power = np.sqrt(np.maximum(fftconvolve(self.sound**2, np.ones(len(word)), mode="valid"), 1e-6))
        return float(np.argmax(score / power)) / RATE + self.sound_start


def small(frame: av.VideoFrame) -> NDArray[np.float32]:
    grey = frame.reformat(160, 90, "gray", interpolation="AREA").to_ndarray().astype(np.float32)
    return grey[: SMALL[1]]


def footage_frame(b: Breakdown, mat: Fraction) -> NDArray[np.float32]:
    """The footage's frame at a mat time, decoded without any of Chapto's own reading."""
    camera = AngleTrack(b).at(mat)
    assert camera is not None
    wanted = float(camera.media_time(mat))
    with av.open(str(Path("/") / camera.path)) as media:
        media.seek(int(max(wanted - 0.5, 0) * 1e6))
        found = None
        for frame in media.decode(video=0):
            if frame.time is not None and frame.time > wanted + 1e-6:
                break
            found = frame
    assert found is not None
    return small(found)


@pytest.fixture(scope="module")
def rendered(tmp_path_factory: pytest.TempPathFactory) -> tuple[Path, Decoded]:
    folder = tmp_path_factory.mktemp("demo")
    project = demo_project(fresh=True, folder=folder)
    target = folder / "out.mp4"
    done = subprocess.run(
        [sys.executable, "-m", "chapto.cli", "render", str(project), "-o", str(target), "--quiet"],
        capture_output=True, text=True, check=False,
    )  # fmt: skip
    assert done.returncode == 0, done.stderr
    assert done.stdout.split() == [str(target.with_suffix(s)) for s in (".mp4", ".vtt", ".srt", ".chapters.txt")]
    return target, Decoded(target)


@pytest.fixture(scope="module")
def programme(rendered: tuple[Path, Decoded]) -> dict[str, object]:
    project = rendered[0].parent / "two-knee-slides.chapto"
    done = subprocess.run(
        [sys.executable, "-m", "chapto.cli", "inspect", str(project), "--json"],
        capture_output=True,
        text=True,
        check=True,
    )
    return json.loads(done.stdout)  # type: ignore[no-any-return]


@pytest.mark.timeout(600)
def test_every_tied_frame_is_on_the_screen_at_its_tied_word(rendered: tuple[Path, Decoded], guide: GuideVoice) -> None:
    """Lag at most 40 ms, which is also what EBU R 37 allows sound to be early."""
    b = demo_breakdown(Path("/"))
    lags = {}
    for _, beat in b.beats():
        speech = guide.speak(beat.text, voice=b.narrator(beat).guide_voice, pace=b.narrator(beat).pace)
        for tie in beat.ties:
            start = round(speech.line.words[tie.word][0] * RATE)
            following = beat.ties[beat.ties.index(tie) + 1 :]
            limit = round(speech.line.words[following[0].word][0] * RATE) if following else len(speech.samples)
            said = (
                rendered[1].heard(speech.samples[start + 300 : min(start + RATE * 4 // 5, limit - 2000)]) - 300 / RATE
            )
            first, last = rendered[1].shown(footage_frame(b, b.moment(tie.moment).at), said)
            lags[f"{beat.id}/{tie.word}"] = 0.0 if first <= said <= last else min(abs(said - first), abs(said - last))
    assert len(lags) == 18
    assert max(lags.values()) <= LAG, lags


def test_inspect_shows_every_tie_within_half_a_frame_of_its_plan(programme: dict[str, list[dict[str, float]]]) -> None:
    ties = programme["ties"]
    assert len(ties) == 18
    for tie in ties:
        assert abs(tie["shown"] - tie["planned"]) <= 0.5 / 30 + 1e-6
        assert tie["state"] == "met"


def test_frames_come_at_a_constant_rate_and_sound_lasts_as_long(rendered: tuple[Path, Decoded]) -> None:
    decoded = rendered[1]
    assert decoded.size == (1280, 720)
    assert np.allclose(np.diff(decoded.times), 1 / 30, atol=1e-4)
    assert decoded.times[0] == pytest.approx(0, abs=1e-3)
    assert len(decoded.sound) / RATE == pytest.approx(len(decoded.times) / 30, abs=0.04)


def test_chapters_are_inside_and_beside_the_file(
    rendered: tuple[Path, Decoded], programme: dict[str, list[dict[str, float]]]
) -> None:
    inside = rendered[1].chapters
    assert [t for t, _ in inside] == [c["title"] for c in programme["chapters"]]
    assert [s for _, s in inside] == pytest.approx([c["start"] for c in programme["chapters"]], abs=0.002)
    beside = rendered[0].with_suffix(".chapters.txt").read_text().splitlines()
    assert [line.split(" ", 1)[1] for line in beside] == [t for t, _ in inside]


def test_the_card_of_thanks_is_paper_and_the_label_is_painted(
    rendered: tuple[Path, Decoded], programme: dict[str, list[dict[str, int]]]
) -> None:
    decoded = rendered[1]
    assert decoded.pictures[-30].mean() > 200
    first = programme["labels"][0]
    second = (first["watch_in"] + first["watch_out"]) / 2 / 30
    with av.open(str(rendered[0])) as media:
        media.seek(int(second * 1e6))
        frame = next(f for f in media.decode(video=0) if f.time is not None and f.time >= second)
        corner = frame.to_ndarray(format="gray")[630:690, 64:320]
    assert np.percentile(corner, 80) > 225
