"""A piece tells its packets without being opened, and is an MP4 file for everybody else."""

from __future__ import annotations

from fractions import Fraction as F
from io import BytesIO

import av
import numpy as np
import pytest

from chapto.render.piece_packets import NoPiece, listed, packets_of


@pytest.fixture(scope="module")
def mp4() -> bytes:
    """Forty pictures with two key pictures, and such as lean on later ones."""
    made, noise = BytesIO(), np.random.default_rng(4)
    with av.open(made, "w", format="mp4") as out:
        video = out.add_stream("libx264", rate=30, options={"bf": "2", "g": "25"})
        video.width, video.height, video.pix_fmt = 160, 96, "yuv420p"
        still = noise.integers(0, 255, (96, 160, 3), np.uint8)
        for i in range(40):
            out.mux(video.encode(av.VideoFrame.from_ndarray(np.roll(still, 3 * i, axis=1), format="rgb24")))
        out.mux(video.encode(None))
    return made.getvalue()


def test_the_list_is_what_another_reader_finds(mp4: bytes) -> None:
    piece = listed(mp4, F(30))
    found = packets_of(piece)
    with av.open(BytesIO(piece), "r") as source:
        stream = source.streams.video[0]
        packets = [p for p in source.demux(stream) if p.size]
        assert found.extra == stream.codec_context.extradata
        assert [piece[a : a + n] for a, n in zip(found.places, found.sizes, strict=True)] == [bytes(p) for p in packets]
        assert found.keys == [p.is_keyframe for p in packets] and sum(found.keys) == 2
        assert found.shows == [round(p.pts * p.time_base * 30) for p in packets] != sorted(found.shows)
    assert sorted(found.shows) == list(range(40))


def test_the_list_is_a_box_that_others_skip(mp4: bytes) -> None:
    """ISO/IEC 14496-12: a box is its length, its type and its body; `uuid` is anybody's, told by sixteen bytes."""
    piece, kinds, at = listed(mp4, F(30)), [], 0
    while at < len(piece):
        kinds.append(piece[at + 4 : at + 8])
        at += int.from_bytes(piece[at : at + 4])
    assert at == len(piece) and kinds[0] == b"ftyp" and kinds[-1] == b"uuid"
    assert piece[: len(mp4)] == mp4


def test_what_was_cut_off_or_is_no_piece_is_told(mp4: bytes) -> None:
    piece = listed(mp4, F(30))
    for cut in (*range(0, len(piece), 97), len(piece) - 1):
        with pytest.raises(NoPiece):
            packets_of(piece[:cut])
    for other in (b"", b"\0" * 64, mp4, piece[:-5] + b"\xff" + piece[-4:]):
        with pytest.raises(NoPiece):
            packets_of(other)
