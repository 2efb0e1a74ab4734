"""Letting the window work for a while, where nobody sits before it."""

from __future__ import annotations

import time
from collections.abc import Callable

from PyQt6.QtWidgets import QApplication


def let_run(settled: Callable[[], bool], *, longest: float = 120.0) -> None:
    """Let events run until `settled`, at most so many seconds, and a little longer for what is painted then."""
    start = time.monotonic()
    while time.monotonic() - start < longest:
        QApplication.processEvents()
        time.sleep(0.005)
        if time.monotonic() - start > 0.4 and settled():
            break
    QApplication.processEvents()
