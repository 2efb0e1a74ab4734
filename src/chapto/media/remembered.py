"""What was worked out before, remembered while Chapto runs."""

from __future__ import annotations

import threading
from collections import OrderedDict
from collections.abc import Callable, Hashable
from typing import Generic, TypeVar

T = TypeVar("T")


class Remembered(Generic[T]):
    """One thing for each of the `most` keys that were asked for last; for any threads."""

    def __init__(self, most: int) -> None:
        self._most = most
        self._known: OrderedDict[Hashable, T] = OrderedDict()
        self._making: dict[Hashable, threading.Lock] = {}
        self._guard = threading.Lock()

    def of(self, key: Hashable, make: Callable[[], T]) -> T:
        """What is known by a key, or what `make` makes now; what that raises goes on. Who asks while another thread is
        making it waits for that."""
        with self._guard:
            if key in self._known:
                self._known.move_to_end(key)
                return self._known[key]
            lock = self._making.setdefault(key, threading.Lock())
        with lock:
            with self._guard:
                if key in self._known:
                    return self._known[key]
            try:
                made = make()
                with self._guard:
                    self._known[key] = made
                    while len(self._known) > self._most:
                        self._known.popitem(last=False)
            finally:
                with self._guard:
                    self._making.pop(key, None)
            return made
