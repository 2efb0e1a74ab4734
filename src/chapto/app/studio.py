"""The open breakdown as the window sees it: the document and its edits, and the parts that follow it."""

from __future__ import annotations

import contextlib
import time
from collections.abc import Callable
from functools import cached_property, partial
from typing import TYPE_CHECKING

from PyQt6.QtCore import QCoreApplication, QObject, QTimer, pyqtSignal

from chapto.app.compiling import Compiling
from chapto.app.footage_files import FootageFiles
from chapto.app.heard import Heard
from chapto.app.preferences import Preferences
from chapto.app.reviewing import Reviewing
from chapto.app.shelf_keeping import ShelfKeeping
from chapto.app.sound_level import Measure, SoundLevel
from chapto.app.workers import Workers
from chapto.document.breakdown import Breakdown
from chapto.errors import ChaptoError
from chapto.programme.angles import AngleTrack
from chapto.programme.knowledge import Knowledge
from chapto.programme.programme import Programme
from chapto.render.known_gain import known_gain
from chapto.render.mix import Mix
from chapto.render.production import Production
from chapto.render.sounds import Sounds
from chapto.review.touched import touched_part
from chapto.shelf.promises import settled_of
from chapto.store.session import Session
from chapto.voice.guide import GuideVoice, SpeechSounds

if TYPE_CHECKING:
    from chapto.render.worker import PieceWorkers

KEEP_EVERY = 250
"""Milliseconds between two looks at whether edits wait for the journal."""
SAVE_AFTER = 20_000
"""Milliseconds after the last edit at which the file itself is saved."""


class Studio(QObject):
    """One open document. Every edit goes through `edit`; `changed` follows it, and `compiled` the new programme.

    `files` knows where the footage is, `workers` runs what takes time, `compiling` makes the programme and
    `reviewing` reviews it; `shelf` holds all breakdowns. `message` carries every sentence that is to be shown at the
    foot. `touched` tells where an undone or redone step changed
    something (a `NextStep` without a sentence).
    """

    changed = pyqtSignal()
    compiled = pyqtSignal()
    touched = pyqtSignal(object)
    message = pyqtSignal(str)

    def __init__(self, session: Session, *, guide: GuideVoice | None = None, proxies: bool = True) -> None:
        super().__init__()
        self.session = session
        self.preferences = Preferences()
        self.workers = Workers()
        self.files = FootageFiles(session, self.workers, self.preferences, proxies=proxies)
        self.compiling = Compiling(session, self.workers, guide or GuideVoice())
        self.reviewing = Reviewing(session, self.workers, self.compiling)
        self.shelf = ShelfKeeping(session, self.workers, lambda: self.known.lexicon)
        self.level = SoundLevel(self.workers, self._level_asked)
        self._angles = AngleTrack(session.breakdown)
        self._angles_for = session.breakdown
        for said in (
            self.workers.message,
            self.files.message,
            self.compiling.message,
            self.reviewing.message,
            self.shelf.message,
            self.preferences.failed,
        ):
            said.connect(self.message)
        self.compiling.compiled.connect(self.compiled)
        self.compiled.connect(self.level.follow)
        self.shelf.changed.connect(self._promises_settled)
        if troubles := self.known.troubles:
            # Once the window is there to show it.
            QTimer.singleShot(0, lambda: self.message.emit(troubles[0]))
        session.listeners.append(self._on_change)
        self._journal_timer = _timer(self, KEEP_EVERY, session.keep_safe, once=False)
        self._save_timer = _timer(self, SAVE_AFTER, self.save_quietly, once=True)
        self._journal_timer.start()
        self._begun = False
        self.files.find()

    @cached_property
    def encoders(self) -> PieceWorkers:
        """The processes that encode videos; they are started by the first one."""
        from chapto.render.worker import PieceWorkers

        return PieceWorkers()

    def begin(self) -> None:
        """Start what runs off the interface thread; the window asks for it once its first picture is there."""
        if not self._begun:
            self._begun = True
            self.compiling.compile_now()
            self.files.begin()
            self.files.make_room()
            self.shelf.begin()

    # ── the document ─────────────────────────────────────────────────────────────────────────────────────
    @property
    def breakdown(self) -> Breakdown:
        """The document as it is now."""
        return self.session.breakdown

    @property
    def angles(self) -> AngleTrack:
        """Which camera shows each mat time, in the document as it is now."""
        if self._angles_for is not self.breakdown:
            self._angles, self._angles_for = AngleTrack(self.breakdown), self.breakdown
        return self._angles

    def edit(self, what: str, change: Callable[[Breakdown], Breakdown], *, merge: str = "") -> bool:
        """Change the document; a refused edit is said in a sentence. Whether it was made."""
        try:
            self.session.edit(what, change, merge=merge)
        except ChaptoError as error:
            self.message.emit(str(error))
            return False
        return True

    def undo(self) -> None:
        """Take back a step; it is said, and gone to."""
        self._step(f"Undone: {self.session.would_undo}.", self.session.undo)

    def redo(self) -> None:
        """Bring back what was undone last; it is said, and gone to."""
        self._step(f"Done again: {self.session.would_redo}.", self.session.redo)

    def _step(self, said: str, go: Callable[[], object]) -> None:
        before = self.breakdown
        go()
        if self.breakdown is not before:
            self.message.emit(said)
            if (where := touched_part(before, self.breakdown)) is not None:
                self.touched.emit(where)

    def save_quietly(self) -> None:
        """Save to the project's own file, if it has one."""
        if self.session.path is not None and not self.session.is_saved and not self.session.read_only:
            try:
                if sentence := self.session.save():
                    self.message.emit(sentence)
            except ChaptoError as error:
                self.message.emit(str(error))
                self._save_timer.start()

    def keep_everything(self) -> None:
        """Save, or keep the edits at once, before closing; `StoreError` where neither can be done."""
        self.session.close()

    def on_fault(self, sentence: str) -> None:
        """Something failed inside Chapto: what was edited is kept at once, and it is said."""
        self.session.keep_safe(at_once=True)
        self.message.emit(sentence)

    # ── the programme ────────────────────────────────────────────────────────────────────────────────────
    @property
    def production(self) -> Production:
        """The last compiled programme with the document it is of, and the spoken lines."""
        return self.compiling.production

    @property
    def programme(self) -> Programme:
        """The last compiled programme; it follows the document within a moment."""
        return self.production.programme

    @property
    def known(self) -> Knowledge:
        """Names, house styles and rule sets, the user's own included."""
        return self.compiling.known

    def mix(self, heard: Heard = Heard.ALL) -> Mix:
        """The programme's sound as it is now, or what of it is to be `heard`."""
        made = self.production
        voices = SpeechSounds(made.speeches) if heard is Heard.ALL else {}
        sounds = {} if heard is Heard.NOTHING else self.files.sounds
        return Mix(made.breakdown, made.programme, voices, sounds, gain=self.level.gain)

    def _level_asked(self) -> Measure | None:
        made = self.production
        if not made.programme.frames or not self.files.is_sound_there:
            return None
        sounds = Sounds(SpeechSounds(made.speeches), dict(self.files.sounds))
        return partial(known_gain, made.breakdown, made.programme, sounds)

    def wait(self, *, seconds: float = 120.0) -> bool:
        """Let events run until the programme is compiled and the sound is there; False when time is up."""
        self.begin()
        end = time.monotonic() + seconds
        while time.monotonic() < end:
            QCoreApplication.processEvents()
            if self.compiling.is_compiled and self.files.is_sound_there:
                return True
            time.sleep(0.005)
        return False

    def close(self) -> None:
        """Stop all work, give files back. What could not be kept by `keep_everything` before is lost."""
        self._journal_timer.stop()
        self._save_timer.stop()
        self.compiling.close()
        self.reviewing.close()
        self.shelf.close()
        self.level.close()
        self.session.listeners.remove(self._on_change)
        with contextlib.suppress(ChaptoError):
            self.session.close()
        self.session.let_go()
        self.workers.close()
        if "encoders" in self.__dict__:
            self.encoders.close()
        self.files.close()

    def _promises_settled(self) -> None:
        """A promise of this breakdown was kept or let go: review and description say so."""
        if self.compiling.has_compiled and settled_of(self.session.path) != self.production.settled:
            self.compiling.compile_now()

    def _on_change(self) -> None:
        self.files.follow()
        self.compiling.follow()
        if not self.session.is_saved:
            self._save_timer.start()
        self.changed.emit()


def _timer(owner: QObject, milliseconds: int, act: Callable[[], object], *, once: bool) -> QTimer:
    timer = QTimer(owner)
    timer.setInterval(milliseconds)
    timer.setSingleShot(once)
    timer.timeout.connect(lambda: act())
    return timer
