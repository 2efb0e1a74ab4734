"""Captions inside a container, to be switched on: timed text in MP4, SubRip in Matroska, WebVTT in WebM."""

from __future__ import annotations

from collections.abc import Iterator
from fractions import Fraction
from typing import TYPE_CHECKING, Any, cast

import av

from chapto.programme.programme import Caption
from chapto.render.encodings import Box

if TYPE_CHECKING:
    Packet = av.Packet[Any]

BASE = Fraction(1, 1000)
HEADER = (
    "[Script Info]\nScriptType: v4.00+\n\n[V4+ Styles]\nFormat: Name, Fontname, Fontsize, PrimaryColour, "
    "SecondaryColour, OutlineColour, BackColour, Bold, Italic, Underline, StrikeOut, ScaleX, ScaleY, Spacing, Angle, "
    "BorderStyle, Outline, Shadow, Alignment, MarginL, MarginR, MarginV, Encoding\nStyle: Default,sans-serif,18,"
    "&Hffffff,&Hffffff,&H0,&H0,0,0,0,0,100,100,0,0,1,1,0,2,10,10,10,0\n\n[Events]\n"
    "Format: Layer, Start, End, Style, Name, MarginL, MarginR, MarginV, Effect, Text\n"
)
"""What the encoder of timed text wants to know of its style: an ASS header, as FFmpeg takes it."""


def caption_packets(out: av.container.OutputContainer, captions: tuple[Caption, ...], box: Box) -> Iterator[Packet]:
    """Add a track of captions to a container that is still to be begun, and give its packets in order."""
    codec = {Box.MP4: "mov_text", Box.MKV: "subrip", Box.WEBM: "webvtt"}[box]
    stream = cast(Any, out.add_stream(codec))
    stream.codec_context.subtitle_header = HEADER.encode()
    stream.time_base = BASE
    stream.metadata["language"] = "eng"
    return _packets(stream, captions, timed_text=box is Box.MP4)


def _packets(stream: Any, captions: tuple[Caption, ...], *, timed_text: bool) -> Iterator[Packet]:
    at = 0
    for caption in captions:
        start, end = round(caption.start * 1000), round(caption.end * 1000)
        if timed_text and start > at:
            # Timed text has no gaps: between two captions stands an empty one.
            yield _packet(stream, b"\0\0", at, start)
        text = caption.text.encode()
        yield _packet(stream, len(text).to_bytes(2, "big") + text if timed_text else text, start, max(end, start + 1))
        at = end


def _packet(stream: Any, data: bytes, start: int, end: int) -> Packet:
    made = cast(Any, av.Packet(data))
    made.stream, made.time_base, made.pts, made.dts, made.duration = stream, BASE, start, start, end - start
    return cast("Packet", made)
