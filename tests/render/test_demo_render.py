"""The demo, rendered by the command line and decoded again: is the tied frame there at the tied word?

Picture and sound are searched for the footage's own frame and the recorded word; nothing of the programme's metadata is
used but which word belongs to which moment, and when the stand-in microphone itself said that word.
"""

from __future__ import annotations

import fcntl
import json
import os
import subprocess
import sys
from pathlib import Path

import av
import numpy as np
import pyloudnorm
import pytest
from PyQt6.QtGui import QImage

from chapto.demo.story import demo_breakdown
from chapto.demo.takes import TABLE
from chapto.media.loudness import true_peak
from chapto.voice.recording.stand_in import VOICES
from chapto.voice.recording.stand_in_speech import read_line
from tests.render.decoded import RATE, Decoded, footage_frame, lag

LAG = 0.040


@pytest.fixture(scope="session")
def rendered(tmp_path_factory: pytest.TempPathFactory) -> tuple[Path, Decoded]:
    """What `chapto demo` makes without a display, at a quarter of its height. It takes minutes: whichever process of
    the run needs it first makes it for all."""
    base = tmp_path_factory.getbasetemp()
    folder = (base.parent if "PYTEST_XDIST_WORKER" in os.environ else base) / "rendered-demo"
    with open(folder.with_suffix(".lock"), "w") as lock:
        fcntl.flock(lock, fcntl.LOCK_EX)
        if not folder.exists():
            bare = {k: v for k, v in os.environ.items() if k not in ("DISPLAY", "WAYLAND_DISPLAY", "QT_QPA_PLATFORM")}
            done = subprocess.run(
                [sys.executable, "-m", "chapto.cli", "demo", "--lines", "180", "--folder", str(folder)],
                capture_output=True, text=True, check=False, env=bare,
            )  # fmt: skip
            assert done.returncode == 0, done.stderr
    return folder / "two-knee-slides.mp4", Decoded(folder / "two-knee-slides.mp4")


@pytest.fixture(scope="session")
def programme(rendered: tuple[Path, Decoded]) -> dict[str, object]:
    project = rendered[0].with_suffix(".chapto")
    done = subprocess.run(
        [sys.executable, "-m", "chapto.cli", "inspect", str(project), "--json"],
        capture_output=True,
        text=True,
        check=True,
    )
    return json.loads(done.stdout)  # type: ignore[no-any-return]


@pytest.mark.timeout(600)
def test_the_demo_without_a_display_makes_a_video_what_belongs_to_it_and_pictures(
    rendered: tuple[Path, Decoded],
) -> None:
    video = rendered[0]
    assert video.stat().st_size > 500_000
    assert all(video.with_suffix(s).stat().st_size for s in (".vtt", ".srt", ".chapters.txt"))
    pictures = {p.stem: p for p in (video.parent / "stages").glob("*.png")}
    assert set(pictures) >= {"footage", "log", "log-compare", "write", "write-ways", "publish", "keys"}
    for place in pictures.values():
        image = QImage(str(place))
        assert (image.width(), image.height()) == (1280, 800)
        assert len({image.pixel(x, y) for x in range(0, 1280, 40) for y in range(0, 800, 40)}) > 5


@pytest.mark.timeout(600)
def test_every_tied_frame_is_on_the_screen_at_its_recorded_word(rendered: tuple[Path, Decoded]) -> None:
    """Lag at most 40 ms, which is also what EBU R 37 allows sound to be early."""
    b = demo_breakdown(Path("/"))
    attempts = {row["beat"]: row["attempt"] for row in json.loads(TABLE.read_text())}
    lags = {}
    for _, beat in b.read_beats():
        voice = VOICES[[n.id for n in b.narrators].index(b.narrator(beat).id)]
        read = read_line(beat.text, voice=voice, attempt=attempts[beat.id])
        for tie in beat.ties:
            following = beat.ties[beat.ties.index(tie) + 1 :]
            limit = read.words[following[0].word][0] if following else len(read.samples) / RATE
            picture = footage_frame(b, b.moment(tie.moment).at)
            lags[f"{beat.id}/{tie.word}"] = lag(rendered[1], picture, read.samples, read.words[tie.word][0], limit)
    assert len(lags) == 20
    assert max(lags.values()) <= LAG, lags


def test_the_video_is_as_loud_as_wished_and_peaks_nowhere(rendered: tuple[Path, Decoded]) -> None:
    """EBU R 128: within 0.5 LU of the loudness that is set, true peak at most −1 dBTP, by another library."""
    with av.open(str(rendered[0])) as media:
        resampler = av.AudioResampler(format="flt", layout="stereo", rate=RATE)
        blocks = [out.to_ndarray().reshape(-1, 2) for f in media.decode(audio=0) for out in resampler.resample(f)]
    sound = np.concatenate(blocks)
    assert pyloudnorm.Meter(RATE).integrated_loudness(sound.astype(float)) == pytest.approx(-14, abs=0.5)
    assert true_peak(sound) <= -1.0


def test_inspect_shows_every_tie_within_half_a_frame_of_its_plan(programme: dict[str, list[dict[str, float]]]) -> None:
    ties = programme["ties"]
    assert len(ties) == 20
    for tie in ties:
        assert abs(tie["shown"] - tie["planned"]) <= 0.5 / 30 + 1e-6
        assert tie["state"] == "met"


def test_frames_come_at_a_constant_rate_and_sound_lasts_as_long(rendered: tuple[Path, Decoded]) -> None:
    decoded = rendered[1]
    assert decoded.size == (320, 180)
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
        corner = frame.to_ndarray(format="gray")[157:173, 16:80]
    assert np.percentile(corner, 80) > 225
