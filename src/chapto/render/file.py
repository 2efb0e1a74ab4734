"""The programme as one video file: its pieces encoded side by side or taken from the cache, its sound encoded once, and
both joined, chapters inside."""

from __future__ import annotations

import errno
import tempfile
from collections.abc import Callable, Iterator, Mapping
from concurrent.futures import Future, ThreadPoolExecutor
from contextlib import contextmanager
from pathlib import Path
from types import MappingProxyType

import av.error
import numpy as np
from numpy.typing import NDArray

from chapto.document.breakdown import Breakdown
from chapto.errors import Cancelled, ChaptoError
from chapto.media.sound import FootageSound
from chapto.programme.programme import Programme
from chapto.render import piece_cache
from chapto.render.chapters_inside import flat_chapters, nested_chapters
from chapto.render.encode_piece import encode_piece
from chapto.render.encodings import Box, Encoding, encoding_of
from chapto.render.join import Inside, JoinError, join
from chapto.render.matroska import nest_chapters
from chapto.render.order import Order, name_of
from chapto.render.pieces import Piece, edges_of, pieces_of
from chapto.render.sounds import Sounds
from chapto.render.soundtrack import soundtrack
from chapto.render.worker import Encoders, Sent, WorkersLost
from chapto.store.outputs import OutputGate

Ready = Callable[[tuple[tuple[int, int], ...]], None]
"""Hears spans of frames: the first of each, and the one after its last."""
FEW = 240
"""Frames up to which other processes are not worth starting."""
PLANNED = 0.03
"""Share of a render that looking through the programme takes, about."""
AGAIN = 3
"""Times that pieces which went missing meanwhile are made again."""


class RenderError(ChaptoError):
    """A render that could not be finished; nothing stands under the final name."""


def render(
    b: Breakdown,
    programme: Programme,
    places: dict[str, Path],
    speeches: Mapping[str, NDArray[np.float32]],
    sounds: Mapping[str, FootageSound],
    target: Path,
    gate: OutputGate,
    *,
    photos: Mapping[str, Path] = MappingProxyType({}),
    cover: bytes = b"",
    quick: bool = False,
    workers: Encoders | None = None,
    progress: Callable[[float], None] = lambda share: None,
    ready: Ready = lambda spans: None,
    cancelled: Callable[[], bool] = lambda: False,
) -> Path:
    """Write the programme through `gate` to `target`, whose ending chooses the container. `progress` hears the share
    done, `ready` which frames are encoded, as spans; a `cover` is a JPEG that stands for the video in containers that
    hold one. With `quick` it is made from quick pictures. Without `workers` everything is encoded in this process, to
    the same bytes.

    It is written under another name and renamed at the end. Raises `Cancelled` when stopped, `RenderError` when the
    disk is full or the place can't be written. Then nothing is left behind, and what was there is as it was; pieces
    that were ready are in the cache, and the next render goes on from them.
    """
    encoding = encoding_of(target.suffix, b.format, quick=quick)
    if encoding is None:
        raise RenderError(f"“{target.name}” should end in .mp4, .mkv or .webm.")
    if not programme.passages:
        raise RenderError("There is nothing to render yet: the script has no section.")
    gate.check(target)
    order = Order(b, programme, places, dict(photos), quick)
    captions = () if b.format.burnt_captions else programme.captions
    inside = Inside(b.title, flat_chapters(programme), captions, cover)
    try:
        with (
            _heard(b, programme, Sounds(speeches, sounds), encoding, cancelled) as sound,
            _Making(order, encoding, workers, progress, ready, cancelled) as making,
        ):
            pieces = making.plan()
            for attempt in range(AGAIN):
                making.make(pieces)
                try:
                    with gate.making(target) as part:
                        join(
                            part,
                            _kept(pieces),
                            sound.result(),
                            encoding,
                            inside,
                            seconds=programme.seconds,
                            cancelled=cancelled,
                        )
                        if encoding.box is Box.MKV and inside.chapters:
                            nest_chapters(part, nested_chapters(programme))
                    break
                except (JoinError, _Missing) as error:
                    piece_cache.forget(error.digest)
                    if attempt == AGAIN - 1:
                        raise RenderError("Pieces of the video vanish from the cache while it is made.") from None
    except (av.error.FFmpegError, OSError) as error:
        raise RenderError(_reason(error, target)) from None
    progress(1.0)
    return target


class _Missing(Exception):
    """A piece that is not in the cache any more."""

    def __init__(self, digest: str) -> None:
        super().__init__(digest)
        self.digest = digest


def _kept(pieces: tuple[Piece, ...]) -> Iterator[tuple[str, int, Path]]:
    for piece in pieces:
        place = piece_cache.kept(piece.digest)
        if place is None:
            raise _Missing(piece.digest)
        yield piece.digest, piece.frames, place


@contextmanager
def _heard(
    b: Breakdown, programme: Programme, sounds: Sounds, encoding: Encoding, cancelled: Callable[[], bool]
) -> Iterator[Future[Path]]:
    """The sound, made in a thread of its own meanwhile."""
    left = False
    with ThreadPoolExecutor(1, thread_name_prefix="sound") as thread:
        try:
            yield thread.submit(soundtrack, b, programme, sounds, encoding, lambda: left or cancelled())
        finally:
            left = True


class _Making:
    """The pieces of one render: which there are, and putting those that are missing into the cache."""

    def __init__(
        self,
        order: Order,
        encoding: Encoding,
        workers: Encoders | None,
        progress: Callable[[float], None],
        ready: Ready,
        cancelled: Callable[[], bool],
    ) -> None:
        self._ready = ready
        self._order, self._encoding, self._workers = order, encoding, workers
        self._progress, self._cancelled = progress, cancelled
        self._scratch = tempfile.TemporaryDirectory(prefix="chapto-render-")
        self._sent: Sent | None = None
        self._frames = order.frames()

    def __enter__(self) -> _Making:
        return self

    def __exit__(self, *_: object) -> None:
        self._frames.close()
        self._scratch.cleanup()

    def plan(self) -> tuple[Piece, ...]:
        """The pieces of the programme."""
        p = self._order.programme
        contents = None
        if self._workers is not None and (self._workers.is_up or p.frames > FEW):
            try:
                contents = self._workers.contents(self._send(), p.frames, self._cancelled)
            except WorkersLost:
                self._workers = None
        if contents is None:
            contents = []
            for number in range(p.frames):
                if self._cancelled():
                    raise Cancelled
                contents.append(self._frames.content(number))
        self._progress(PLANNED)
        return pieces_of(contents, edges_of(p), self._encoding)

    def make(self, pieces: tuple[Piece, ...]) -> None:
        """Put what is missing into the cache. Raises `Cancelled` when stopped."""
        missing = {p.digest: p for p in pieces if piece_cache.kept(p.digest) is None}
        whole = max(sum(p.frames for p in missing.values()), 1)
        done = 0
        self._ready(tuple((p.start, p.stop) for p in pieces if p.digest not in missing))
        while missing:
            for piece in self._made(tuple(missing.values())):
                del missing[piece.digest]
                done += piece.frames
                self._ready(tuple((p.start, p.stop) for p in pieces if p.digest == piece.digest))
                self._progress(PLANNED + (0.98 - PLANNED) * done / whole)

    def _made(self, pieces: tuple[Piece, ...]) -> Iterator[Piece]:
        """Each piece once it is in the cache; not all of them where the processes died."""
        several = len(pieces) > 1 and self._workers is not None and self._workers.is_up
        if self._workers is not None and (several or sum(p.frames for p in pieces) > FEW):
            try:
                yield from self._workers.encode(self._send(), pieces, self._encoding, self._cancelled)
            except WorkersLost:
                # Slower, but it gets done.
                self._workers = None
            return
        for piece in pieces:
            piece_cache.keep(piece.digest, encode_piece(self._frames, piece, self._encoding, self._cancelled))
            yield piece

    def _send(self) -> Sent:
        """The order where every process finds it."""
        if self._sent is None:
            packed, place = self._order.packed(), Path(self._scratch.name) / "order"
            place.write_bytes(packed)
            self._sent = Sent(name_of(packed), place)
        return self._sent


def _reason(error: OSError | av.error.FFmpegError, target: Path) -> str:
    number = getattr(error, "errno", None)
    if number == errno.ENOSPC:
        return f"The disk is full; “{target.name}” was not made. Make room or choose another place."
    if number in (errno.EACCES, errno.EPERM, errno.EROFS):
        return f"The folder “{target.parent}” can't be written to; choose another place."
    return f"“{target.name}” could not be made: {getattr(error, 'strerror', None) or error}."
