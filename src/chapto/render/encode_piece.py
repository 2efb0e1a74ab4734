"""One piece of a programme, encoded by itself: a small MP4 file of its pictures."""

from __future__ import annotations

from collections.abc import Callable
from io import BytesIO
from typing import TYPE_CHECKING, cast

import av

from chapto.errors import Cancelled
from chapto.render.encodings import GROUP, Encoding
from chapto.render.piece_packets import listed
from chapto.render.pieces import Piece

if TYPE_CHECKING:
    from chapto.render.frames import ProgrammeFrames


def encode_piece(
    frames: ProgrammeFrames, piece: Piece, encoding: Encoding, cancelled: Callable[[], bool] = lambda: False
) -> bytes:
    """The piece as an MP4 file without sound, with its packets listed at the end; the same bytes each time. Raises
    `Cancelled` when stopped."""
    made, fps, code = BytesIO(), encoding.fps, encoding.picture
    with av.open(made, "w", format="mp4") as out:
        video = cast(av.VideoStream, out.add_stream(code.encoder, rate=fps))
        video.width, video.height, video.pix_fmt = encoding.width, encoding.height, "yuv420p"
        video.options = dict(encoding.options)
        context = video.codec_context
        context.thread_count, context.gop_size, context.time_base = 1, GROUP, 1 / fps
        for number in range(piece.start, piece.stop):
            if cancelled():
                raise Cancelled
            frame = frames.frame(number)
            frame.pts, frame.time_base, frame.pict_type = number - piece.start, 1 / fps, 0
            out.mux(video.encode(frame))
        out.mux(video.encode(None))
    return listed(made.getvalue(), fps)
