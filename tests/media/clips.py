"""Clips of every awkward kind, made on the spot. Frame i of a clip is grey with brightness 16 + 6·i (from i = 30
on again from 16), with a white block at the upper left of the picture as it is stored."""

from __future__ import annotations

from dataclasses import dataclass, field
from fractions import Fraction
from pathlib import Path
from typing import Any

import av
import numpy as np

BASE = Fraction(1, 90_000)


@dataclass(frozen=True)
class Clip:
    """What to make; `stamps` are seconds of each frame."""

    codec: str = "libx264"
    pix_fmt: str = "yuv420p"
    width: int = 320
    height: int = 180
    frames: int = 30
    stamps: tuple[float, ...] = ()
    rotation: int = 0
    sound: str | None = "stereo"
    sound_rate: int = 48_000
    start: float = 0.0
    interlaced: bool = False
    gop: int = 12
    options: dict[str, str] = field(default_factory=dict)


def luma(i: int) -> int:
    """Brightness (limited range) of frame i."""
    return 16 + 6 * (i % 30)


def make(path: Path, clip: Clip) -> Path:
    """Write the clip and return its path."""
    times = clip.stamps or tuple(i / 30 for i in range(clip.frames))
    with av.open(str(path), "w") as out:
        video: Any = out.add_stream(clip.codec, rate=30)
        video.width, video.height, video.pix_fmt = clip.width, clip.height, clip.pix_fmt
        video.codec_context.time_base = video.time_base = BASE
        video.codec_context.gop_size = clip.gop
        base = {"crf": "12", "preset": "ultrafast"} if clip.codec in ("libx264", "libx265") else {}
        if clip.codec == "libx265":
            base["x265-params"] = "log-level=none"
        if clip.interlaced:
            base |= {"flags": "+ildct+ilme", "x264-params": "tff=1"}
        video.options = base | clip.options
        audio: Any = None
        if clip.sound:
            codec = "aac" if path.suffix in (".mp4", ".mov") else "libopus"
            audio = out.add_stream(codec, rate=clip.sound_rate, layout=clip.sound)
            _sound(out, audio, clip, times[-1] + 1 / 30)
        for i, t in enumerate(times):
            frame = _picture(clip, i)
            frame.pts, frame.time_base = round((clip.start + t) / BASE), BASE
            out.mux(video.encode(frame))
        out.mux(video.encode(None))
    if clip.rotation:
        _rotate(path, clip.rotation)
    return path


def _picture(clip: Clip, i: int) -> av.VideoFrame:
    grey = np.full((clip.height, clip.width, 3), (luma(i) - 16) / 219 * 255, np.uint8)
    grey[: clip.height // 4, : clip.width // 4] = 255
    return av.VideoFrame.from_ndarray(grey, format="rgb24").reformat(format=clip.pix_fmt, interpolation="AREA")


def _sound(out: av.container.OutputContainer, stream: Any, clip: Clip, seconds: float) -> None:
    """A 440 Hz tone that begins half way through."""
    n = round(seconds * clip.sound_rate)
    t = np.arange(n) / clip.sound_rate
    tone = (0.5 * np.sin(2 * np.pi * 440 * t) * (t >= seconds / 2)).astype(np.float32)
    fmt = "fltp" if stream.codec_context.name == "aac" else "flt"
    channels = 1 if clip.sound == "mono" else 2
    for at in range(0, n, 960):
        block = np.repeat(tone[None, at : at + 960], channels, axis=0)
        block = block if fmt == "fltp" else np.ascontiguousarray(block.T).reshape(1, -1)
        frame = av.AudioFrame.from_ndarray(np.ascontiguousarray(block), format=fmt, layout=clip.sound)
        frame.sample_rate, frame.time_base = clip.sound_rate, Fraction(1, clip.sound_rate)
        frame.pts = at + round(clip.start * clip.sound_rate)
        out.mux(stream.encode(frame))
    out.mux(stream.encode(None))


def _rotate(path: Path, degrees: int) -> None:
    """Write a display matrix (clockwise degrees) into the video track's header, as phones do (ISO 14496-12)."""
    data = bytearray(path.read_bytes())
    at = data.index(b"tkhd") + 4 + 40
    one = 0x10000
    a, b, c, d = {90: (0, one, -one, 0), 180: (-one, 0, 0, -one), 270: (0, -one, one, 0)}[degrees]
    for i, value in enumerate((a, b, 0, c, d, 0, 0, 0, 0x40000000)):
        data[at + 4 * i : at + 4 * i + 4] = value.to_bytes(4, "big", signed=True)
    path.write_bytes(bytes(data))
