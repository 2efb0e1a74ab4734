"""The shelf beside the open breakdown: what is opened and saved is put on it, and pages ask it."""

from __future__ import annotations

import os
from collections.abc import Callable
from datetime import date
from pathlib import Path
from typing import TYPE_CHECKING, TypeVar

from PyQt6.QtCore import QObject, QTimer, pyqtSignal

from chapto.app.jobs import Job, Progress, Stopped
from chapto.app.workers import Workers
from chapto.errors import ChaptoError
from chapto.lexicon.lexicon import Lexicon
from chapto.shelf.book import Book
from chapto.shelf.home import shelf_of
from chapto.shelf.weeks import planned_soon
from chapto.shelf.workload import UNKNOWN
from chapto.store.session import Session

if TYPE_CHECKING:
    from chapto.shelf.index import Refreshed
    from chapto.shelf.shelf import Shelf

T = TypeVar("T")
LOOK_EVERY = 3_000
"""Milliseconds between two looks at whether the file was saved."""
READING = "Reading the shelf"
PLANNED = "It stands in the plan now, on the first day it could be done by."
"""What is said once a promise or a gap is planned."""


class ShelfKeeping(QObject):
    """`changed` comes when something on the shelf is another, `progressed` with the share of all that was read.
    `message` carries sentences. Nothing is opened before it is asked for."""

    changed = pyqtSignal()
    progressed = pyqtSignal(float)
    message = pyqtSignal(str)

    def __init__(self, session: Session, workers: Workers, lexicon: Callable[[], Lexicon]) -> None:
        super().__init__()
        self._session, self._workers, self._lexicon = session, workers, lexicon
        self._shelf: Shelf | None = None
        self._put: tuple[str, int, int] | None = None
        self._reading: Job[Refreshed] | None = None
        self.troubles: tuple[str, ...] = ()
        self._look = QTimer(self)
        self._look.setInterval(LOOK_EVERY)
        self._look.timeout.connect(self.put_on)

    @property
    def folder(self) -> Path:
        """Where the shelf of this breakdown lies."""
        return shelf_of(self._session.path)

    def begin(self) -> None:
        """Put the open breakdown on the shelf now, and again whenever it was saved."""
        self._look.start()
        self.put_on()

    def shelf(self) -> Shelf:
        """The shelf, for the interface thread; `ShelfError` where it can't be used."""
        from chapto.media.filmed_on import filmed_on
        from chapto.shelf.shelf import Shelf

        if self._shelf is None or self._shelf.folder != self.folder:
            if self._shelf is not None:
                self._shelf.close()
                self._shelf = None
            self._shelf = Shelf(self.folder, self._lexicon(), filmed=filmed_on)
        return self._shelf

    def change(self, change: Callable[[Book], Book]) -> bool:
        """Change what is decided about the shelf; whether it could be done. What can't is said."""
        try:
            self.shelf().change(change)
        except ChaptoError as error:
            self.message.emit(str(error))
            return False
        self.changed.emit()
        return True

    def plan(self, subject: str, promise: str = "") -> bool:
        """Plan a video on the first day by which it could be done; whether it could be planned."""
        return self.change(lambda book: planned_soon(book, subject, UNKNOWN, date.today(), promise=promise))

    @property
    def is_reading(self) -> bool:
        """Whether folders are being looked through."""
        return self._reading is not None

    def put_on(self) -> None:
        """Put the open breakdown on the shelf if its file is another than the last time."""
        path = self._session.path
        if path is None:
            return
        try:
            found = os.stat(path)
        except OSError:
            return
        mark = (str(path), found.st_mtime_ns, found.st_size)
        if mark == self._put:
            return
        self._put = mark
        self._workers.run_thought(
            Job("Putting it on the shelf", lambda progress, stopped: self._with_shelf(lambda s: s.add(path))).then(
                lambda _: self._told()
            )
        )

    def refresh(self) -> None:
        """Look through the folders for what is new, changed, moved or gone."""
        if self._reading is not None:
            return

        def work(progress: Progress, stopped: Stopped) -> Refreshed:
            return self._with_shelf(lambda s: s.refresh(progress=progress, cancelled=stopped))

        job: Job[Refreshed] = Job(READING, work)
        job.progressed.connect(self.progressed)
        job.ended.connect(self._read)
        self._reading = job
        self._workers.run_short(job.then(self._refreshed))

    def forget(self, name: str) -> None:
        """Let nothing on the shelf name somebody any more; all breakdowns are read again for it."""

        def work(progress: Progress, stopped: Stopped) -> int:
            return self._with_shelf(lambda s: s.forget_person(name))

        self._workers.run_short(Job("Forgetting somebody", work).then(lambda _: self._told()))

    def leave_out(self, folder: str) -> None:
        """Look through a folder no more, and take what stands in it off the shelf."""
        job = Job("Leaving out a folder", lambda progress, stopped: self._with_shelf(lambda s: s.drop_folder(folder)))
        self._workers.run_short(job.then(lambda _: self._told()))

    def take_off(self, missing: list[str]) -> None:
        """Take breakdowns that are gone off the shelf, as far as they still are."""

        def forget(shelf: Shelf) -> None:
            for path in missing:
                shelf.forget_missing(path)

        def work(progress: Progress, stopped: Stopped) -> None:
            self._with_shelf(forget)

        self._workers.run_short(Job("Taking off what is missing", work).then(lambda _: self._told()))

    def close(self) -> None:
        """Look no more, and give the index back."""
        self._look.stop()
        if self._shelf is not None:
            self._shelf.close()
            self._shelf = None

    def _with_shelf(self, act: Callable[[Shelf], T]) -> T:
        from chapto.media.filmed_on import filmed_on
        from chapto.shelf.shelf import Shelf

        with Shelf(self.folder, self._lexicon(), filmed=filmed_on) as shelf:
            return act(shelf)

    def _refreshed(self, found: Refreshed) -> None:
        self.troubles = found.troubles
        if found.read or found.moves or found.missing:
            self._told()

    def _read(self) -> None:
        self._reading = None
        self.progressed.emit(1.0)

    def _told(self) -> None:
        """What others decided meanwhile counts too."""
        if self._shelf is not None:
            self._shelf.read_book()
        self.changed.emit()
