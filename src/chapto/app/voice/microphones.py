"""Which microphone is used: those of the system and the stand-in, and the one that was chosen last."""

from __future__ import annotations

import time
from collections.abc import Callable

from PyQt6.QtCore import QObject, pyqtSignal

from chapto.app.jobs import Job
from chapto.app.studio import Studio
from chapto.demo.talk_project import SESSION
from chapto.voice.recording.device import Device, microphones
from chapto.voice.recording.microphone import Microphone, MicrophoneName
from chapto.voice.recording.stand_in import STAND_IN, VOICES, StandInMicrophone
from chapto.voice.recording.stand_in_talker import Performance, StandInTalker, perform
from chapto.voice.recording.two_microphones import TwoMicrophones


class Microphones(QObject):
    """`names` lists all, the system's first. Until one was chosen the system's favourite is used, and where there is
    none the stand-in."""

    changed = pyqtSignal()

    def __init__(self, studio: Studio) -> None:
        super().__init__()
        self._studio = studio
        self.names: tuple[MicrophoneName, ...] = (STAND_IN,)
        self._chosen: dict[str, MicrophoneName] = {}
        self._stand_ins: dict[str, StandInMicrophone] = {}
        self.speed = 1.0
        self.session: str | Performance = ""
        """What the stand-in says and does while it watches, written or recorded; the demo's session where empty."""
        self.clock: Callable[[], float] = time.monotonic
        """What the stand-in talks by while it watches, and the picture runs by."""
        self.two_channels = False
        """Whether two narrators at one microphone are on its left and its right channel."""

    def look(self) -> None:
        """Ask the system anew which there are."""
        job = Job("Microphones", lambda progress, stopped: microphones())
        self._studio.workers.run_thought(job.then(self._found))

    @property
    def stand_ins(self) -> tuple[StandInMicrophone, ...]:
        """Those that read now, or read last."""
        return tuple(self._stand_ins.values())

    def name_for(self, narrator: str) -> MicrophoneName:
        """The microphone of a narrator, by id."""
        chosen = self._chosen.get(narrator)
        if chosen in self.names:
            return chosen
        first = self._studio.preferences.now.microphone
        return next((n for n in self.names if n.id == first), self.names[0])

    def place_of(self, narrator: str) -> str:
        """Where a narrator sits: people at one device are told the same, and each has a stand-in of their own."""
        name = self.name_for(narrator)
        return f"{name.id} of {narrator}" if name.is_stand_in else name.id

    def choose(self, name: MicrophoneName, narrator: str = "") -> None:
        """Use a microphone from now on, for one narrator or for all."""
        if narrator:
            self._chosen[narrator] = name
        else:
            self._chosen.clear()
            self._studio.preferences.set(microphone=name.id)
        self.changed.emit()

    def part_channels(self, parted: bool) -> None:
        """Two narrators at one microphone are on two channels of it, or not."""
        self.two_channels = parted
        self.changed.emit()

    def open_for(self, narrator: str, *, channels: int = 1) -> Microphone:
        """The microphone of a narrator, ready to hear."""
        name = self.name_for(narrator)
        if not name.is_stand_in:
            return Device(name, channels)
        if narrator not in self._stand_ins:
            ids = [n.id for n in self._studio.breakdown.narrators]
            place = ids.index(narrator) if narrator in ids else 0
            self._stand_ins[narrator] = StandInMicrophone(voice=VOICES[place % len(VOICES)], speed=self.speed)
        return self._stand_ins[narrator]

    def open_talker(self) -> Microphone:
        """The microphone of the first narrator, who talks while watching, or with that of the second at another device
        or channel; the stand-in plays `session`."""
        narrators = [n.id for n in self._studio.breakdown.narrators]
        narrator = narrators[0]
        if self.name_for(narrator).is_stand_in:
            session = self.session or SESSION.read_text("utf-8")
            if isinstance(session, str):
                session = perform(session, voice=VOICES[0], other=VOICES[1])
            return StandInTalker(session, clock=self.clock)
        if len(narrators) < 2 or self.name_for(narrators[1]).is_stand_in:
            return self.open_for(narrator)
        second = narrators[1]
        if self.place_of(second) != self.place_of(narrator):
            return TwoMicrophones(self.open_for(narrator), self.open_for(second))
        return self.open_for(narrator, channels=2 if self.two_channels else 1)

    def _found(self, names: tuple[MicrophoneName, ...]) -> None:
        self.names = (*names, STAND_IN)
        self.changed.emit()
