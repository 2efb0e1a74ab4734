"""Hearing a take alone, apart from the programme."""

from __future__ import annotations

from collections.abc import Callable

import numpy as np
from PyQt6.QtCore import QObject, QTimer, pyqtSignal

from chapto.app.screen.player import Player
from chapto.media.sound import RATE, Samples
from chapto.voice.taken_line import TakenLine

LOOK_EVERY = 30
"""Milliseconds."""


class Listening(QObject):
    """Plays samples through the player's speaker. `at` carries the second of the take that is heard, `ended` follows
    its end, or that something else is played."""

    at = pyqtSignal(float)
    ended = pyqtSignal()

    def __init__(self, player: Player) -> None:
        super().__init__()
        self._player = player
        self._line: TakenLine | None = None
        self._seconds = 0.0
        self._timer = QTimer(self)
        self._timer.setInterval(LOOK_EVERY)
        self._timer.timeout.connect(self._look)
        player.playing_changed.connect(self._interrupted)

    @property
    def is_on(self) -> bool:
        """Whether something is heard."""
        return self._timer.isActive()

    def hear(self, line: TakenLine, samples: Samples) -> None:
        """Hear (n,) samples of a line from their beginning."""
        self._player.pause()
        self._line, self._seconds = line, len(samples) / RATE
        self._player.speaker.start(source_of(samples), 0)
        self._timer.start()

    def stop(self) -> None:
        """Fall silent."""
        if self.is_on:
            self._timer.stop()
            self._player.speaker.stop()
            self.ended.emit()

    def _look(self) -> None:
        played = self._player.speaker.played()
        assert self._line is not None
        if played >= self._seconds:
            self.stop()
        else:
            self.at.emit(_take_second(self._line, played * self._line.tempo))

    def _interrupted(self) -> None:
        if self._player.playing and self.is_on:
            self._timer.stop()
            self.ended.emit()


def _take_second(line: TakenLine, played: float) -> float:
    """Where in the take it is after so many seconds of what is heard of it."""
    for start, end in line.kept:
        if played < end - start:
            return start + played
        played -= end - start
    return line.end


def source_of(samples: Samples) -> Callable[[int, int], Samples]:
    """What a speaker reads to play (n,) samples on both sides."""

    def read(first: int, count: int) -> Samples:
        out = np.zeros((count, 2), np.float32)
        part = samples[first : first + count]
        out[: len(part)] = part[:, None]
        return out

    return read
