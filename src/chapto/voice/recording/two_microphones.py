"""Two microphones heard as one with two channels: each narrator's is on a channel of its own."""

from __future__ import annotations

import threading
from collections.abc import Callable, Sequence

import numpy as np

from chapto.voice.recording.microphone import RATE, Block, Hear, Lost, Microphone, Prompt

FALLS_BEHIND = RATE // 2
"""Samples by which one may fall behind the other before it counts as silent: its clock is no worse by far."""


class TwoMicrophones:
    """A `Microphone` made of `left` and `right`, of one channel each. They begin together: the one that is heard later
    was silent until then. One that falls behind is silent meanwhile."""

    channels = 2

    def __init__(self, left: Microphone, right: Microphone) -> None:
        self._both = (left, right)
        self._waiting: list[Block] = [_silence(0), _silence(0)]
        self._begun = [False, False]
        self._lock = threading.Lock()

    def prompt(self, lines: Sequence[Prompt]) -> None:
        """Both narrators see the same."""
        for microphone in self._both:
            microphone.prompt(lines)

    def start(self, hear: Hear, lost: Lost) -> None:
        """Begin with both; where one goes away, that ends it. `OSError` where one can't be opened: then neither is."""
        self._waiting, self._begun = [_silence(0), _silence(0)], [False, False]
        left, right = self._both
        left.start(self._hearing(0, hear), lost)
        try:
            right.start(self._hearing(1, hear), lost)
        except OSError:
            left.stop()
            raise

    def stop(self) -> None:
        """End both."""
        for microphone in self._both:
            microphone.stop()

    def _hearing(self, which: int, hear: Hear) -> Callable[[Block], None]:
        def heard(block: Block) -> None:
            with self._lock:
                early = 0 if self._begun[which] else max(len(self._waiting[1 - which]) - len(block), 0)
                self._begun[which] = True
                self._waiting[which] = np.concatenate([self._waiting[which], _silence(early), block[:, :1]])
                ready = self._ready()
                if len(ready):
                    hear(ready)

        return heard

    def _ready(self) -> Block:
        """What both have, or one has alone since the other fell behind, (n, 2)."""
        short, long = sorted((0, 1), key=lambda i: len(self._waiting[i]))
        behind = len(self._waiting[long]) - len(self._waiting[short]) - FALLS_BEHIND
        if behind > 0:
            self._waiting[short] = np.concatenate([_silence(behind), self._waiting[short]])
        n = len(self._waiting[short])
        both = np.hstack([w[:n] for w in self._waiting])
        self._waiting = [w[n:] for w in self._waiting]
        return both


def _silence(count: int) -> Block:
    return np.zeros((count, 1), np.int16)
