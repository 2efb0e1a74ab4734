"""Names written wrong in the script, looked for a few beats at a time between what the hand does."""

from __future__ import annotations

import time
from collections import OrderedDict

from PyQt6.QtCore import QObject, QTimer, pyqtSignal

from chapto.app.jobs import Job
from chapto.app.studio import Studio
from chapto.lexicon.lexicon import Lexicon
from chapto.lexicon.ordinary import ordinary_words
from chapto.lexicon.spelling import Slip, Spelling

SLICE = 0.012
"""Seconds of looking at a stretch, less than a picture lasts."""
REMEMBERED = 5000


class NamesChecked(QObject):
    """`found` says that something about a text is known now."""

    found = pyqtSignal()

    def __init__(self, studio: Studio, parent: QObject) -> None:
        super().__init__(parent)
        self._spelling: Spelling | None = None
        self._studio = studio
        self._known: OrderedDict[str, tuple[Slip, ...]] = OrderedDict()
        self._waiting: dict[str, None] = {}
        self._getting_ready: Job[Spelling] | None = None
        self._soon = QTimer(self)
        self._soon.setInterval(0)
        self._soon.timeout.connect(self._look)
        studio.compiled.connect(self._begin)

    def slips(self, text: str) -> tuple[Slip, ...] | None:
        """What is written wrong in a text; None while that is not known yet."""
        found = self._known.get(text)
        if found is None and text.strip():
            self._waiting[text] = None
            self._begin()
        return found if text.strip() else ()

    def is_settled(self) -> bool:
        """Whether nothing is left to be looked at."""
        return not self._waiting

    def finish(self) -> None:
        """Look at all that is left now."""
        if self._spelling is None:
            self._spelling = _made_ready(self._studio.known.lexicon)
        while self._waiting:
            self._look()

    def _begin(self) -> None:
        """Look between what the hand does. Names and words are made ready in another thread first, and not before
        there is something to be seen."""
        if not self._waiting or not self._studio.compiling.has_compiled:
            return
        if self._spelling is not None:
            self._soon.start()
        elif self._getting_ready is None:
            lexicon = self._studio.known.lexicon
            job = Job("Getting the names ready", lambda progress, stopped: _made_ready(lexicon))
            self._getting_ready = self._studio.workers.run_thought(job.then(self._ready))

    def _ready(self, spelling: Spelling) -> None:
        self._spelling = spelling
        self._begin()

    def _look(self) -> None:
        assert self._spelling is not None
        end = time.monotonic() + SLICE
        while self._waiting and time.monotonic() < end:
            text = next(iter(self._waiting))
            del self._waiting[text]
            self._known[text] = self._spelling.slips(text)
            if len(self._known) > REMEMBERED:
                self._known.popitem(last=False)
        if not self._waiting:
            self._soon.stop()
        self.found.emit()


def _made_ready(lexicon: Lexicon) -> Spelling:
    ordinary_words()
    return Spelling(lexicon)
