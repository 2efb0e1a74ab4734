"""How loud the voice comes in: a thread with a knot on it, and a word for whether that is right."""

from __future__ import annotations

from PyQt6.QtCore import QLineF, QPointF, QRectF, Qt
from PyQt6.QtGui import QColor, QPainter, QPaintEvent, QPen
from PyQt6.QtWidgets import QWidget

from chapto.app.theme import text_font
from chapto.paint.colours import AMBER, INK, INK_SOFT, ON_DARK, ON_DARK_SOFT, PAPER_LINE, SPRUCE_LINE, TIES
from chapto.paint.lettering import write
from chapto.paint.signs import dot
from chapto.programme.programme import TieState

LOWEST, HIGHEST = -54.0, 0.0
"""dBFS at the two ends of the thread."""
QUIET, LOUD = -26.0, -4.0
"""Peaks between which a voice is neither lost in noise nor near clipping (common practice)."""


def level_word(loudest: float, clipped: int) -> str:
    """What is to be said of the highest peak so far (dBFS)."""
    if clipped:
        return "too loud: it clips"
    if loudest < LOWEST:
        return "nothing is heard"
    return "too quiet" if loudest < QUIET else "nearly too loud" if loudest > LOUD else "a good level"


class LevelThread(QWidget):
    """Shows the peak of now (`show_level`), the loudness of the last 400 ms, and the highest peak so far; on paper, or
    on the `dark` ground."""

    def __init__(self, *, dark: bool = False) -> None:
        super().__init__()
        self._thread, self._ink, self._words = (
            (SPRUCE_LINE, ON_DARK, ON_DARK_SOFT) if dark else (PAPER_LINE, INK, INK_SOFT)
        )  # fmt: skip
        self._peak = self._loudness = self._loudest = LOWEST - 1
        self._clipped, self._on = 0, False
        self.setFixedHeight(30)
        self.setMinimumWidth(150)
        self.setAccessibleName("Level of the microphone")

    def show_level(self, peak: float, loudness: float, loudest: float, clipped: int) -> None:
        """Show other levels: peaks in dBFS, loudness in LUFS."""
        self._peak, self._loudness, self._loudest, self._clipped, self._on = peak, loudness, loudest, clipped, True
        self.setAccessibleDescription(level_word(loudest, clipped))
        self.update()

    def rest(self) -> None:
        """Nothing is recorded."""
        self._on = False
        self.update()

    def paintEvent(self, event: QPaintEvent | None) -> None:
        """The thread, its good stretch thicker, the loudness as its drawn part, a knot at the peak."""
        p = QPainter(self)
        p.setRenderHint(QPainter.RenderHint.Antialiasing)
        y, wide = 8.0, self.width() - 12.0

        def x(level: float) -> float:
            return 6 + wide * (min(max(level, LOWEST), HIGHEST) - LOWEST) / (HIGHEST - LOWEST)

        p.setPen(QPen(QColor(self._thread), 1.5))
        p.drawLine(QLineF(6, y, 6 + wide, y))
        p.setPen(QPen(QColor(self._thread), 5, Qt.PenStyle.SolidLine, Qt.PenCapStyle.RoundCap))
        p.drawLine(QLineF(x(QUIET), y, x(LOUD), y))
        if self._on:
            good = not self._clipped and self._loudest <= LOUD
            colour = QColor(TIES[TieState.MET] if good else AMBER)
            p.setPen(QPen(colour, 3, Qt.PenStyle.SolidLine, Qt.PenCapStyle.RoundCap))
            p.drawLine(QLineF(6, y, x(self._loudness), y))
            dot(p, QPointF(x(self._peak), y), 4, QColor(self._ink))
            p.setFont(text_font(12))
            write(p, QRectF(6, 14, wide, 16), level_word(self._loudest, self._clipped), self._words)
        p.end()
