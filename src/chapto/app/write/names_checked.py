"""Names written wrong in the script, looked for a few beats at a time between what the hand does."""

from __future__ import annotations

import time
from collections import OrderedDict

from PyQt6.QtCore import QObject, QTimer, pyqtSignal

from chapto.app.studio import Studio
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
        self._soon = QTimer(self)
        self._soon.setInterval(0)
        self._soon.timeout.connect(self._look)

    def slips(self, text: str) -> tuple[Slip, ...] | None:
        """What is written wrong in a text; None while that is not known yet."""
        found = self._known.get(text)
        if found is None and text.strip():
            self._waiting[text] = None
            self._soon.start()
        return found if text.strip() else ()

    def is_settled(self) -> bool:
        """Whether nothing is left to be looked at."""
        return not self._waiting

    def finish(self) -> None:
        """Look at all that is left now."""
        while self._waiting:
            self._look()

    def _look(self) -> None:
        if self._spelling is None:
            self._spelling = Spelling(self._studio.known.lexicon)
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
