"""The packets of a piece, listed at the end of its file: many pieces are joined, and opening each as a file of its own
takes longer than all else."""

from __future__ import annotations

from fractions import Fraction
from io import BytesIO

import av
import msgspec

from chapto.errors import ChaptoError

MARK = b"chapto-packets-1"
"""The type of the list among the boxes that anybody may define (ISO/IEC 14496-12, `uuid`): other readers skip it."""
SIZE = 4


class NoPiece(ChaptoError):
    """A file that is no piece with a list of its packets."""

    def __init__(self) -> None:
        super().__init__("That is no piece of a video, or a damaged one.")


class Packets(msgspec.Struct, frozen=True):
    """Of every packet, in the order of decoding, where it lies in the file, and its `sizes` in bytes. `shows` is which
    frame of the piece it is, `keys` whether it is a key picture. `extra` is what a decoder wants to know before."""

    extra: bytes
    places: list[int]
    sizes: list[int]
    shows: list[int]
    keys: list[bool]


def listed(piece: bytes, fps: Fraction) -> bytes:
    """An MP4 file of one track with its packets listed in a box behind the others."""
    places, sizes, shows, keys = [], [], [], []
    with av.open(BytesIO(piece), "r") as source:
        video = source.streams.video[0]
        extra = bytes(video.codec_context.extradata or b"")
        for packet in source.demux(video):
            if packet.size:
                assert packet.pts is not None
                assert packet.pos is not None
                places.append(packet.pos)
                sizes.append(packet.size)
                shows.append(round(packet.pts * packet.time_base * fps))
                keys.append(packet.is_keyframe)
    body = msgspec.msgpack.encode(Packets(extra, places, sizes, shows, keys))
    size = SIZE + 4 + len(MARK) + len(body) + SIZE
    return b"".join((piece, size.to_bytes(SIZE), b"uuid", MARK, body, size.to_bytes(SIZE)))


def packets_of(data: bytes) -> Packets:
    """The list at the end of a piece. Raises `NoPiece` where there is none that fits."""
    size = int.from_bytes(data[-SIZE:])
    start = len(data) - size
    head = start + SIZE + 4 + len(MARK)
    if not (start > 0 and head <= len(data) - SIZE) or data[start + SIZE : head] != b"uuid" + MARK:
        raise NoPiece
    try:
        found = msgspec.msgpack.decode(data[head:-SIZE], type=Packets)
    except msgspec.DecodeError:
        raise NoPiece from None
    alike = {len(row) for row in (found.places, found.sizes, found.shows, found.keys)}
    inside = all(0 < p <= p + s <= start and s > 0 for p, s in zip(found.places, found.sizes, strict=False))
    if len(alike) > 1 or not inside:
        raise NoPiece
    return found
