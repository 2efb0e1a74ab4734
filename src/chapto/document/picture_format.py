"""What the finished video is: its size, its rate, its code, and how loud it is."""

from __future__ import annotations

from collections.abc import Iterator
from enum import StrEnum
from fractions import Fraction

import msgspec

from chapto.clock.rates import RATES
from chapto.document.mattime import exact

MAX_SIDE = 7680
QUIETEST, LOUDEST = -31, -9
"""LUFS."""
QUALITIES = (1, 2, 3, 4, 5)
"""From the smallest file to the best picture; 3 is common practice."""


class Codec(StrEnum):
    """How pictures are encoded."""

    H264 = "h264"
    HEVC = "hevc"
    VP9 = "vp9"
    AV1 = "av1"


class Format(msgspec.Struct, frozen=True, kw_only=True, forbid_unknown_fields=True):
    """Picture size in pixels, frame rate, and loudness of the finished programme in LUFS; how it is encoded, and
    whether captions are painted into it."""

    width: int = 1280
    height: int = 720
    fps: Fraction = exact("30")
    loudness: int = -14
    codec: Codec = Codec.H264
    quality: int = 3
    burnt_captions: bool = False


def format_problems(f: Format) -> Iterator[str]:
    """What makes no sense in it, a sentence each."""
    if f.fps not in RATES:
        yield f"A programme can't run at {f.fps} frames a second."
    if not (64 <= f.width <= MAX_SIDE and 64 <= f.height <= MAX_SIDE and f.width % 2 == f.height % 2 == 0):
        yield f"A picture of {f.width}×{f.height} can't be made; both sides are even and from 64 to {MAX_SIDE}."
    if not QUIETEST <= f.loudness <= LOUDEST:
        yield f"A programme can't have {f.loudness} LUFS; {QUIETEST} to {LOUDEST} are possible."
    if f.quality not in QUALITIES:
        yield f"There is no quality {f.quality}; {QUALITIES[0]} to {QUALITIES[-1]} are possible."
