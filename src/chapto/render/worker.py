"""Processes that encode pieces, and what runs in each of them.

Neither decoders nor Qt survive a fork, so they are started anew (`spawn`). That takes a moment: they live on from one
render to the next, until they are closed.
"""

from __future__ import annotations

import contextlib
import os
import threading
import time
from collections import OrderedDict
from collections.abc import Callable, Iterator, Sequence
from concurrent.futures import FIRST_COMPLETED, Future, ProcessPoolExecutor, wait
from concurrent.futures.process import BrokenProcessPool
from dataclasses import dataclass
from functools import partial
from multiprocessing import get_context
from pathlib import Path
from typing import TYPE_CHECKING, Protocol, TypeVar

from chapto.errors import Cancelled
from chapto.render.encodings import Encoding
from chapto.render.pieces import Piece

if TYPE_CHECKING:
    from multiprocessing.synchronize import Event

    from chapto.render.frames import ProgrammeFrames

T = TypeVar("T")
COUNT = "CHAPTO_ENCODERS"
KNOWN = 2
"""Orders that a process keeps open."""
WAITING = 2
"""Tasks handed out for each process at a time, so that none waits for the next."""
SHARES = 3
"""Tasks for each process that looking through a programme is cut into."""
PATIENCE = 0.2
"""Seconds after which a render looks whether it was stopped."""
LOST = 3
"""Times that the processes may die before a render gives them up."""


@dataclass(frozen=True)
class Sent:
    """An order whose bytes lie at a place where every process can read them."""

    name: str
    place: Path


# ── in the process ───────────────────────────────────────────────────────────────────────────────────────────
_open: OrderedDict[str, ProgrammeFrames] = OrderedDict()
_closing: list[Event] = []


def _begin(parent: int, closing: Event) -> None:
    """What a new process does first: it gives way to others, and ends when its parent has."""
    os.environ["QT_QPA_PLATFORM"] = "offscreen"
    # The AV1 encoder tells its settings on the error output otherwise.
    os.environ.setdefault("SVT_LOG", "1")
    with contextlib.suppress(OSError):
        os.nice(10)
    _closing.append(closing)
    threading.Thread(target=_end_with, args=(parent,), daemon=True).start()


def _end_with(parent: int) -> None:
    while os.getppid() == parent:
        time.sleep(1)
    os._exit(1)


def _frames(order: Sent) -> ProgrammeFrames:
    from chapto.render.order import Order

    if order.name not in _open:
        _open[order.name] = Order.unpacked(order.place.read_bytes()).frames()
        while len(_open) > KNOWN:
            _open.popitem(last=False)[1].close()
    _open.move_to_end(order.name)
    return _open[order.name]


def _contents(order: Sent, start: int, stop: int) -> list[bytes]:
    frames = _frames(order)
    return [frames.content(i) for i in range(start, stop)]


def _encode(order: Sent, piece: Piece, encoding: Encoding) -> None:
    """Put a piece into the cache, so that it is not lost when nobody waits for it any more."""
    from chapto.render.encode_piece import encode_piece
    from chapto.render.piece_cache import keep

    keep(piece.digest, encode_piece(_frames(order), piece, encoding, _closing[0].is_set))


# ── in ours ──────────────────────────────────────────────────────────────────────────────────────────────────
class WorkersLost(Exception):
    """The processes died again and again."""


class Encoders(Protocol):
    """Whoever encodes pieces: processes of this machine, or many machines."""

    @property
    def count(self) -> int:
        """How many pieces are encoded at a time."""
        ...

    @property
    def is_up(self) -> bool:
        """Whether they are at work already, and little work is worth handing out."""
        ...

    def contents(self, order: Sent, frames: int, cancelled: Callable[[], bool]) -> list[bytes]:
        """The content of every frame of an order. Raises `Cancelled` when stopped, `WorkersLost`, or what the work
        raises."""
        ...

    def encode(
        self, order: Sent, pieces: Sequence[Piece], encoding: Encoding, cancelled: Callable[[], bool]
    ) -> Iterator[Piece]:
        """Put pieces into the cache; each is handed out when it is there. Raises as `contents` does."""
        ...


class PieceWorkers:
    """`count` processes, started when they are first needed; by default as many as the environment says in `COUNT`, or
    one for each core."""

    def __init__(self, count: int | None = None) -> None:
        self.count = count or int(os.environ.get(COUNT, "0")) or len(os.sched_getaffinity(0))
        self._pool: ProcessPoolExecutor | None = None
        self._closing: Event | None = None

    @property
    def is_up(self) -> bool:
        """Whether the processes are there."""
        return self._pool is not None

    def __enter__(self) -> PieceWorkers:
        return self

    def __exit__(self, *_: object) -> None:
        self.close()

    def contents(self, order: Sent, frames: int, cancelled: Callable[[], bool]) -> list[bytes]:
        """The content of every frame of an order. Raises `Cancelled` when stopped, `WorkersLost`, or what the work
        raises."""
        share = max(-(-frames // (self.count * SHARES)), 1)
        spans = [(i, min(i + share, frames)) for i in range(0, frames, share)]
        found = dict(self._all([partial(_contents, order, *s) for s in spans], cancelled))
        return [content for number in range(len(spans)) for content in found[number]]

    def encode(
        self, order: Sent, pieces: Sequence[Piece], encoding: Encoding, cancelled: Callable[[], bool]
    ) -> Iterator[Piece]:
        """Put pieces into the cache; each is handed out when it is there. Raises as `contents` does."""
        for number, _ in self._all([partial(_encode, order, piece, encoding) for piece in pieces], cancelled):
            yield pieces[number]

    def close(self) -> None:
        """End them; what they are at is dropped."""
        pool, self._pool = self._pool, None
        if pool is not None:
            assert self._closing is not None
            self._closing.set()
            pool.shutdown(wait=True, cancel_futures=True)

    def _ready(self) -> ProcessPoolExecutor:
        if self._pool is None:
            context = get_context("spawn")
            self._closing = context.Event()
            self._pool = ProcessPoolExecutor(
                self.count, mp_context=context, initializer=_begin, initargs=(os.getpid(), self._closing)
            )
        return self._pool

    def _all(self, tasks: Sequence[Callable[[], T]], cancelled: Callable[[], bool]) -> Iterator[tuple[int, T]]:
        """The results of tasks, numbered, as they are ready. Tasks of processes that died are done again."""
        waiting = list(range(len(tasks)))[::-1]
        running: dict[Future[T], int] = {}
        lost = 0
        try:
            while waiting or running:
                if cancelled():
                    raise Cancelled
                broken = False
                try:
                    while waiting and len(running) < self.count * WAITING:
                        running[self._ready().submit(tasks[waiting[-1]])] = waiting[-1]
                        waiting.pop()
                except BrokenProcessPool:
                    broken = True
                for future in wait(running, timeout=PATIENCE, return_when=FIRST_COMPLETED).done:
                    try:
                        result = future.result()
                    except BrokenProcessPool:
                        broken = True
                        continue
                    yield running.pop(future), result
                if broken:
                    lost += 1
                    waiting += running.values()
                    running.clear()
                    self.close()
                    if lost > LOST:
                        raise WorkersLost
        finally:
            for future in running:
                future.cancel()
