"""Listening to the empty room for three seconds."""

from __future__ import annotations

import numpy as np
from PyQt6.QtCore import QObject, QTimer, pyqtSignal

from chapto.app.studio import Studio
from chapto.app.voice.microphones import Microphones
from chapto.voice.recording.microphone import Block, Microphone, Prompt
from chapto.voice.recording.room import SECONDS, judged


class RoomTest(QObject):
    """Says at the foot whether the room is quiet enough; nothing of it is kept."""

    done = pyqtSignal()

    def __init__(self, studio: Studio, microphones: Microphones) -> None:
        super().__init__()
        self._studio, self._microphones = studio, microphones
        self._microphone: Microphone | None = None
        self._blocks: list[Block] = []
        self._trouble = ""
        self._timer = QTimer(self)
        self._timer.setSingleShot(True)
        self._timer.timeout.connect(self._end)

    def begin(self) -> None:
        """Listen."""
        if self._microphone is not None:
            return
        self._blocks, self._trouble = [], ""
        self._microphone = self._microphones.open_for(self._studio.breakdown.narrators[0].id)
        self._microphone.prompt([Prompt("", 0.0)])
        self._studio.message.emit("Please say nothing for three seconds.")
        self._microphone.start(self._blocks.append, self._lose)
        self._timer.start(round(SECONDS * 1000))

    def close(self) -> None:
        """End it."""
        self._timer.stop()
        if self._microphone is not None:
            self._microphone.stop()
            self._microphone = None

    def _lose(self, sentence: str) -> None:
        self._trouble = sentence

    def _end(self) -> None:
        self.close()
        if self._trouble or not self._blocks:
            self._studio.message.emit(self._trouble or "The microphone gives no sound at all; is it switched on?")
        else:
            self._studio.message.emit(judged(np.concatenate(self._blocks)).sentence)
        self.done.emit()
