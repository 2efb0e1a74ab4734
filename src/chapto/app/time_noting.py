"""Notes how long each stage is worked in, if the creator asked for it: while keys are pressed and the pointer moves."""

from __future__ import annotations

import time
from collections import defaultdict
from collections.abc import Callable
from datetime import date

from PyQt6.QtCore import QObject, QTimer
from PyQt6.QtGui import QCursor
from PyQt6.QtWidgets import QWidget

from chapto.app.studio import Studio
from chapto.errors import ChaptoError
from chapto.review.work import Stage
from chapto.shelf.book import read_book
from chapto.shelf.times import TimeNote, note_time

LOOK_EVERY = 5_000
"""Milliseconds from look to look."""
IDLE_AFTER = 90.0
"""Seconds without a key or the pointer after which nobody works: looking on while it plays is work too."""
WRITE_EVERY = 300.0
"""Seconds of work after which they are written down, lest a crash loses them."""


class TimeNoting(QObject):
    """Watches one window. `stage` tells which stage is open, `playing` whether something plays; `now` is a clock in
    seconds."""

    def __init__(
        self,
        window: QWidget,
        studio: Studio,
        stage: Callable[[], Stage],
        playing: Callable[[], bool],
        now: Callable[[], float] = time.monotonic,
    ) -> None:
        super().__init__(window)
        self._window, self._studio, self._stage, self._playing, self._now = window, studio, stage, playing, now
        self._acted = self._looked = now()
        self._pointer = QCursor.pos()
        self._spent: dict[Stage, float] = defaultdict(float)
        self._timer = QTimer(self)
        self._timer.setInterval(LOOK_EVERY)
        self._timer.timeout.connect(self.look)
        self._timer.start()

    def acted(self) -> None:
        """A key was pressed in this window."""
        self._acted = self._now()

    def look(self) -> None:
        """Count what has passed since the last look, if anybody works."""
        now, pointer = self._now(), QCursor.pos()
        if pointer != self._pointer:
            self._pointer, self._acted = pointer, now
        passed, self._looked = now - self._looked, now
        working = now - self._acted <= IDLE_AFTER or self._playing()
        # After a machine slept, nobody knows.
        if working and self._window.isActiveWindow() and passed <= 4 * LOOK_EVERY / 1000:
            self._spent[self._stage()] += passed
        if sum(self._spent.values()) >= WRITE_EVERY:
            self.write()

    def write(self) -> None:
        """Write down what was counted, where that was asked for; else forget it."""
        spent, self._spent = self._spent, defaultdict(float)
        studio, folder = self._studio, self._studio.shelf.folder
        path = studio.session.path
        if path is None or not spent:
            return
        try:
            if read_book(folder).note_times is not True:
                return
            length = float(studio.programme.seconds)
            for stage, seconds in spent.items():
                if seconds >= 1:
                    day = date.today().isoformat()
                    note_time(
                        folder, TimeNote(day=day, path=str(path), stage=stage.value, seconds=seconds, length=length)
                    )
        except ChaptoError as error:
            studio.message.emit(str(error))

    def close(self) -> None:
        """The window closes."""
        self._timer.stop()
        self.look()
        self.write()
