"""How a video is encoded: the encoders that the libraries bring, set up so that pieces encoded apart can be joined.

The settings by which pieces fit: one thread (several give other bytes each time), closed groups of pictures, and
parameter sets that don't change from piece to piece.
"""

from __future__ import annotations

from dataclasses import dataclass, field
from enum import StrEnum
from fractions import Fraction

from chapto.document.picture_format import Codec, Format


class Box(StrEnum):
    """A container by its ending."""

    MP4 = ".mp4"
    MKV = ".mkv"
    WEBM = ".webm"


COLOUR = {"colorspace": "bt709", "color_primaries": "bt709", "color_trc": "bt709", "color_range": "tv"}
GROUP = 60
"""Pictures from one closed group to the next, at most."""


@dataclass(frozen=True)
class PictureCode:
    """An encoder. `delay` is by how many pictures decoding runs ahead of showing; `rate_factors` are the constant
    rate factors for quality 1 (smallest file) to 5 (best picture), 3 being common practice."""

    encoder: str
    said: str
    delay: int
    rate_factors: tuple[int, int, int, int, int]
    options: dict[str, str] = field(hash=False)
    boxes: tuple[Box, ...] = (Box.MP4, Box.MKV)
    tag: str = ""

    def options_of(self, quality: int) -> dict[str, str]:
        """What the encoder is told for a quality of 1 to 5."""
        return {**self.options, "crf": str(self.rate_factors[quality - 1]), **COLOUR}


@dataclass(frozen=True)
class SoundCode:
    """A sound encoder: `bits` a second, the shape of the samples it takes, how many at once, what else it is told."""

    encoder: str
    bits: int
    sample_format: str
    frame: int
    options: tuple[tuple[str, str], ...] = ()


PICTURES = {
    Codec.H264: PictureCode(
        "libx264", "H.264", 2, (28, 24, 20, 18, 16),
        {"preset": "veryfast", "x264-params": "stitchable=1"},
    ),
    Codec.HEVC: PictureCode(
        "libx265", "HEVC", 2, (32, 28, 24, 21, 18),
        {
            "preset": "veryfast",
            "x265-params": "open-gop=0:repeat-headers=0:info=0:pools=none:frame-threads=1:log-level=error",
        },
        tag="hvc1",
    ),
    Codec.VP9: PictureCode(
        "libvpx-vp9", "VP9", 0, (42, 36, 31, 26, 20),
        {"deadline": "realtime", "cpu-used": "6", "row-mt": "0", "b": "0"},
        boxes=(Box.WEBM, Box.MKV, Box.MP4),
    ),
    Codec.AV1: PictureCode(
        "libsvtav1", "AV1", 0, (48, 42, 35, 29, 23),
        {"preset": "10", "svtav1-params": "lp=1"},
        boxes=(Box.MP4, Box.MKV, Box.WEBM),
    ),
}  # fmt: skip
# Three times as quick as the usual coder, and nearer to the sound (measured on the demo: 35.7 dB against 31.9).
AAC = SoundCode("aac", 160_000, "fltp", 1024, (("aac_coder", "fast"),))
OPUS = SoundCode("libopus", 128_000, "flt", 960)
CONTAINER_OPTIONS = {Box.MP4: {"movflags": "+faststart"}, Box.MKV: {}, Box.WEBM: {}}


@dataclass(frozen=True)
class Encoding:
    """What a video becomes: its container, its codes, its size and rate."""

    box: Box
    codec: Codec
    quality: int
    width: int
    height: int
    fps: Fraction
    quick: bool = False

    @property
    def options(self) -> dict[str, str]:
        """What the encoder of its pictures is told; a quick one makes larger files sooner."""
        made = self.picture.options_of(self.quality)
        return {**made, "preset": "ultrafast"} if self.quick and self.codec is Codec.H264 else made

    @property
    def picture(self) -> PictureCode:
        """The encoder of its pictures."""
        return PICTURES[self.codec]

    @property
    def sound(self) -> SoundCode:
        """The encoder of its sound: AAC plays everywhere; WebM holds Opus only."""
        return OPUS if self.box is Box.WEBM else AAC


def encoding_of(ending: str, f: Format, *, quick: bool = False) -> Encoding | None:
    """How a file with that ending is encoded for a document's format; None for an ending that is no container. A code
    that the container does not hold gives way to the one it is known for."""
    try:
        box = Box(ending.lower())
    except ValueError:
        return None
    codec = f.codec if box in PICTURES[f.codec].boxes else Codec.VP9
    return Encoding(box, codec, f.quality, f.width, f.height, f.fps, quick)
