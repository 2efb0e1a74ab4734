"""Measuring how much later a microphone hears, once for each device."""

from __future__ import annotations

import numpy as np
from PyQt6.QtCore import QObject, QTimer, pyqtSignal

from chapto.app.screen.player import Player
from chapto.app.studio import Studio
from chapto.app.voice.listening import source_of
from chapto.app.voice.microphones import Microphones
from chapto.voice.recording.loopback import SECONDS, delay_of, pattern
from chapto.voice.recording.microphone import Block, Microphone

LONGER = 0.8
"""Seconds for which is listened after the last sound."""


class LoopbackTest(QObject):
    """Plays four short sounds and listens; the delay is kept in the settings under the id of the device."""

    done = pyqtSignal()

    def __init__(self, studio: Studio, player: Player, microphones: Microphones) -> None:
        super().__init__()
        self._studio, self._player, self._microphones = studio, player, microphones
        self._preferences = studio.preferences
        self._microphone: Microphone | None = None
        self._id = ""
        self._blocks: list[Block] = []
        self._timer = QTimer(self)
        self._timer.setSingleShot(True)
        self._timer.timeout.connect(self._end)

    def begin(self) -> None:
        """Play and listen."""
        if self._microphone is not None:
            return
        narrator = self._studio.breakdown.narrators[0].id
        name = self._microphones.name_for(narrator)
        if name.is_stand_in:
            self._studio.message.emit("The stand-in hears nothing that is played; choose a microphone first.")
            return
        self._id, self._blocks = name.id, []
        self._microphone = self._microphones.open_for(narrator)
        self._studio.message.emit("Turn the loudspeaker up, and hold the microphone to it.")
        self._player.pause()
        self._microphone.start(self._heard, lambda sentence: None)
        self._timer.start(round((SECONDS + LONGER) * 1000))

    def close(self) -> None:
        """End it."""
        self._timer.stop()
        if self._microphone is not None:
            self._player.speaker.stop()
            self._microphone.stop()
            self._microphone = None

    def _heard(self, block: Block) -> None:
        if not self._blocks:
            # What is heard from now on belongs to what is played from now on.
            self._player.speaker.start(source_of(pattern()), 0)
        self._blocks.append(block)

    def _end(self) -> None:
        self.close()
        found = delay_of(np.concatenate(self._blocks)) if self._blocks else None
        if found is None:
            self._studio.message.emit("The sounds were not heard; turn the loudspeaker up and try again.")
        else:
            self._preferences.set(delays={**self._preferences.now.delays, self._id: round(found, 4)})
            self._studio.message.emit(f"The microphone hears {found * 1000:.0f} ms after the loudspeaker plays.")
        self.done.emit()
