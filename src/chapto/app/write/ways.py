"""What does not meet in a beat, and the ways out, each one press away."""

from __future__ import annotations

from functools import partial

from PyQt6.QtCore import QObject, Qt, pyqtSignal
from PyQt6.QtGui import QColor, QPainter, QPaintEvent
from PyQt6.QtWidgets import QLabel, QPushButton, QWidget

from chapto.app import layouts
from chapto.app.jobs import Job
from chapto.app.studio import Studio
from chapto.app.widgets import button, label
from chapto.pacing.fitted import Lack, Shortfall
from chapto.paint.colours import TIES
from chapto.programme.programme import TieState
from chapto.programme.ways.find import ways_out
from chapto.programme.ways.way import WayOut

MILD = (Lack.SILENT, Lack.LENGTH, Lack.STILL)
"""What is dull rather than wrong."""
FOR_ALL = "   Alt+0 takes the best way out of every such still."
KEYS = ("Alt+1", "Alt+2", "Alt+3")


class Ways(QWidget):
    """A sentence for the first thing that does not fit in a beat. Once they are worked out, buttons for the ways out of
    it stand below."""

    def __init__(self, studio: Studio) -> None:
        super().__init__()
        self._studio = studio
        self.shortfall: Shortfall | None = None
        self.ways: tuple[WayOut, ...] = ()
        self._column = layouts.column(self, margins=(10, 3, 0, 3), spacing=3)
        self._sentence: QLabel = label("", wrap=True)
        self._sentence.setStyleSheet("font-size: 13px;")
        self._column.addWidget(self._sentence)
        self._buttons: list[QPushButton] = []
        self.hide()

    def show_shortfall(self, shortfall: Shortfall | None) -> None:
        """Take what does not fit; ways out of something else are gone."""
        if shortfall != self.shortfall:
            self._show_ways(())
        self.shortfall = shortfall
        self.setVisible(shortfall is not None)
        if shortfall is not None:
            more = FOR_ALL if shortfall.lack is Lack.STILL else ""
            self._sentence.setText(shortfall.sentence + more)
        self.update()

    def show_ways(self, shortfall: Shortfall, ways: tuple[WayOut, ...]) -> None:
        """Offer the ways out of `shortfall`, if it still is what does not fit here."""
        if shortfall == self.shortfall and ways != self.ways:
            self._show_ways(ways)

    def take(self, number: int) -> bool:
        """Go the way with that number, from 0; whether there is one."""
        if number >= len(self.ways):
            return False
        way = self.ways[number]
        return self._studio.edit(way.text[:1].lower() + way.text[1:], way.change)

    def _show_ways(self, ways: tuple[WayOut, ...]) -> None:
        self.ways = ways
        for made in self._buttons:
            self._column.removeWidget(made)
            made.deleteLater()
        self._buttons = []
        for i, way in enumerate(ways):
            made = button(way.text, partial(self.take, i), tip=way.text, key=KEYS[i])
            made.setStyleSheet("padding: 3px 9px; text-align: left;")
            made.setFocusPolicy(Qt.FocusPolicy.NoFocus)
            self._buttons.append(made)
            self._column.addWidget(made, 0, Qt.AlignmentFlag.AlignLeft)

    def paintEvent(self, event: QPaintEvent | None) -> None:
        """A thread at the edge in the colour of what is wrong."""
        lack = self.shortfall.lack if self.shortfall else Lack.SILENT
        state = TieState.LATE if lack in MILD else TieState.BROKEN
        painter = QPainter(self)
        painter.fillRect(2, 4, 3, self.height() - 8, QColor(TIES[state]))
        painter.end()


class WaysFinder(QObject):
    """Works ways out off the interface thread. `found` carries the shortfall and the ways."""

    found = pyqtSignal(object, object)

    def __init__(self, studio: Studio) -> None:
        super().__init__()
        self._studio = studio
        self._job: Job[tuple[WayOut, ...]] | None = None

    def look(self, shortfall: Shortfall) -> None:
        """Begin to look for ways out of a shortfall of the programme as it is; what was looked for before is left."""
        if self._job is not None:
            self._job.stop()
        made = self._studio.production
        voices, known = {k: s.line for k, s in made.speeches.items()}, made.programme.known
        self._job = Job(
            "Ways out", lambda progress, stopped: ways_out(made.breakdown, shortfall, voices, styles=known.styles)
        )
        self._studio.workers.run_thought(self._job.then(lambda ways: self.found.emit(shortfall, ways)))
