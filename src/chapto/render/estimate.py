"""How large a video will be, and how long it will take: from a second of it here and there, encoded as it would be."""

from __future__ import annotations

import time
from collections.abc import Callable
from dataclasses import dataclass

from chapto.errors import Cancelled
from chapto.render.encode_piece import encode_piece
from chapto.render.encodings import Encoding
from chapto.render.order import Order
from chapto.render.pieces import Piece

PLACES = 4
"""Where in the programme it is tried."""
FRAMES = 20
"""Frames tried at each."""
KEY_PICTURES = 0.85
"""How much of the size of short tries long pieces have: they begin with a key picture less often (measured)."""


@dataclass(frozen=True)
class Estimate:
    """Bytes of the file and seconds of the render, with nothing of it encoded before."""

    size: int
    seconds: float


def estimate(order: Order, encoding: Encoding, workers: int, cancelled: Callable[[], bool] = lambda: False) -> Estimate:
    """An estimate for so many processes at work. Raises `Cancelled` when stopped, and `MediaError`."""
    programme = order.programme
    frames = order.frames()
    size = tried = 0
    began = time.monotonic()
    try:
        for place in range(PLACES):
            if cancelled():
                raise Cancelled
            start = programme.frames * (2 * place + 1) // (2 * PLACES)
            stop = min(start + FRAMES, programme.frames)
            size += len(encode_piece(frames, Piece(start, stop, ""), encoding, cancelled))
            tried += stop - start
    finally:
        frames.close()
    took = time.monotonic() - began
    share = programme.frames / max(tried, 1)
    # A key picture begins each try, but only every piece in the file.
    sound = encoding.sound.bits / 8 * float(programme.seconds)
    return Estimate(round(size * share * KEY_PICTURES + sound), took * share / max(workers, 1))
