"""The right picture, always: any order of access agrees with plain decoding, frame for frame, in every container."""

from __future__ import annotations

import random
from dataclasses import dataclass
from fractions import Fraction
from pathlib import Path

import av
import numpy as np
import pytest
from numpy.typing import NDArray

from chapto.media.reader import FrameReader


@dataclass(frozen=True)
class Kind:
    """A container with a codec, `b` pictures that lean on later ones, and a key every `gop` pictures."""

    suffix: str
    codec: str = "libx264"
    b: int = 2
    gop: int = 48
    form: str | None = None
    open_gop: bool = False
    start: int = 0


KINDS = {
    "transport stream": Kind(".ts"),
    "transport stream, rare keys": Kind(".ts", gop=250),
    "transport stream, open groups": Kind(".ts", gop=25, open_gop=True),
    "transport stream, mpeg2": Kind(".ts", codec="mpeg2video", gop=15),
    "camera's transport stream": Kind(".m2ts", form="mpegts", gop=30),
    "program stream": Kind(".mpg", codec="mpeg2video", form="mpeg", gop=15),
    "program stream, rare keys": Kind(".mpg", codec="mpeg2video", form="mpeg", gop=120),
    "avi": Kind(".avi", codec="mpeg4", b=0, gop=60),
    "avi with b": Kind(".avi", codec="mpeg4", b=2, gop=60),
    "matroska": Kind(".mkv", gop=120, open_gop=True),
    "quicktime": Kind(".mov", gop=250),
    "mp4": Kind(".mp4", gop=100, b=3),
    "mp4 that starts late": Kind(".mp4", gop=30, start=45),
    "mp4 without b": Kind(".mp4", b=0, gop=250),
}


def noise(i: int) -> NDArray[np.uint8]:
    """Picture number `i`: coarse blocks no other picture has, so that a neighbour is never taken for it."""
    blocks = np.random.default_rng(i).integers(16, 235, (6, 8), dtype=np.uint8)
    return np.kron(blocks, np.ones((16, 16), np.uint8))


def write(path: Path, kind: Kind, frames: int = 180) -> None:
    """A clip at 25 pictures a second; one that starts `start` pictures late gets an edit list in MP4."""
    with av.open(str(path), "w", format=kind.form) as out:
        stream = out.add_stream(kind.codec, rate=25)
        stream.width, stream.height, stream.pix_fmt = 128, 96, "yuv420p"
        stream.codec_context.gop_size = kind.gop
        stream.codec_context.max_b_frames = kind.b
        if kind.codec == "libx264":
            params = f"keyint={kind.gop}:min-keyint={kind.gop}:scenecut=0:open-gop={int(kind.open_gop)}"
            stream.options = {"preset": "veryfast", "crf": "16", "bf": str(kind.b), "x264-params": params}
        else:
            stream.options = {"q": "3", "sc_threshold": "1000000000"}
        for i in range(frames):
            planes = np.concatenate([noise(i), np.full((48, 128), 128, np.uint8)])
            frame = av.VideoFrame.from_ndarray(planes, format="yuv420p")
            frame.pts, frame.time_base = i + kind.start, Fraction(1, 25)
            out.mux(stream.encode(frame))
        out.mux(stream.encode(None))


def plainly(path: Path) -> list[NDArray[np.uint8]]:
    """Every picture from the first to the last, as any player shows them."""
    with av.open(str(path)) as container:
        return [frame.to_ndarray(format="gray") for frame in container.decode(video=0)]


@pytest.mark.parametrize("name", KINDS)
def test_random_ordered_and_backward_access_agree_with_plain_decoding(tmp_path: Path, name: str) -> None:
    kind = KINDS[name]
    path = tmp_path / f"clip{kind.suffix}"
    write(path, kind)
    plain = plainly(path)
    reader = FrameReader(path)
    try:
        assert reader.frames == len(plain)
        count = len(plain)
        backwards = [*range(count - 1, 0, -7), *range(count - 1, 0, -1)]
        order = [*random.Random(1).sample(range(count), 40), *range(count), *backwards]
        wrong = [i for i in order if not np.array_equal(reader.frame(i).to_ndarray(format="gray"), plain[i])]
        assert not wrong
    finally:
        reader.close()
