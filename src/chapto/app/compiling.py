"""The programme of the open breakdown: compiled again in the background after every edit."""

from __future__ import annotations

from functools import partial

from msgspec.structs import replace
from PyQt6.QtCore import QObject, QTimer, pyqtSignal

from chapto.app.jobs import Job, Progress, Stopped
from chapto.app.workers import Workers
from chapto.document.breakdown import Breakdown
from chapto.programme.compile import compile_programme
from chapto.render.production import Production, produce
from chapto.store.session import Session
from chapto.store.user_files import users_knowledge
from chapto.voice.guide import GuideVoice
from chapto.voice.take_sound import LaterSound

FOLLOWING, FINDING = "Following the marks", "Finding the words"
UNDONE = {
    FINDING: "The guide voice speaks where the words of a recording were not found.",
    FOLLOWING: "Marks go in a straight line where they were not followed.",
}
COMPILE_AFTER = 60
"""Milliseconds of quiet typing before the programme is compiled again."""


class Compiling(QObject):
    """`production` is the last that was compiled, an empty one until `has_compiled`; `compiled` comes with each. It is
    compiled with the names, styles and rules that are `known`, the user's own included."""

    compiled = pyqtSignal()
    message = pyqtSignal(str)

    def __init__(self, session: Session, workers: Workers, guide: GuideVoice) -> None:
        super().__init__()
        self._session, self._workers, self.guide = session, workers, guide
        self.known = users_knowledge()
        bare = replace(session.breakdown, script=(), labels=(), marks=())
        self.production = Production(bare, compile_programme(bare, {}, self.known), {})
        self.has_compiled = False
        self._compiled_for: Breakdown | None = None
        self._job: Job[Production] | None = None
        self._quiet = QTimer(self)
        self._quiet.setSingleShot(True)
        self._quiet.setInterval(COMPILE_AFTER)
        self._quiet.timeout.connect(self.compile_now)

    @property
    def is_compiled(self) -> bool:
        """Whether the programme belongs to the document as it is now."""
        return self._compiled_for is self._session.breakdown

    def follow(self) -> None:
        """Compile again once the document has been left alone for a moment."""
        if not self.is_compiled:
            self._quiet.start()

    def know_again(self) -> None:
        """Read the user's own files again, a house style was changed, and compile the same document anew."""
        self.known = users_knowledge()
        self._compiled_for = None
        self._quiet.start()

    def compile_now(self) -> None:
        """Compile in the background with what is known of the takes; what was being compiled is left. Words that have
        to be found first follow."""
        self._begin(only_known=True)

    def _begin(self, *, only_known: bool, title: str = "Guide voice") -> None:
        wanted, known, project = self._session.breakdown, self.known, self._session.path
        if self._job is not None:
            self._job.stop()

        def work(progress: Progress, stopped: Stopped) -> Production:
            return produce(
                wanted, self.guide, known, project=project, only_known=only_known, progress=progress, cancelled=stopped
            )

        job = Job(title, work).then(self._arrived)
        if only_known:
            self._job = self._workers.run_for_programme(job)
        else:
            job.stopped.connect(lambda: self._left_unfound(job, UNDONE[title]))
            self._job = self._workers.run_shown_for_programme(job)

    def _left_unfound(self, job: Job[Production], instead: str) -> None:
        """Words are not looked for, or points not followed, any more, since the creator stopped it."""
        if self._job is job:
            self._compiled_for = self._session.breakdown
            self.message.emit(instead)

    def close(self) -> None:
        """Begin nothing any more."""
        self._quiet.stop()

    def _arrived(self, production: Production) -> None:
        if production.breakdown is not self._session.breakdown:
            return
        for trouble in production.troubles:
            if trouble not in self.production.troubles:
                self.message.emit(trouble)
        self.production, self.has_compiled = production, True
        if production.pending or production.untracked:
            self._begin(only_known=False, title=FOLLOWING if production.untracked else FINDING)
        else:
            self._compiled_for = production.breakdown
            if production.sounds:
                self._workers.run_unseen(Job("Cleaning the takes", partial(_make_ready, production.sounds)))
        self.compiled.emit()


def _make_ready(sounds: tuple[LaterSound, ...], progress: Progress, stopped: Stopped) -> None:
    for sound in sounds:
        sound.get(cancelled=stopped)
