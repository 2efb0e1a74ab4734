"""The best way out of every dull still, worked out off the interface thread and put in as one step."""

from __future__ import annotations

from collections.abc import Callable

from PyQt6.QtCore import QObject

from chapto.app.jobs import Job, Progress
from chapto.app.studio import Studio
from chapto.document.breakdown import Breakdown
from chapto.pacing.fitted import Lack
from chapto.programme.ways.best_for_all import AllTaken, best_for_all

TITLE = "Something to look at in every still"
CHANGED = "Something was changed meanwhile; press Alt+0 once more."
NONE = "The picture stands nowhere too long with nothing drawn on it."
NO_WAY = "Nothing Chapto can do by itself helps here: draw on the picture, or cut words."


class BestWays(QObject):
    """Takes the best way out of all stills at once."""

    def __init__(self, studio: Studio, parent: QObject) -> None:
        super().__init__(parent)
        self._studio = studio
        self._job: Job[AllTaken] | None = None

    def take(self) -> None:
        """Begin; the rail shows how far it is, and it can be stopped there: what was done so far is then put in."""
        made = self._studio.production
        if all(s.lack is not Lack.STILL for s in made.programme.shortfalls):
            self._studio.message.emit(NONE)
            return
        if self._job is not None:
            self._job.stop()
        voices, known = {k: s.line for k, s in made.speeches.items()}, made.programme.known

        def work(progress: Progress, stopped: Callable[[], bool]) -> AllTaken:
            return best_for_all(
                made.breakdown, voices, styles=known.styles, progress=progress, stopped=stopped
            )  # fmt: skip

        self._job = Job(TITLE, work)
        self._studio.workers.run_asked(self._job.then(lambda taken: self._put(made.breakdown, taken)))

    def _put(self, before: Breakdown, made: AllTaken) -> None:
        if self._studio.breakdown is not before:
            self._studio.message.emit(CHANGED)
        elif not made.taken:
            self._studio.message.emit(NO_WAY)
        elif self._studio.edit("give every still something to look at", lambda b: made.breakdown):
            left = f" {made.left} want a mark, or fewer words." if made.left else ""
            self._studio.message.emit(f"{made.taken} ways out were taken.{left} Ctrl+Z takes all of them back.")
