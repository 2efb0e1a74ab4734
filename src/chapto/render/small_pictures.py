"""Every picture of a programme, small, as it is looked at. Of one that was looked at before, only what is another is
made again."""

from __future__ import annotations

import contextlib
import hashlib
import zipfile
from collections.abc import Callable, Iterator
from dataclasses import dataclass
from io import BytesIO
from itertools import pairwise
from pathlib import Path

import numpy as np
from msgspec.structs import replace
from numpy.typing import NDArray

from chapto.document.breakdown import Breakdown
from chapto.errors import Cancelled
from chapto.paint.photos import Photos
from chapto.programme.programme import Programme
from chapto.render import piece_cache
from chapto.render.blend import planes_of
from chapto.render.encodings import Box, encoding_of
from chapto.render.frames import ProgrammeFrames
from chapto.render.pieces import Piece, edges_of, pieces_of

HIGH = 180
"""Lines of the pictures."""
CELLS = (64, 36)
"""Columns and rows of what is kept of them."""
METHOD = "looked-1"
"""Counts up when pictures are looked at in another way."""
Cells = NDArray[np.uint8]


@dataclass(frozen=True)
class Small:
    """What one picture looks like: `cells` (rows, columns, 3) sRGB, and a digest of its whole luma."""

    cells: Cells
    luma: bytes


def small_pictures(
    b: Breakdown,
    programme: Programme,
    places: dict[str, Path],
    photos: Photos | None = None,
    *,
    cancelled: Callable[[], bool] = lambda: False,
) -> Iterator[Small]:
    """The pictures one after another; equal ones that follow one another are the same object. What is seen of a piece
    is kept in the cache. Raises `MediaError` where footage is missing and `Cancelled` when stopped."""
    f = b.format
    width = max(round(HIGH * f.width / f.height / 2) * 2, 64)
    small = replace(b, format=replace(f, width=width, height=HIGH))
    encoding = encoding_of(Box.MP4, small.format)
    assert encoding is not None
    frames = ProgrammeFrames(small, programme, places, photos)
    try:
        contents = []
        for number in range(programme.frames):
            if cancelled():
                raise Cancelled
            contents.append(frames.content(number))
        for piece in pieces_of(contents, edges_of(programme), encoding):
            rows = contents[piece.start : piece.stop]
            yield from _kept(piece, rows) or _looked_at(frames, piece, rows, cancelled)
    finally:
        frames.close()


def _name(piece: Piece) -> str:
    return hashlib.blake2b(f"{METHOD}/{piece.digest}".encode(), digest_size=20).hexdigest()


def _kept(piece: Piece, contents: list[bytes]) -> list[Small] | None:
    place = piece_cache.kept(_name(piece), piece_cache.LOOKED)
    if place is None:
        return None
    try:
        with np.load(place) as data:
            # Differences from one to the next take a tenth of the room.
            cells, luma = np.cumsum(data["cells"], axis=0, dtype=np.uint8), data["luma"]
    except (OSError, ValueError, KeyError, EOFError, zipfile.BadZipFile):
        return None
    wanted = (_runs(contents)[-1] + 1, CELLS[1], CELLS[0], 3)
    if cells.shape != wanted or luma.shape != (wanted[0], 8):
        return None
    seen = [Small(one, bytes(digest)) for one, digest in zip(cells, luma, strict=True)]
    return [seen[i] for i in _runs(contents)]


def _looked_at(
    frames: ProgrammeFrames, piece: Piece, contents: list[bytes], cancelled: Callable[[], bool]
) -> Iterator[Small]:
    seen: list[Small] = []
    for number, run in enumerate(_runs(contents)):
        if cancelled():
            raise Cancelled
        if run == len(seen):
            frame = frames.frame(piece.start + number)
            luma = hashlib.blake2b(planes_of(frame)[0].tobytes(), digest_size=8).digest()
            cells = frame.reformat(*CELLS, "rgb24", interpolation="AREA").to_ndarray()
            seen.append(Small(cells.astype(np.uint8), luma))
        yield seen[run]
    all_cells = np.array([x.cells for x in seen], np.uint8)
    made = BytesIO()
    np.savez_compressed(
        made,
        cells=np.diff(all_cells, axis=0, prepend=np.zeros((1, *all_cells.shape[1:]), np.uint8)),
        luma=np.frombuffer(b"".join(x.luma for x in seen), np.uint8).reshape(-1, 8),
    )
    # A full or read-only cache only costs time.
    with contextlib.suppress(OSError):
        piece_cache.keep(_name(piece), made.getvalue(), piece_cache.LOOKED)


def _runs(contents: list[bytes]) -> list[int]:
    """The number of the picture that each frame shows, counting only where it changes."""
    numbers = [0]
    for one, other in pairwise(contents):
        numbers.append(numbers[-1] + (one != other))
    return numbers
