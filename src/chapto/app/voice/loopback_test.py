"""Measuring how much later a microphone hears, once for each device."""

from __future__ import annotations

from functools import partial

from PyQt6.QtCore import QObject, pyqtSignal

from chapto.app.screen.player import Player
from chapto.app.studio import Studio
from chapto.app.voice.listening import source_of
from chapto.app.voice.microphones import Microphones
from chapto.app.voice.short_listen import ShortListen
from chapto.voice.recording.loopback import SECONDS, delay_of, pattern
from chapto.voice.recording.microphone import Block

LONGER = 0.8
"""Seconds for which is listened after the last sound."""


class LoopbackTest(QObject):
    """Plays four short sounds and listens; the delay is kept in the settings under the id of the device."""

    done = pyqtSignal()

    def __init__(self, studio: Studio, player: Player, microphones: Microphones) -> None:
        super().__init__()
        self._studio, self._player, self._microphones = studio, player, microphones
        self._preferences = studio.preferences
        self._listen = ShortListen()
        self._id = ""

    def begin(self) -> None:
        """Play and listen."""
        narrator = self._studio.breakdown.narrators[0].id
        name = self._microphones.name_for(narrator)
        if self._listen.is_on:
            return
        if name.is_stand_in:
            self._studio.message.emit("The stand-in hears nothing that is played; choose a microphone first.")
            return
        self._id = name.id
        self._studio.message.emit("Turn the loudspeaker up, and hold the microphone to it.")
        self._player.pause()
        # What is heard from the first block on belongs to what is played from then on.
        play = partial(self._player.speaker.start, source_of(pattern()), 0)
        self._listen.begin(self._microphones.open_for(narrator), SECONDS + LONGER, self._heard, at_first=play)

    def close(self) -> None:
        """End it."""
        if self._listen.is_on:
            self._player.speaker.stop()
            self._listen.close()

    def _heard(self, heard: Block | None, trouble: str) -> None:
        self._player.speaker.stop()
        found = None if heard is None else delay_of(heard)
        if found is None:
            nothing = "The sounds were not heard; turn the loudspeaker up and try again."
            self._studio.message.emit(trouble or nothing)
        else:
            self._preferences.set(delays={self._id: round(found, 4)})
            self._studio.message.emit(f"The microphone hears {found * 1000:.0f} ms after the loudspeaker plays.")
        self.done.emit()
