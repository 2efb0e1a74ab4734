"""What is known of a file as it is now: finding out reads through it."""

from __future__ import annotations

import os
from collections.abc import Callable
from pathlib import Path
from typing import Generic, TypeVar

from chapto.media.remembered import Remembered

T = TypeVar("T")


class KnownByFile(Generic[T]):
    """Remembers one thing of each of the `most` files that were asked for last."""

    def __init__(self, most: int) -> None:
        self._known: Remembered[T] = Remembered(most)

    def of(self, path: Path, find: Callable[[], T]) -> T:
        """What is known of the file at `path`, or what `find` finds now; what that raises goes on."""
        try:
            found = os.stat(path)
        except OSError:
            # Moved since it was opened: it can be read, but not known again.
            return find()
        # Another file at the same place is another one.
        return self._known.of((found.st_dev, found.st_ino, found.st_size, found.st_mtime_ns), find)
