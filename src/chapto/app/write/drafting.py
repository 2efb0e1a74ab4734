"""A first draft from the log, worked out off the interface thread and put in as one step."""

from __future__ import annotations

from collections.abc import Callable

from PyQt6.QtCore import QObject, pyqtSignal

from chapto.app.jobs import Job, Progress
from chapto.app.studio import Studio
from chapto.document import edit_breakdown
from chapto.document.breakdown import Breakdown
from chapto.document.people import SpokenOf
from chapto.errors import Cancelled
from chapto.programme.first_draft import first_draft, section_anew

TITLE = "Draft from the log"
CHANGED = "Something was changed while the draft was being written; ask for it once more."
NOTHING = "Nothing is logged yet that could be told. Log exchanges and moments first."
TOLD = "All of it that is logged is told already."
DONE = "Drafted from the log. What is still empty asks what the log can't know."


class Drafting(QObject):
    """`drafted` when a draft stands in the script."""

    drafted = pyqtSignal()

    def __init__(self, studio: Studio, parent: QObject) -> None:
        super().__init__(parent)
        self._studio = studio
        self._job: Job[Breakdown] | None = None

    def draft(self, spoken_of: SpokenOf | None = None) -> None:
        """Tell what happened, with the two spoken of as they were the last time, or otherwise."""
        known = self._studio.known

        def write(b: Breakdown, progress: Progress) -> Breakdown:
            asked = b if spoken_of is None else edit_breakdown.speak_of(b, spoken_of)
            return first_draft(asked, known, progress=progress)

        if not self._studio.breakdown.exchanges:
            self._studio.message.emit(NOTHING)
            return
        self._run("draft from the log", write)

    def anew(self, section: str) -> None:
        """Tell one section in other words."""
        known = self._studio.known
        self._run("draft the section anew", lambda b, progress: section_anew(b, section, known))

    def _run(self, what: str, write: Callable[[Breakdown, Progress], Breakdown]) -> None:
        if self._job is not None:
            self._job.stop()
        before = self._studio.breakdown

        def work(progress: Progress, stopped: Callable[[], bool]) -> Breakdown:
            def go_on(share: float) -> None:
                if stopped():
                    raise Cancelled
                progress(share)

            return write(before, go_on)

        self._job = Job(TITLE, work)
        self._studio.workers.run_asked(self._job.then(lambda made: self._put(what, before, made)))

    def _put(self, what: str, before: Breakdown, made: Breakdown) -> None:
        if self._studio.breakdown is not before:
            self._studio.message.emit(CHANGED)
        elif made == before:
            self._studio.message.emit(TOLD)
        elif self._studio.edit(what, lambda b: made):
            self._studio.message.emit(DONE)
            self.drafted.emit()
