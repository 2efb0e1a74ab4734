"""Pieces encoded on many machines, through `distributed`: an extra, imported only where it is asked for.

A task carries all it needs and gives its piece back at once, so that nothing is lost with a machine. Footage is found
by its fingerprint: under its own path, in folders that all machines share, or in the machine's own cache. Where it is
missing it is sent there.
"""

from __future__ import annotations

import contextlib
import importlib
import threading
import zlib
from collections import OrderedDict
from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass, replace
from pathlib import Path
from typing import TYPE_CHECKING, Any

from chapto.errors import Cancelled, ChaptoError
from chapto.render.encodings import Encoding
from chapto.render.pieces import Piece, versions
from chapto.render.worker import PATIENCE, Sent

if TYPE_CHECKING:
    from chapto.render.frames import ProgrammeFrames
    from chapto.render.order import Order

BLOCK = 8 << 20
"""Bytes of footage sent at once."""
RETRIES = 3
AHEAD = 3
"""Tasks handed out for each machine at a time."""
SENDINGS = 5
"""Times that a file is sent to one machine before it is given up."""
KNOWN = 2


class ClusterError(ChaptoError):
    """Machines that can't be used."""


# ── on the machine ───────────────────────────────────────────────────────────────────────────────────────────
_open: OrderedDict[str, ProgrammeFrames] = OrderedDict()
_one_at_a_time = threading.Lock()


@dataclass(frozen=True)
class Lacking:
    """What a machine says in the place of a result: fingerprints of files it does not have."""

    machine: str
    fingerprints: tuple[str, ...]


def run_there(name: str, packed: bytes, shared: tuple[str, ...], wanted: Piece | tuple[int, int], *more: Any) -> Any:
    """Encode a piece (its bytes), or look through a span of frames (their contents)."""
    from distributed import get_worker

    from chapto.render.encode_piece import encode_piece
    from chapto.render.order import Order

    with _one_at_a_time:
        if name not in _open:
            order = Order.unpacked(zlib.decompress(packed))
            found, lacking = _placed(order, shared)
            if lacking:
                return Lacking(get_worker().address, lacking)
            _open[name] = found.frames()
            while len(_open) > KNOWN:
                _open.popitem(last=False)[1].close()
        _open.move_to_end(name)
        frames = _open[name]
        if isinstance(wanted, Piece):
            return encode_piece(frames, wanted, *more)
        return [frames.content(i) for i in range(*wanted)]


def _placed(order: Order, shared: tuple[str, ...]) -> tuple[Order, tuple[str, ...]]:
    """The order with its files where this machine has them, and the fingerprints of those it has not."""
    marks = {c.id: c.fingerprint for c in order.b.footage} | {p.id: p.fingerprint for p in order.b.photos}
    lacking: list[str] = []

    def here(places: Any) -> dict[str, Path]:
        found = {}
        for item, place in places.items():
            there = _find(Path(place), marks[item], shared)
            if there is None:
                lacking.append(marks[item])
            else:
                found[item] = there
        return found

    placed = replace(order, places=here(order.places), photos=here(order.photos))
    return placed, tuple(dict.fromkeys(lacking))


def _find(place: Path, mark: str, shared: tuple[str, ...]) -> Path | None:
    from chapto.store.fingerprint import fingerprint

    for candidate in (place, *(Path(s) / place.name for s in shared), sent_file(mark, place.suffix)):
        with contextlib.suppress(OSError, ChaptoError):
            if candidate.is_file() and fingerprint(candidate) == mark:
                return candidate
    return None


def sent_file(mark: str, suffix: str) -> Path:
    """Where a machine keeps footage that was sent to it."""
    from chapto.media.cache import cache_file

    return cache_file("sent", mark, suffix)


def take_block(mark: str, suffix: str, first: int, data: bytes) -> None:
    """Put a block of a file that is being sent in its place; the first one begins it anew."""
    place = sent_file(mark, suffix)
    place.parent.mkdir(parents=True, exist_ok=True)
    with open(place, "r+b" if first and place.exists() else "wb") as out:
        out.seek(first)
        out.write(data)


def _distributed() -> Any:
    try:
        return importlib.import_module("distributed")
    except ImportError:
        raise ClusterError(
            "Rendering on many machines needs the extra “machines”: pip install chapto[machines]."
        ) from None


# ── here ─────────────────────────────────────────────────────────────────────────────────────────────────────
class ManyMachines:
    """Takes the place of `PieceWorkers`: `address` is that of a scheduler, `shared` are folders that all machines see.
    `ClusterError` where nobody answers, or where a machine has other versions."""

    def __init__(self, address: str, shared: Sequence[Path] = ()) -> None:
        client = _distributed().Client
        try:
            self._client: Any = client(address, timeout="10s", set_as_default=False)
        except (OSError, ValueError, TypeError) as error:
            raise ClusterError(f"Nobody answers at {address}: {error}.") from None
        self._shared = tuple(str(s.absolute()) for s in shared)
        self._sent: dict[tuple[str, str], int] = {}
        self._sources: dict[str, Path] = {}
        self._check()

    @property
    def count(self) -> int:
        """How many processes there are now."""
        return len(self._client.scheduler_info(n_workers=-1)["workers"])

    @property
    def is_up(self) -> bool:
        """They are there for others too."""
        return True

    def __enter__(self) -> ManyMachines:
        return self

    def __exit__(self, *_: object) -> None:
        self.close()

    def close(self) -> None:
        """Let the machines go; they stay for others."""
        self._client.close()

    def contents(self, order: Sent, frames: int, cancelled: Callable[[], bool]) -> list[bytes]:
        """The content of every frame of an order."""
        share = max(-(-frames // (max(self.count, 1) * AHEAD)), 1)
        spans = [(i, min(i + share, frames)) for i in range(0, frames, share)]
        found = dict(self._all(order, [(s,) for s in spans], cancelled))
        return [content for number in range(len(spans)) for content in found[number]]

    def encode(
        self, order: Sent, pieces: Sequence[Piece], encoding: Encoding, cancelled: Callable[[], bool]
    ) -> Iterator[Piece]:
        """Each piece, once its bytes have come and are in our cache."""
        from chapto.render.piece_cache import keep

        for number, data in self._all(order, [(p, encoding) for p in pieces], cancelled):
            keep(pieces[number].digest, data)
            yield pieces[number]

    def _check(self) -> None:
        if not self.count:
            raise ClusterError("There is no machine at work there; start some first.")
        ours = versions()
        for machine, theirs in self._client.run(versions).items():
            if theirs != ours:
                raise ClusterError(f"The machine {machine} has other versions than this one: {theirs}, not {ours}.")

    def _all(
        self, order: Sent, tasks: Sequence[tuple[Any, ...]], cancelled: Callable[[], bool]
    ) -> Iterator[tuple[int, Any]]:
        """The results of tasks, numbered, as they come."""
        cluster = _distributed()
        packed = zlib.compress(order.place.read_bytes(), 1)
        self._know(order)
        waiting = list(range(len(tasks)))[::-1]
        running: dict[Any, int] = {}
        try:
            while waiting or running:
                if cancelled():
                    raise Cancelled
                while waiting and len(running) < max(self.count, 1) * AHEAD:
                    number = waiting.pop()
                    future = self._client.submit(
                        run_there, order.name, packed, self._shared, *tasks[number], retries=RETRIES, pure=False
                    )
                    running[future] = number
                try:
                    with self._client.as_current():
                        done = cluster.wait(list(running), timeout=PATIENCE, return_when="FIRST_COMPLETED").done
                except cluster.TimeoutError:
                    continue
                for future in done:
                    number = running.pop(future)
                    result = future.result()
                    if isinstance(result, Lacking):
                        self._send(result)
                        waiting.append(number)
                    else:
                        yield number, result
        finally:
            if running:
                self._client.cancel(list(running))

    def _know(self, order: Sent) -> None:
        """Remember where the files of an order are, by fingerprint."""
        from chapto.render.order import Order

        made = Order.unpacked(order.place.read_bytes())
        self._sources |= {c.fingerprint: made.places[c.id] for c in made.b.footage if c.id in made.places}
        self._sources |= {p.fingerprint: made.photos[p.id] for p in made.b.photos if p.id in made.photos}

    def _send(self, lacking: Lacking) -> None:
        """Send files to a machine that has them not. One that went away meanwhile is done without."""
        for mark in lacking.fingerprints:
            tries = self._sent.get((lacking.machine, mark), 0) + 1
            if tries > SENDINGS:
                raise ClusterError(f"The machine {lacking.machine} can't keep the footage it is sent.")
            self._sent[lacking.machine, mark] = tries
            source = self._sources[mark]
            with open(source, "rb") as out, contextlib.suppress(OSError, ValueError):
                first = 0
                while (block := out.read(BLOCK)) or not first:
                    self._client.run(take_block, mark, source.suffix, first, block, workers=[lacking.machine])
                    first += len(block)
                    if not block:
                        break
