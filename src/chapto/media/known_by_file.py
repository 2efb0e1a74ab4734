"""What is known of a file as it is now, remembered while Chapto runs: finding out reads through it."""

from __future__ import annotations

import os
import threading
from collections import OrderedDict
from collections.abc import Callable
from pathlib import Path
from typing import Generic, TypeVar

T = TypeVar("T")
Identity = tuple[int, int, int, int]
"""Device, node, size and time of the last change: another file at the same place is another one."""


class KnownByFile(Generic[T]):
    """Remembers one thing of each of the `most` files that were asked for last."""

    def __init__(self, most: int) -> None:
        self._most = most
        self._known: OrderedDict[Identity, T] = OrderedDict()
        self._finding: dict[Identity, threading.Lock] = {}
        self._guard = threading.Lock()

    def of(self, path: Path, find: Callable[[], T]) -> T:
        """What is known of the file at `path`, or what `find` finds now; what that raises goes on. Who asks while
        another thread is finding it waits for that."""
        try:
            found = os.stat(path)
        except OSError:
            # Moved since it was opened: it can be read, but not known again.
            return find()
        file = found.st_dev, found.st_ino, found.st_size, found.st_mtime_ns
        with self._guard:
            lock = self._finding.setdefault(file, threading.Lock())
        with lock:
            with self._guard:
                if file in self._known:
                    self._known.move_to_end(file)
                    return self._known[file]
            made = find()
            with self._guard:
                self._known[file] = made
                while len(self._known) > self._most:
                    self._finding.pop(self._known.popitem(last=False)[0], None)
            return made
