"""Listening to the empty room for three seconds."""

from __future__ import annotations

from PyQt6.QtCore import QObject, pyqtSignal

from chapto.app.studio import Studio
from chapto.app.voice.microphones import Microphones
from chapto.app.voice.short_listen import ShortListen
from chapto.voice.recording.microphone import Block, Prompt
from chapto.voice.recording.room import SECONDS, judged


class RoomTest(QObject):
    """Says at the foot whether the room is quiet enough; nothing of it is kept."""

    done = pyqtSignal()

    def __init__(self, studio: Studio, microphones: Microphones) -> None:
        super().__init__()
        self._studio, self._microphones = studio, microphones
        self._listen = ShortListen()

    def begin(self) -> None:
        """Listen."""
        if not self._listen.is_on:
            microphone = self._microphones.open_for(self._studio.breakdown.narrators[0].id)
            microphone.prompt([Prompt("", 0.0)])
            self._studio.message.emit("Please say nothing for three seconds.")
            self._listen.begin(microphone, SECONDS, self._heard)

    def close(self) -> None:
        """End it."""
        self._listen.close()

    def _heard(self, heard: Block | None, trouble: str) -> None:
        nothing = "The microphone gives no sound at all; is it switched on?"
        self._studio.message.emit(trouble or (nothing if heard is None else judged(heard).sentence))
        self.done.emit()
