"""Making things in a thread of their own, a few ahead of where they are used."""

from __future__ import annotations

import queue
import threading
from collections.abc import Iterable, Iterator
from typing import Generic, TypeVar

Item = TypeVar("Item")
_PATIENCE = 0.1


class Ahead(Generic[Item]):
    """Iterates over `source` in another thread, at most `depth` items ahead. What the source raises comes out here.

    Use it in a `with` statement: leaving it ends the thread, also half-way.
    """

    def __init__(self, source: Iterable[Item], *, depth: int, name: str) -> None:
        self._source = source
        self._queue: queue.Queue[tuple[bool, Item | BaseException | None]] = queue.Queue(depth)
        self._closed = threading.Event()
        self._thread = threading.Thread(target=self._work, name=name, daemon=True)

    def __enter__(self) -> Iterator[Item]:
        self._thread.start()
        return self._items()

    def __exit__(self, *_: object) -> None:
        self._closed.set()
        self._thread.join()

    def _items(self) -> Iterator[Item]:
        while True:
            is_item, what = self._queue.get()
            if is_item:
                yield what  # type: ignore[misc]
            elif isinstance(what, BaseException):
                raise what
            else:
                return

    def _work(self) -> None:
        end: BaseException | None = None
        try:
            for item in self._source:
                if not self._put((True, item)):
                    return
        except BaseException as error:
            end = error
        self._put((False, end))

    def _put(self, what: tuple[bool, Item | BaseException | None]) -> bool:
        """Whether it was taken; not when the reader has gone."""
        while not self._closed.is_set():
            try:
                self._queue.put(what, timeout=_PATIENCE)
            except queue.Full:
                continue
            return True
        return False
