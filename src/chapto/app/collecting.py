"""Python's cycles are collected in the interface thread only.

Left to itself, Python does so in whichever thread makes the most objects. A window that was closed would then be taken
apart by a thread that reads a file, while Qt still delivers events to its parts: the end of the process.
"""

from __future__ import annotations

import gc

from PyQt6.QtCore import QObject, QTimer

EVERY = 250
"""Milliseconds between two looks."""


class Collecting(QObject):
    """As long as it lives nothing is collected elsewhere. Holding the lock of all threads, it takes them no longer than
    it would take any of them."""

    def __init__(self, parent: QObject) -> None:
        super().__init__(parent)
        gc.disable()
        self._timer = QTimer(self)
        self._timer.setInterval(EVERY)
        self._timer.timeout.connect(self.look)
        self._timer.start()

    def look(self) -> None:
        """Collect the oldest generation whose time has come, as Python would."""
        counts = zip(gc.get_count(), gc.get_threshold(), strict=True)
        due = [generation for generation, (count, limit) in enumerate(counts) if count > limit]
        if due:
            gc.collect(due[-1])
