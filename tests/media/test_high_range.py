"""Colours of phones' footage: patches of known colour, filmed by every curve, come out as a usual screen shows them."""

from __future__ import annotations

from fractions import Fraction
from pathlib import Path
from typing import Any

import av
import numpy as np
import pytest
from numpy.typing import NDArray

from chapto.media.high_range import LUMA, PEAK, TO_709, WHITE, hlg_light, pq_light, shoulder, to_screen
from chapto.media.reader import FrameReader

GREYS = (0, 32, 64, 96, 128, 160, 192, 218)
COLOURS = ((150, 60, 60), (60, 140, 70), (60, 80, 150), (160, 150, 60), (200, 150, 120))
"""Kit, mat and skin, as a usual screen shows them."""


def to_pq(light: NDArray[np.float64]) -> NDArray[np.float64]:
    """SMPTE ST 2084, the inverse curve (from memory)."""
    m1, m2, c1, c2, c3 = 2610 / 16384, 2523 / 32, 3424 / 4096, 2413 / 128, 2392 / 128
    y = np.power(light / 10_000, m1)
    return np.power((c1 + c2 * y) / (1 + c3 * y), m2)


def to_hlg(light: NDArray[np.float64]) -> NDArray[np.float64]:
    """ITU-R BT.2100, inverse OOTF and OETF for a display of 1,000 cd/m² (from memory)."""
    display = light / PEAK
    luminance = np.maximum(display @ LUMA, 1e-9)
    scene = display * (luminance ** (1 / 1.2 - 1))[..., None]
    a, b, c = 0.17883277, 0.28466892, 0.55991073
    return np.where(scene <= 1 / 12, np.sqrt(3 * scene), a * np.log(np.maximum(12 * scene - b, 1e-9)) + c)


def filmed(path: Path, colours: list[tuple[int, int, int]], curve: str) -> Path:
    """Patches side by side in 10-bit BT.2020, placed as ITU-R BT.2408 places usual pictures: white at 203 cd/m²."""
    linear = (np.array(colours) / 255.0) ** 2.4 @ np.linalg.inv(TO_709).T
    light = np.maximum(linear, 0) * WHITE
    signal = np.clip(to_pq(light) if curve == "pq" else to_hlg(light), 0, 1)
    kr, kb = LUMA[0], LUMA[2]
    y = signal @ LUMA
    planes = [
        64 + 876 * y,
        512 + 896 * (signal[:, 2] - y) / (2 * (1 - kb)),
        512 + 896 * (signal[:, 0] - y) / (2 * (1 - kr)),
    ]
    wide = 32 * len(colours)
    with av.open(str(path), "w") as out:
        video: Any = out.add_stream("libx265", rate=30)
        video.width, video.height, video.pix_fmt = wide, 64, "yuv420p10le"
        transfer = "smpte2084" if curve == "pq" else "arib-std-b67"
        video.options = {"crf": "4", "preset": "ultrafast", "x265-params": "log-level=none",
                         "color_trc": transfer, "color_primaries": "bt2020", "colorspace": "bt2020nc"}  # fmt: skip
        video.codec_context.time_base = Fraction(1, 30)
        for i in range(5):
            frame = av.VideoFrame(wide, 64, "yuv420p10le")
            for n, plane in enumerate(planes):
                by = 1 if n == 0 else 2
                rows = np.repeat(np.round(plane).astype("<u2"), 32 // by)[None, :].repeat(64 // by, axis=0)
                view = np.frombuffer(frame.planes[n], "<u2").reshape(64 // by, -1)
                np.asarray(view)[:, : rows.shape[1]] = rows
            frame.pts, frame.time_base = i, Fraction(1, 30)
            frame.color_trc, frame.colorspace, frame.color_primaries = (16 if curve == "pq" else 18), 9, 9
            out.mux(video.encode(frame))
        out.mux(video.encode(None))
    return path


def seen(path: Path, count: int, pix_fmt: str = "rgb24") -> NDArray[np.float64]:
    """The middle of each patch as Chapto shows it."""
    reader = FrameReader(path)
    frame = reader.picture(2, 32 * count, 64, pix_fmt)
    rgb = (
        frame.to_ndarray(format="rgb24")
        if pix_fmt == "rgb24"
        else frame.reformat(format="rgb24", src_colorspace="ITU709", dst_colorspace="ITU709").to_ndarray()
    )
    reader.close()
    return np.array([rgb[24:40, 32 * i + 12 : 32 * i + 20].mean(axis=(0, 1)) for i in range(count)])


@pytest.mark.parametrize("curve", ["pq", "hlg"])
@pytest.mark.parametrize("pix_fmt", ["rgb24", "yuv420p"])
def test_greys_and_colours_of_high_range_come_out_as_they_were(tmp_path: Path, curve: str, pix_fmt: str) -> None:
    patches = [(g, g, g) for g in GREYS] + list(COLOURS) + [(255, 255, 255)]
    found = seen(filmed(tmp_path / f"{curve}.mp4", patches, curve), len(patches), pix_fmt)
    greys = np.abs(found[: len(GREYS)] - np.array(GREYS)[:, None])
    assert greys.max() <= 5, found
    assert np.abs(found[len(GREYS) : -1] - np.array(COLOURS)).max() <= 8, found
    assert 235 <= found[-1].min() <= found[-1].max() <= 255


def test_brighter_light_stays_brighter_and_nothing_is_cut_off() -> None:
    light = np.linspace(0, PEAK / WHITE, 400)
    shown = shoulder(light)
    assert (
        np.all(np.diff(shown) > 0)
        and shown[-1] == pytest.approx(1)
        and np.allclose(shown[light <= 0.75], light[light <= 0.75])
    )
    assert np.abs(np.diff(shown, 2)).max() < 0.01
    highlight = to_screen(np.array([[1000.0, 600.0, 300.0]]))[0]
    assert highlight[0] > highlight[1] > highlight[2]


def test_the_curves_are_those_of_their_standards() -> None:
    """ST 2084: 0.5081 is 100 cd/m² (from memory), 1 is 10,000. BT.2408: 75 % HLG is 203 cd/m² on a display of 1,000."""
    assert pq_light(np.array([0.50808])) == pytest.approx(100, rel=0.002)
    assert pq_light(np.array([1.0])) == pytest.approx(10_000)
    assert hlg_light(np.full((1, 3), 0.75))[0, 0] == pytest.approx(203, rel=0.005)
    assert hlg_light(np.full((1, 3), 1.0))[0, 0] == pytest.approx(1000, rel=0.005)


def _standard(path: Path, size: tuple[int, int], matrix: int, full: bool, rgb: tuple[int, int, int]) -> Path:
    """One colour, encoded with a matrix (1: BT.709, 6: BT.601) in limited or full range."""
    kr, kb = (0.2126, 0.0722) if matrix == 1 else (0.299, 0.114)
    r, g, b = (v / 255 for v in rgb)
    y = kr * r + (1 - kr - kb) * g + kb * b
    cb, cr = (b - y) / (2 * (1 - kb)), (r - y) / (2 * (1 - kr))
    values = (255 * y, 128 + 255 * cb, 128 + 255 * cr) if full else (16 + 219 * y, 128 + 224 * cb, 128 + 224 * cr)
    with av.open(str(path), "w") as out:
        video: Any = out.add_stream("libx264", rate=30)
        video.width, video.height, video.pix_fmt = *size, "yuv420p"
        names = {1: "bt709", 6: "smpte170m"}
        video.options = {"crf": "4", "colorspace": names[matrix], "color_range": "pc" if full else "tv",
                         "color_primaries": names[matrix], "color_trc": names[matrix]}  # fmt: skip
        for i in range(4):
            frame = av.VideoFrame(*size, "yuv420p")
            for plane, value in zip(frame.planes, values, strict=True):
                np.frombuffer(plane, np.uint8)[:] = round(value)
            frame.colorspace, frame.color_range, frame.pts, frame.time_base = (
                matrix,
                2 if full else 1,
                i,
                Fraction(1, 30),
            )
            out.mux(video.encode(frame))
        out.mux(video.encode(None))
    return path


@pytest.mark.parametrize("size", [(640, 480), (1280, 720)])
@pytest.mark.parametrize("matrix", [1, 6])
@pytest.mark.parametrize("full", [False, True])
def test_usual_range_is_right_in_every_matrix_and_range(
    tmp_path: Path, size: tuple[int, int], matrix: int, full: bool
) -> None:
    wanted = (180, 90, 60)
    reader = FrameReader(_standard(tmp_path / "c.mp4", size, matrix, full, wanted))
    found = reader.picture(1, *size, "rgb24").to_ndarray(format="rgb24")[100:110, 100:110].mean(axis=(0, 1))
    reader.close()
    assert np.abs(found - wanted).max() <= 4


def test_a_file_that_changes_its_range_half_way_is_converted_anew() -> None:
    from chapto.media.frame_converter import FrameConverter

    shaper = FrameConverter(64, 64, "rgb24")
    shown = []
    for full in (False, True, False):
        frame = av.VideoFrame(64, 64, "yuv420p")
        for plane, value in zip(frame.planes, (128, 128, 128), strict=True):
            np.frombuffer(plane, np.uint8)[:] = value
        frame.colorspace, frame.color_range, frame.pts, frame.time_base = 1, 2 if full else 1, 0, Fraction(1, 30)
        shown.append(float(shaper.shape(frame).to_ndarray(format="rgb24").mean()))
    assert shown[0] == pytest.approx(130, abs=1.5) and shown[1] == pytest.approx(128, abs=1.5)
    assert shown[2] == pytest.approx(shown[0], abs=0.5)
