"""The booth of a talk-through: counts in, records the voice and all that is done with the picture, has it laid out."""

from __future__ import annotations

import time
from dataclasses import replace
from enum import Enum, auto
from fractions import Fraction
from pathlib import Path

from PyQt6.QtCore import QObject, QTimer, pyqtSignal

from chapto.app.heard import Heard
from chapto.app.jobs import Job, Progress, Stopped
from chapto.app.playhead import View
from chapto.app.screen.player import Player
from chapto.app.studio import Studio
from chapto.app.voice.booth import READ_ONLY, UNSAVED
from chapto.app.voice.microphones import Microphones
from chapto.app.voice.talking.acting import Acting
from chapto.document.bounds import SHORTEST_LOOP
from chapto.document.talks import Act, Done, Talk
from chapto.store.errors import plain_reason
from chapto.voice.new_talk import lay_again, new_talk, put_talk
from chapto.voice.recording.stand_in_talker import StandInTalker
from chapto.voice.recording.talk_recorder import TalkRecorder, events_of
from chapto.voice.recording.unfinished import TALK, new_recording
from chapto.voice.recording.wav_file import channels_of
from chapto.voice.speaker import Speaker, StandInSpeaker

COUNT, BEAT = 3, 700
"""How far it counts in, and the milliseconds of each number."""
FRO = Fraction(2)
"""Mat seconds that go to and fro."""
SAID = {Act.WRONG: "The sentence before goes.", Act.CHAPTER: "A chapter begins here."}


class TalkState(Enum):
    """What the booth does."""

    IDLE = auto()
    COUNTING = auto()
    TALKING = auto()
    PAUSED = auto()
    LAYING = auto()


class TalkBooth(QObject):
    """`changed` follows every change of `state`. `noted` says what was marked while somebody talked, `laid` comes once
    the talk stands in the script."""

    changed = pyqtSignal()
    noted = pyqtSignal(str)
    laid = pyqtSignal()
    _ended_early = pyqtSignal()

    def __init__(self, studio: Studio, player: Player, microphones: Microphones) -> None:
        super().__init__()
        self._studio, self._player, self._microphones = studio, player, microphones
        self._preferences = studio.preferences
        self.state, self.left = TalkState.IDLE, 0
        self.recorder: TalkRecorder | None = None
        self._acting: Acting | None = None
        self._since: float | None = None
        self._speaker: Speaker | None = None
        self._count = QTimer(self)
        self._count.setInterval(BEAT)
        self._count.timeout.connect(self._count_down)
        self._ended_early.connect(lambda: QTimer.singleShot(0, self.stop))
        player.moved.connect(self._follow)
        player.playing_changed.connect(self._follow)

    @property
    def is_on(self) -> bool:
        """Whether somebody talks, or is about to."""
        return self.state in (TalkState.COUNTING, TalkState.TALKING, TalkState.PAUSED)

    def seconds(self) -> float:
        """How long the take is by now."""
        return self.recorder.seconds if self.recorder is not None else 0.0

    # ── the take ─────────────────────────────────────────────────────────────────────────────────────────
    def begin(self) -> bool:
        """Count in; whether a talk can be recorded here. It begins where the picture stands."""
        studio = self._studio
        project = studio.session.path
        if self.state is not TalkState.IDLE:
            return False
        if project is None or studio.session.read_only:
            studio.message.emit(READ_ONLY if project else UNSAVED)
            return False
        if not studio.files.places:
            studio.message.emit("There is no footage here to talk about yet.")
            return False
        self._player.pause()
        self._player.switch(View.MAT)
        self.left = COUNT
        self._count.start()
        self._set(TalkState.COUNTING)
        return True

    def _count_down(self) -> None:
        self.left -= 1
        if self.left > 0:
            self.changed.emit()
            return
        self._count.stop()
        self._record()

    def _record(self) -> None:
        studio, project = self._studio, self._studio.session.path
        assert project is not None
        microphone = self._microphones.open_talker()
        talker = microphone if isinstance(microphone, StandInTalker) else None
        clock = talker.clock if talker is not None else time.monotonic
        try:
            self.recorder = TalkRecorder(
                microphone, new_recording(project, TALK), ended_early=self._ended_early.emit, clock=clock
            )  # fmt: skip
        except OSError as error:
            studio.message.emit(f"Nothing can be recorded beside the breakdown: {plain_reason(error)}.")
            self._set(TalkState.IDLE)
            return
        self._player.heard = Heard.GYM if self._preferences.now.gym_heard else Heard.NOTHING
        if talker is not None:
            self._acting = Acting(talker.performance, self, self._player, self)
            if clock is not time.monotonic:
                # The picture keeps the time of who talks.
                self._speaker, self._player.speaker = self._player.speaker, StandInSpeaker(talker.clock)
        self._set(TalkState.TALKING)
        self._follow()

    def act(self, act: Act) -> None:
        """The sentence before was wrong, or a chapter begins here."""
        if self.recorder is not None and self.state is TalkState.TALKING:
            self.recorder.act(act)
            self.noted.emit(SAID[act])

    def say_again(self, since: float) -> None:
        """What was said since a second of the take is said again from now on."""
        if self.recorder is not None and self.state is TalkState.TALKING:
            self.recorder.again(since)

    def point(self, x: float, y: float, pressed: bool) -> None:
        """The pointer is on the picture: 0…1 of it, upright and as it was filmed."""
        if self.recorder is not None and self.state is TalkState.TALKING:
            self.recorder.point(x, y, pressed)

    def pause(self) -> None:
        """Stop for a while, or go on."""
        if self.recorder is None or self.state not in (TalkState.TALKING, TalkState.PAUSED):
            return
        on = self.state is TalkState.PAUSED
        if not on:
            # Stopping is still of the take.
            self._player.pause()
        self.recorder.pause(not on)
        since, self._since = self._since, None
        self._set(TalkState.TALKING if on else TalkState.PAUSED)
        if on and since is not None:
            self.say_again(since)
            shown = self.recorder.shown_at(Fraction(round(since * 1000), 1000))
            if shown is not None and shown.playing:
                fro = shown.fro
                self._player.fro = fro if fro is not None and fro[0] <= self._player.head.mat <= fro[1] else None
                self._player.play()
        self._follow()

    def to_and_fro(self) -> None:
        """What was seen last goes to and fro, or on from where it is."""
        player = self._player
        if player.fro is not None:
            player.go_on()
            return
        high = max(player.head.mat, SHORTEST_LOOP)
        player.go_to_and_fro(max(high - FRO, Fraction(0)), high)

    def back_a_phrase(self) -> None:
        """The take stands still before the phrase that was said last, or the one before it, and so does the picture.
        When the take goes on, it is said again from there."""
        if self.state is TalkState.TALKING:
            self.pause()
        recorder, before = self.recorder, self._since
        if recorder is None or self.state is not TalkState.PAUSED:
            return
        until = recorder.seconds if before is None else before

        def found(since: float) -> None:
            if self.recorder is recorder and self.state is TalkState.PAUSED and self._since == before:
                self._go_back(recorder, since)

        job = Job("The phrase before", lambda progress, stopped: recorder.phrase_before(until))
        self._studio.workers.run_thought(job.then(found))

    def _go_back(self, recorder: TalkRecorder, since: float) -> None:
        self._since = since
        shown = recorder.shown_at(Fraction(round(since * 1000), 1000))
        if shown is not None:
            footage = self._studio.breakdown.footage
            through = next((c.id for c in footage if c.camera_name == shown.camera and c.covers(shown.mat)), "")
            head = replace(self._player.head, mat=max(shown.mat, Fraction(0)), speed=shown.rate, through=through)
            self._player.put(head)
        self.changed.emit()

    @property
    def said_again_from(self) -> float | None:
        """The second of the take from which it is said again when the paused take goes on."""
        return self._since

    def stop(self) -> None:
        """End the take, and have it laid out."""
        self._count.stop()
        if self.state is TalkState.COUNTING:
            self._set(TalkState.IDLE)
        if self.recorder is None:
            return
        acting, self._acting = self._acting, None
        if acting is not None:
            acting.end()
        self._player.pause()
        self._hear_again()
        self._player.heard = Heard.ALL
        recorder, self.recorder, self._since = self.recorder, None, None
        talked = recorder.stop()
        if trouble := talked.recording.trouble:
            self._studio.message.emit(trouble)
        captions = acting.write_captions(talked.recording.path) if acting is not None else None
        reaction = 0.0 if acting is not None else self._preferences.now.reaction
        self._lay(talked.recording.path, talked.done, captions, reaction)

    def take_up(self, recording: Path, done: Done) -> None:
        """Lay out a talk that was cut off, or one from elsewhere."""
        if self.state is TalkState.IDLE:
            self._lay(recording, done, None, self._preferences.now.reaction)

    def close(self) -> None:
        """End a take that runs; its files stay, and are offered at the next opening."""
        self._count.stop()
        if self._acting is not None:
            self._acting.end()
        self._hear_again()
        if self.recorder is not None:
            self.recorder.stop()
            self.recorder = None

    def _hear_again(self) -> None:
        """The player has its own speaker again."""
        if self._speaker is not None:
            self._player.speaker.close()
            self._player.speaker, self._speaker = self._speaker, None

    # ── the document ─────────────────────────────────────────────────────────────────────────────────────
    def _lay(self, recording: Path, done: Done, captions: Path | None, reaction: float) -> None:
        studio, project, known = self._studio, self._studio.session.path, self._studio.known
        assert project is not None

        narrators = [n.id for n in studio.breakdown.narrators]
        voices = narrators[:2] if channels_of(recording) == 2 and len(narrators) > 1 else []

        def work(progress: Progress, stopped: Stopped) -> Talk:
            return new_talk(
                project, recording, done, known, captions, reaction=Fraction(round(reaction * 1000), 1000),
                voices=voices, progress=progress, cancelled=stopped,
            )  # fmt: skip

        def put(talk: Talk) -> None:
            if studio.edit("lay out the talk", lambda b: put_talk(b, talk, known)):
                # The document holds its copies.
                for place in (recording, events_of(recording), *([captions] if captions else [])):
                    place.unlink(missing_ok=True)
                self.laid.emit()

        job = Job("Finding the words of the talk", work)
        job.ended.connect(lambda: self._set(TalkState.IDLE))
        self._set(TalkState.LAYING)
        studio.workers.run_asked(job.then(put))

    def lay_again(self, talk: Talk, what: str, **changes: object) -> None:
        """Lay a talk out anew with fields of it changed: tidied or as it was, with what was brought back."""
        known = self._studio.known
        self._studio.edit(what, lambda b: lay_again(b, talk.id, known, **changes))

    # ── following ────────────────────────────────────────────────────────────────────────────────────────
    def _follow(self) -> None:
        """Write down what is on the screen."""
        if self.recorder is None or self.state is not TalkState.TALKING:
            return
        head = self._player.head
        if head.view is not View.MAT:
            # Talk is about the footage.
            self._player.switch(View.MAT)
            return
        camera = head.camera(self._studio.breakdown.footage, self._studio.angles)
        through = camera.camera_name if camera is not None and head.through == camera.id else ""
        self.recorder.picture(head.mat, through, Fraction(head.speed), self._player.playing, self._player.fro)

    def _set(self, state: TalkState) -> None:
        self.state = state
        self.changed.emit()
