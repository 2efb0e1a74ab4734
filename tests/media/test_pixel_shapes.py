"""Files whose pixels are no squares: what is a square on the mat is one on the screen, in its colours and in its place.

The shapes of pixels are those of the formats' descriptions (from memory): DV in 4:3 and 16:9, HDV at 1440 × 1080.
"""

from __future__ import annotations

from fractions import Fraction
from pathlib import Path
from typing import Any

import av
import numpy as np
import pytest

from chapto.media.frame_converter import GROUND
from chapto.media.probe import probe
from chapto.media.reader import FrameReader

FORMATS = {
    "DV, 576 lines, 4:3": ((720, 576), Fraction(16, 15), Fraction(4, 3)),
    "DV, 576 lines, 16:9": ((720, 576), Fraction(64, 45), Fraction(16, 9)),
    "DV, 480 lines, 4:3": ((720, 480), Fraction(8, 9), Fraction(4, 3)),
    "HDV": ((1440, 1080), Fraction(4, 3), Fraction(16, 9)),
    "upright": ((1080, 1440), Fraction(3, 4), Fraction(9, 16)),
}
PATCHES = {(0.25, 0.3): (200, 40, 40), (0.7, 0.3): (40, 160, 60), (0.45, 0.75): (50, 70, 190)}
"""By its middle, shares of the picture: the colour of a square a fifth of the picture's height high."""
SIDE = 0.2
MAT = (120, 120, 112)


def _filmed(path: Path, size: tuple[int, int], pixel: Fraction) -> Path:
    width, height = size
    shown = width * float(pixel)
    picture = np.empty((height, width, 3), np.uint8)
    picture[:] = MAT
    x, y = (np.arange(width) + 0.5) / width, (np.arange(height) + 0.5) / height
    for (cx, cy), colour in PATCHES.items():
        across, down = np.abs(x - cx) * shown <= SIDE * height / 2, np.abs(y - cy) <= SIDE / 2
        picture[np.ix_(down, across)] = colour
    with av.open(str(path), "w") as out:
        video: Any = out.add_stream("libx264", rate=25)
        video.width, video.height, video.pix_fmt = width, height, "yuv420p"
        video.codec_context.sample_aspect_ratio = pixel
        video.options = {"crf": "6", "preset": "ultrafast"}
        for i in range(4):
            frame = av.VideoFrame.from_ndarray(picture, format="rgb24")
            hd = height > 576 or width > 1024
            frame = frame.reformat(format="yuv420p", dst_colorspace="ITU709" if hd else "ITU601")
            frame.pts, frame.time_base = i, Fraction(1, 25)
            out.mux(video.encode(frame))
        out.mux(video.encode(None))
    return path


@pytest.mark.parametrize("name", FORMATS)
def test_a_square_is_a_square_in_its_colour_and_in_its_place(tmp_path: Path, name: str) -> None:
    size, pixel, shape = FORMATS[name]
    path = _filmed(tmp_path / "odd.mp4", size, pixel)
    told = probe(path)
    assert told.width / told.height == pytest.approx(float(shape), rel=0.002)
    into = (1280, 720)
    reader = FrameReader(path)
    seen = reader.picture(1, *into, "rgb24").to_ndarray(format="rgb24").astype(float)
    reader.close()
    high = min(into[1], into[0] / float(shape))
    wide = high * float(shape)
    left, top = (into[0] - wide) / 2, (into[1] - high) / 2
    for (cx, cy), colour in PATCHES.items():
        there = np.abs(seen - np.array(colour)).max(axis=2) < 30
        rows, columns = np.flatnonzero(there.any(axis=1)), np.flatnonzero(there.any(axis=0))
        sides = columns[-1] - columns[0] + 1, rows[-1] - rows[0] + 1
        assert sides == pytest.approx((SIDE * high, SIDE * high), abs=4)
        assert (columns.mean(), rows.mean()) == pytest.approx((left + cx * wide, top + cy * high), abs=3)
        middle = seen[round(top + cy * high), round(left + cx * wide)]
        assert np.abs(middle - colour).max() <= 6
    if left > 8:
        assert np.abs(seen[360, 2] - GROUND).max() <= 3 and np.abs(seen[360, -3] - GROUND).max() <= 3
