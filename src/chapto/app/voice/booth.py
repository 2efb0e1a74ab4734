"""The recording booth: records while the picture runs, has the words found, and offers the take."""

from __future__ import annotations

from dataclasses import dataclass
from enum import Enum, auto
from fractions import Fraction
from functools import partial, reduce
from pathlib import Path

from PyQt6.QtCore import QObject, QTimer, pyqtSignal

from chapto.app.heard import Heard
from chapto.app.jobs import Job, Progress, Stopped
from chapto.app.playhead import View
from chapto.app.screen.player import Player
from chapto.app.studio import Studio
from chapto.app.voice.microphones import Microphones
from chapto.clock.rates import frames_from_seconds
from chapto.document.script import words_of
from chapto.document.takes import TakeOf
from chapto.errors import Cancelled, ChaptoError
from chapto.store.errors import plain_reason
from chapto.voice.finding.words_found import warm_up
from chapto.voice.new_take import NewTake, Subject, new_take
from chapto.voice.punch_in import Punch
from chapto.voice.punched_take import punched_take
from chapto.voice.recording.microphone import Prompt
from chapto.voice.recording.recorder import Recorder, Recording
from chapto.voice.recording.unfinished import WHOLE, new_recording

UNSAVED = "Save the breakdown first (Ctrl+S): its takes lie beside it."
READ_ONLY = "This window only looks at the breakdown; record in the one that edits it."
LEAD = Fraction(2)
"""Seconds that the picture runs before the first word is due."""


class State(Enum):
    """What the booth does."""

    IDLE = auto()
    RECORDING = auto()
    FINDING = auto()
    OFFERING = auto()


@dataclass(frozen=True)
class Offer:
    """A recording that waits to be kept: one take, or one of each narrator who was recorded at the same time.

    `trouble` is a sentence on one of them that could not be used.
    """

    takes: tuple[NewTake, ...]
    recordings: tuple[Recording, ...] = ()
    trouble: str = ""


class Booth(QObject):
    """`changed` follows every change of `state`; `offer` is the recording that waits, while `state` is `OFFERING`."""

    changed = pyqtSignal()
    _ended_early = pyqtSignal()

    def __init__(self, studio: Studio, player: Player, microphones: Microphones) -> None:
        super().__init__()
        self._studio, self._player, self.microphones = studio, player, microphones
        self._preferences = studio.preferences
        self.state = State.IDLE
        self.offer: Offer | None = None
        self.subject = Subject(TakeOf.NOTHING)
        self.recorders: tuple[Recorder, ...] = ()
        self._subjects: tuple[tuple[Subject, ...], ...] = ()
        self._until = 0
        self._ready = False
        self._punch: Punch | None = None
        self._job: Job[Offer] | None = None
        # Soon, since a device may be gone before the recording has begun here.
        self._ended_early.connect(lambda: QTimer.singleShot(0, self.stop))
        player.moved.connect(self._follow_picture)

    def get_ready(self) -> None:
        """Load what finds words, so that the first line does not wait for it."""
        if not self._ready:
            self._ready = True
            self._studio.workers.run_thought(Job("Getting ready", lambda progress, stopped: warm_up()))

    # ── recording ────────────────────────────────────────────────────────────────────────────────────────
    def record(self, subject: Subject, *, punch: Punch | None = None) -> None:
        """Begin to record; what was offered is put aside as a take that is not used. With `punch` only some words of a
        beat are read, and put into the take that they come from."""
        studio, project = self._studio, self._studio.session.path
        if self.state in (State.RECORDING, State.FINDING):
            return
        if project is None or studio.session.read_only:
            studio.message.emit(READ_ONLY if project else UNSAVED)
            return
        self.put_aside()
        self._punch = punch
        span = self._span(subject)
        if span is None:
            studio.message.emit("There are no words to read here yet; write them first.")
            return
        begin = max(span[0] - frames_from_seconds(LEAD, studio.programme.fps), 0)
        prompts = self._prompts(subject, begin)
        self.subject, self._until = subject, span[1]
        subjects = self._by_microphone(subject)
        recorders: list[Recorder] = []
        try:
            for group in subjects:
                narrator = group[0].narrator or self._narrator_of(subject)
                microphone = self.microphones.open_for(narrator, channels=len(group))
                heard = {s.narrator for s in group}
                microphone.prompt([p for reader, p in prompts if heard & {"", reader}])
                place = new_recording(project, subject.id or WHOLE)
                recorders.append(Recorder(microphone, place, ended_early=self._ended_early.emit))
        except OSError as error:
            for recorder in recorders:
                recorder.stop()
            studio.message.emit(f"Nothing can be recorded beside the breakdown: {plain_reason(error)}.")
            return
        self.recorders, self._subjects = tuple(recorders), subjects
        self._set(State.RECORDING)
        player = self._player
        player.pause()
        player.heard = Heard.GYM if self._preferences.now.gym_heard else Heard.NOTHING
        player.switch(View.WATCH)
        player.show_frame(begin)
        player.play()

    def stop(self) -> None:
        """End the recording, and have its words found."""
        if self.state is not State.RECORDING:
            return
        self._player.pause()
        self._player.heard = Heard.ALL
        recordings = tuple(recorder.stop() for recorder in self.recorders)
        self.recorders = ()
        for recording in recordings:
            if trouble := _trouble(recording):
                self._studio.message.emit(trouble)
        files = [(r.path, s) for r, group in zip(recordings, self._subjects, strict=True) for s in group]
        self._find(files, recordings, recorded=True)

    def take_up(self, files: list[tuple[Path, Subject]], *, recorded: bool) -> None:
        """Offer files: one that was brought in, or a recording that was cut off."""
        if self.state in (State.RECORDING, State.FINDING):
            return
        session = self._studio.session
        if session.path is None or session.read_only:
            self._studio.message.emit(READ_ONLY if session.path else UNSAVED)
            return
        self.put_aside()
        self.subject = files[0][1]
        self._find(files, (), recorded=recorded)

    def _find(self, files: list[tuple[Path, Subject]], recordings: tuple[Recording, ...], *, recorded: bool) -> None:
        b, project, punch = self._studio.breakdown, self._studio.session.path, self._punch if recordings else None
        assert project is not None

        def work(progress: Progress, stopped: Stopped) -> Offer:
            if punch is not None:
                path, subject = files[0]
                return Offer((punched_take(b, project, path, subject, punch, cancelled=stopped),), recordings)
            made: list[NewTake] = []
            failed: ChaptoError | None = None
            for path, subject in files:
                try:
                    made.append(
                        new_take(b, project, path, subject, recorded=recorded, progress=progress, cancelled=stopped)
                    )
                except Cancelled:
                    raise
                except ChaptoError as error:
                    failed = error
            if failed is not None and not made:
                raise failed
            return Offer(tuple(made), recordings, str(failed or ""))

        job = Job("Finding the words", work)
        job.failed.connect(partial(self._set, State.IDLE))
        job.stopped.connect(partial(self._set, State.IDLE))
        self._job = job
        self._set(State.FINDING)
        self._studio.workers.run_asked(job.then(self._found))

    def _found(self, offer: Offer) -> None:
        self.offer = offer
        if offer.trouble:
            self._studio.message.emit(offer.trouble)
        self._set(State.OFFERING)

    # ── keeping ──────────────────────────────────────────────────────────────────────────────────────────
    def keep(self) -> bool:
        """Use what is offered from now on; whether there was anything."""
        offer = self.offer
        if self.state is not State.OFFERING or offer is None:
            return False
        if not self._studio.edit(
            "keep the recording", lambda b: reduce(lambda so_far, t: t.added(so_far), offer.takes, b)
        ):
            return False
        self._let_go(offer)
        return True

    def put_aside(self) -> None:
        """Keep what is offered among the takes, without using it."""
        offer = self.offer
        if self.state is not State.OFFERING or offer is None:
            return
        if all(self._studio.edit("put the recording aside", take.put_aside) for take in offer.takes):
            self._let_go(offer)

    def _let_go(self, offer: Offer) -> None:
        """The document holds what was offered."""
        for take in offer.takes:
            take.let_recording_go()
        self.offer = None
        self._set(State.IDLE)

    def close(self) -> None:
        """End a recording that runs; its file stays, and is offered at the next opening."""
        for recorder in self.recorders:
            recorder.stop()
        self.recorders = ()
        self.put_aside()

    # ── what is recorded ─────────────────────────────────────────────────────────────────────────────────
    def _span(self, subject: Subject) -> tuple[int, int] | None:
        """Frames of the programme in which `subject` is said."""
        words = [w for w in self._studio.programme.words if w.beat in self.beats_of(subject)]
        if self._punch is not None:
            words = [w for w in words if self._punch.first <= w.word < self._punch.end]
        if not words:
            return None
        fps = self._studio.programme.fps
        return int(words[0].start * fps), int(words[-1].end * fps) + 1

    def beats_of(self, subject: Subject) -> frozenset[str]:
        """The beats that a subject is made of, by id."""
        return frozenset(
            beat.id
            for section, beat in self._studio.breakdown.read_beats()
            if subject.of is TakeOf.WHOLE or subject.id == (section.id if subject.of is TakeOf.SECTION else beat.id)
        )

    def _prompts(self, subject: Subject, begin: int) -> list[tuple[str, Prompt]]:
        """Who reads what, and after how many seconds."""
        p, b, wanted = self._studio.programme, self._studio.breakdown, self.beats_of(subject)
        if (punch := self._punch) is not None:
            beat = b.find_beat(punch.beat)[1]
            at = next(w.start for w in p.words if (w.beat, w.word) == (punch.beat, punch.first))
            text = " ".join(words_of(beat.text)[punch.first : punch.end])
            return [(b.narrator(beat).id, Prompt(text, float(at - begin / p.fps)))]
        due = {w.beat: float(w.start - begin / p.fps) for w in reversed(p.words)}
        return [
            (b.narrator(beat).id, Prompt(beat.text, due[beat.id]))
            for _, beat in b.read_beats()
            if beat.id in wanted and beat.id in due and words_of(beat.text)
        ]

    def _narrator_of(self, subject: Subject) -> str:
        b, wanted = self._studio.breakdown, self.beats_of(subject)
        return next((b.narrator(beat).id for _, beat in b.beats() if beat.id in wanted), b.narrators[0].id)

    def _by_microphone(self, subject: Subject) -> tuple[tuple[Subject, ...], ...]:
        """What each microphone hears: all of it, one narrator each, or two narrators on two channels of one."""
        b, wanted = self._studio.breakdown, self.beats_of(subject)
        talking = list(dict.fromkeys(b.narrator(beat).id for _, beat in b.beats() if beat.id in wanted))
        if len(talking) < 2:
            return ((subject,),)
        of, own = subject.of, subject.id
        if len({self.microphones.place_of(n) for n in talking}) > 1:
            return tuple((Subject(of, own, n),) for n in talking)
        if self.microphones.two_channels and len(talking) == 2:
            return (tuple(Subject(of, own, n, channel) for channel, n in enumerate(self._left_first(talking), 1)),)
        return ((subject,),)

    def _left_first(self, talking: list[str]) -> list[str]:
        """The narrators in the order of the breakdown: the first is on the left."""
        return [n.id for n in self._studio.breakdown.narrators if n.id in talking]

    def _follow_picture(self) -> None:
        if self.state is State.RECORDING and self._player.head.frame >= self._until and self._player.playing:
            self._player.pause()

    def _set(self, state: State) -> None:
        self.state = state
        self.changed.emit()


def _trouble(recording: Recording) -> str:
    """What is to be said of a recording."""
    if recording.trouble:
        return recording.trouble
    if recording.lost:
        return f"{recording.lost:.1f} s are missing: the machine was too busy. Read it again to be sure."
    if recording.clipped:
        times = "once" if recording.clipped == 1 else f"{recording.clipped} times"
        return f"It was too loud {times}; turn the microphone down, or sit farther away."
    return ""
