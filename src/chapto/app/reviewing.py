"""The review of the open breakdown: made again after every edit, off the interface thread."""

from __future__ import annotations

from collections.abc import Mapping
from functools import partial
from typing import TYPE_CHECKING

from PyQt6.QtCore import QObject, QTimer, pyqtSignal

from chapto.app.compiling import Compiling
from chapto.app.jobs import Job, Progress, Stopped
from chapto.app.workers import Workers
from chapto.render.production import Production
from chapto.review.finding import Weight
from chapto.review.limits import Limit
from chapto.store.session import Session

# The checks, and what measures, are loaded by the thread that needs them first: not before the first picture.
if TYPE_CHECKING:
    from chapto.render.measuring import Measured
    from chapto.review.review import Review, Reviewer

LOOKING = "Looking and listening"
SINCE = "The sound was not listened to since the last change.", "The picture was not looked at since the last change."
AGAIN_AFTER = 6_000
"""Milliseconds of quiet after an edit before it is looked at and listened to again."""


class Reviewing(QObject):
    """`review` is the last one, of the production it is `reviewed_for`; `reviewed` comes with each. It is made with
    the user's own limits."""

    reviewed = pyqtSignal()
    message = pyqtSignal(str)

    def __init__(self, session: Session, workers: Workers, compiling: Compiling) -> None:
        super().__init__()
        self._session, self._workers, self._compiling = session, workers, compiling
        self._reviewer: Reviewer | None = None
        self.review: Review | None = None
        self.reviewed_for: Production | None = None
        self._limits: Mapping[str, Limit] | None = None
        self._job: Job[tuple[Production, Review]] | None = None
        self._looking: Job[tuple[Production, Measured]] | None = None
        self._measured: tuple[Production, Measured] | None = None
        self._again = QTimer(self)
        self._again.setSingleShot(True)
        self._again.setInterval(AGAIN_AFTER)
        self._again.timeout.connect(self._look_again)
        self._is_watched = False
        compiling.compiled.connect(self.follow)

    @property
    def open(self) -> int:
        """How many things must or should be mended."""
        return 0 if self.review is None else self.review.count(Weight.MUST) + self.review.count(Weight.SHOULD)

    @property
    def is_looking(self) -> bool:
        """Whether it is being looked at and listened to."""
        return self._looking is not None

    def follow(self) -> None:
        """Review what was compiled; what is being reviewed is left."""
        made = self._compiling.production
        if self._job is not None:
            self._job.stop()
        job = Job("Review", partial(self._reviewed, made, self._measured))
        self._job = self._workers.run_thought(job.then(self._arrived))

    def know_again(self) -> None:
        """Read the user's own limits again, and review with them."""
        self._limits = None
        self.follow()

    def look(self) -> None:
        """Look at the finished picture and listen to the sound; the rail shows how far it is."""
        made, project = self._compiling.production, self._session.path
        if self._looking is not None:
            return

        def work(progress: Progress, stopped: Stopped) -> tuple[Production, Measured]:
            from chapto.render.measuring import measure

            return made, measure(made, project, progress=progress, cancelled=stopped)

        self._looking = Job(LOOKING, work)
        self._looking.stopped.connect(self._stopped)
        self._looking.ended.connect(self._looked)
        self._workers.run_asked(self._looking.then(self._measured_now))
        self.reviewed.emit()

    def watch(self, watched: bool) -> None:
        """While somebody looks at the review, what was measured once is measured again when it is quiet."""
        self._is_watched = watched
        self._look_when_quiet()

    def close(self) -> None:
        """Begin nothing any more."""
        self._again.stop()

    def _reviewed(
        self, made: Production, last: tuple[Production, Measured] | None, progress: Progress, stopped: Stopped
    ) -> tuple[Production, Review]:
        from chapto.render.measuring import Measured, known_measures
        from chapto.review.own_limits import users_limits
        from chapto.review.review import Reviewer
        from chapto.review.reviewed import NOT_HEARD, NOT_WATCHED

        if self._limits is None:
            self._limits, troubles = users_limits()
            for trouble in troubles:
                self.message.emit(trouble)
        self._reviewer = self._reviewer or Reviewer()
        # What could not be measured is not measured again until something is another.
        same = last[1] if last is not None and last[0] is made else None
        known = same or known_measures(made) or Measured(*(SINCE if last else (NOT_HEARD, NOT_WATCHED)))
        voices = {k: s.line for k, s in made.speeches.items()}
        return made, self._reviewer.review(
            made.breakdown, made.programme, self._limits, voices=voices, heard=known.heard, watched=known.watched,
            settled=frozenset(made.settled),
        )  # fmt: skip

    def _arrived(self, found: tuple[Production, Review]) -> None:
        made, review = found
        if made is not self._compiling.production:
            return
        self.review, self.reviewed_for = review, made
        self._look_when_quiet()
        self.reviewed.emit()

    def _look_when_quiet(self) -> None:
        """Measure again in a moment what was measured before something was changed, while somebody looks at it."""
        stale = self.review is not None and any(u.why in SINCE for u in self.review.unchecked)
        if stale and self._is_watched:
            self._again.start()
        else:
            self._again.stop()

    def _look_again(self) -> None:
        if self._is_watched and self._compiling.is_compiled:
            self.look()

    def _measured_now(self, found: tuple[Production, Measured]) -> None:
        self._measured = found
        for why in (found[1].heard, found[1].watched):
            if isinstance(why, str):
                self.message.emit(why)

    def _stopped(self) -> None:
        """Whoever stopped it does not want it by itself any more."""
        self._measured = None

    def _looked(self) -> None:
        self._looking = None
        self.follow()
