"""A rendered file decoded again: a flash and a click that were together in the footage are together in the video."""

from __future__ import annotations

from fractions import Fraction as F
from pathlib import Path
from typing import Any

import av
import numpy as np
import pytest

from chapto.cli.main import main

FLASHES = (2, 4, 6)
"""Seconds of the footage."""


@pytest.fixture
def clip(tmp_path: Path) -> Path:
    """Eight seconds of dark picture and silence, with one white frame and a click at each flash."""
    place = tmp_path / "flash.mp4"
    with av.open(str(place), "w") as out:
        video: Any = out.add_stream("libx264", rate=30, options={"crf": "10", "preset": "ultrafast"})
        video.width, video.height, video.pix_fmt = 320, 180, "yuv420p"
        audio: Any = out.add_stream("aac", rate=48_000, layout="stereo")
        sound = np.zeros((2, 8 * 48_000), np.float32)
        for second in FLASHES:
            sound[:, second * 48_000 : second * 48_000 + 480] = 0.9
        for at in range(0, sound.shape[1], 1024):
            frame = av.AudioFrame.from_ndarray(np.ascontiguousarray(sound[:, at : at + 1024]), "fltp", "stereo")
            frame.sample_rate, frame.pts, frame.time_base = 48_000, at, F(1, 48_000)
            out.mux(audio.encode(frame))
        for i in range(240):
            grey = 255 if i / 30 in FLASHES else 20
            picture = av.VideoFrame.from_ndarray(np.full((180, 320, 3), grey, np.uint8), "rgb24")
            picture.pts, picture.time_base = i, F(1, 30)
            out.mux(video.encode(picture))
        out.mux(video.encode(None))
        out.mux(audio.encode(None))
    return place


@pytest.mark.parametrize("ending", [".mp4", ".webm"])
def test_picture_and_gym_sound_keep_within_what_may_be_noticed(clip: Path, tmp_path: Path, ending: str) -> None:
    """EBU R 37: sound at most 40 ms before and 60 ms after its picture."""
    project, video = tmp_path / "own.chapto", tmp_path / f"own{ending}"
    assert main(["new", str(clip), "-o", str(project)]) == 0
    assert main(["render", str(project), "-o", str(video), "--quiet"]) == 0
    with av.open(str(video)) as media:
        seen = [float(f.time or 0) for f in media.decode(video=0) if f.to_ndarray(format="gray").mean() > 120]
    with av.open(str(video)) as media:
        resampler = av.AudioResampler(format="flt", layout="mono", rate=48_000)
        heard: list[float] = []
        for sound in media.decode(audio=0):
            start = float(sound.time or 0)
            for block in resampler.resample(sound):
                loud = np.flatnonzero(np.abs(block.to_ndarray()[0]) > 0.08)
                heard += [start + i / 48_000 for i in loud[:1]]
    assert len(seen) == len(FLASHES)
    for second in seen:
        nearest = min(heard, key=lambda t: abs(t - second))
        assert -0.040 <= nearest - second <= 0.060
