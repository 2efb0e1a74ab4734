"""Listening to a microphone for some seconds; nothing of it is kept."""

from __future__ import annotations

from collections.abc import Callable

import numpy as np
from PyQt6.QtCore import QObject, QTimer

from chapto.voice.recording.microphone import Block, Hear, Microphone


class ShortListen(QObject):
    """Hands what was heard, (n, channels), and a sentence on what went wrong (empty: nothing) to the one who asked."""

    def __init__(self) -> None:
        super().__init__()
        self._microphone: Microphone | None = None
        self._blocks: list[Block] = []
        self._trouble = ""
        self._then: Callable[[Block | None, str], object] = lambda heard, trouble: None
        self._timer = QTimer(self)
        self._timer.setSingleShot(True)
        self._timer.timeout.connect(self._end)

    @property
    def is_on(self) -> bool:
        """Whether it listens."""
        return self._microphone is not None

    def begin(
        self,
        microphone: Microphone,
        seconds: float,
        then: Callable[[Block | None, str], object],
        *,
        at_first: Callable[[], object] = lambda: None,
    ) -> None:
        """Listen for so many seconds. `at_first` is called, in another thread, when the first is heard."""
        self._microphone, self._then = microphone, then
        self._blocks, self._trouble = [], ""
        microphone.start(self._taking(at_first), self._lose)
        self._timer.start(round(seconds * 1000))

    def close(self) -> None:
        """End it; nothing is handed over any more."""
        self._timer.stop()
        if self._microphone is not None:
            self._microphone.stop()
            self._microphone = None

    def _taking(self, at_first: Callable[[], object]) -> Hear:
        def take(block: Block) -> None:
            if not self._blocks:
                at_first()
            self._blocks.append(block)

        return take

    def _lose(self, sentence: str) -> None:
        self._trouble = sentence

    def _end(self) -> None:
        self.close()
        self._then(np.concatenate(self._blocks) if self._blocks else None, self._trouble)
