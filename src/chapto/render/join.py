"""Pieces and sound put together in one file, without encoding anything again."""

from __future__ import annotations

import heapq
from collections.abc import Callable, Iterable, Iterator
from dataclasses import dataclass
from fractions import Fraction
from io import BytesIO
from itertools import chain
from pathlib import Path
from typing import TYPE_CHECKING, Any

import av

from chapto.errors import Cancelled, ChaptoError
from chapto.media.opening import file_url
from chapto.programme.programme import Caption
from chapto.render.caption_track import caption_packets
from chapto.render.encodings import CONTAINER_OPTIONS, Box, Encoding
from chapto.render.piece_packets import NoPiece, packets_of

if TYPE_CHECKING:
    from av.container.core import Chapter

    Packet = av.Packet[Any]


class JoinError(ChaptoError):
    """Pieces that do not fit together; `digest` is that of the first that does not."""

    def __init__(self, digest: str) -> None:
        super().__init__("The pieces of the video do not fit together; render again.")
        self.digest = digest


@dataclass(frozen=True)
class Inside:
    """What a container holds beside pictures and sound: its title, chapters, captions that can be switched on, and a
    picture that stands for it (JPEG; Matroska only)."""

    title: str = ""
    chapters: tuple[Chapter, ...] = ()
    captions: tuple[Caption, ...] = ()
    cover: bytes = b""


def join(
    part: Path,
    pieces: Iterable[tuple[str, int, Path]],
    sound: Path,
    encoding: Encoding,
    inside: Inside,
    *,
    seconds: Fraction,
    cancelled: Callable[[], bool] = lambda: False,
) -> None:
    """Write the container `part`: `pieces` are digest, number of frames and place of each, one after another; `seconds`
    is the whole length. Raises `JoinError`, `Cancelled`, and FFmpeg's own errors."""
    options = CONTAINER_OPTIONS[encoding.box]
    kind = {".mp4": "mp4", ".mkv": "matroska", ".webm": "webm"}[encoding.box]
    with av.open(file_url(part), "w", format=kind, options=options) as out, av.open(file_url(sound)) as heard:
        out.metadata["title"] = inside.title
        out.set_chapters(list(inside.chapters))
        pictures = _pictures(out, pieces, encoding)
        first = next(pictures)
        audio = out.add_stream_from_template(heard.streams.audio[0], opaque=True)
        said = caption_packets(out, inside.captions, encoding.box) if inside.captions else iter(())
        if inside.cover and encoding.box is Box.MKV:
            out.add_attachment("cover.jpg", "image/jpeg", inside.cover)
        for packet in heapq.merge(chain([first], pictures), _sound(heard, audio, seconds), said, key=_seconds):
            if cancelled():
                raise Cancelled
            out.mux(packet)


def _pictures(
    out: av.container.OutputContainer, pieces: Iterable[tuple[str, int, Path]], encoding: Encoding
) -> Iterator[Packet]:
    """The packets of all pieces, stamped through: shown as they were in their piece, decoded one each frame."""
    stream: Any = None
    extra = b""
    at, base = 0, 1 / encoding.fps
    for digest, frames, place in pieces:
        data = place.read_bytes()
        try:
            found = packets_of(data)
        except NoPiece:
            raise JoinError(digest) from None
        if stream is None:
            stream, extra = _stream_like(out, data, encoding), found.extra
        if found.extra != extra or len(found.places) != frames or not found.keys[0]:
            raise JoinError(digest)
        for number, (start, size, shown, key) in enumerate(
            zip(found.places, found.sizes, found.shows, found.keys, strict=True)
        ):
            packet: Any = av.Packet(data[start : start + size])
            packet.stream, packet.time_base, packet.is_keyframe = stream, base, key
            packet.pts, packet.dts, packet.duration = at + shown, at + number - encoding.picture.delay, 1
            if packet.dts > packet.pts:
                raise JoinError(digest)
            yield packet
        at += frames


def _stream_like(out: av.container.OutputContainer, piece: bytes, encoding: Encoding) -> Any:
    """A stream for the packets of pieces like this one."""
    with av.open(BytesIO(piece)) as source:
        stream: Any = out.add_stream_from_template(source.streams.video[0], opaque=True)
    stream.time_base = 1 / encoding.fps
    if encoding.picture.tag and encoding.box == ".mp4":
        stream.codec_context.codec_tag = encoding.picture.tag
    return stream


def _sound(heard: av.container.InputContainer, stream: Any, seconds: Fraction) -> Iterator[Packet]:
    """The packets of the sound; the last ends with the programme."""
    for packet in heard.demux(heard.streams.audio[0]):
        if packet.size:
            packet.stream = stream
            if packet.pts is not None and packet.duration:
                left = int(seconds / packet.time_base) - packet.pts
                packet.duration = max(min(packet.duration, left), 1)
            yield packet


def _seconds(packet: Packet) -> float:
    # To the nearest millionth, in which two of one time are one.
    return round(float((packet.dts or 0) * packet.time_base.numerator) / packet.time_base.denominator, 6)
