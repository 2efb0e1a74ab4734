"""The bottom edge: one sentence, what is best done next, and what works in the background."""

from __future__ import annotations

from collections.abc import Callable

from PyQt6.QtCore import QRectF, QTimer
from PyQt6.QtGui import QColor, QPainter, QPaintEvent
from PyQt6.QtWidgets import QHBoxLayout, QWidget

from chapto.app.frame.next_step import NextStep
from chapto.app.theme import icon_pixmap
from chapto.app.widgets import Pressable, ground, label
from chapto.paint.colours import FIRST, INK_SOFT, PAPER_DEEP, PAPER_LINE

SAID_FOR = 9_000


class Foot(QWidget):
    """A sentence that can be pressed; messages take its place for some seconds."""

    def __init__(self, act: Callable[[NextStep], object]) -> None:
        super().__init__()
        ground(self, "paper")
        self.setFixedHeight(36)
        self._step: NextStep | None = None
        row = QHBoxLayout(self)
        row.setContentsMargins(14, 0, 14, 0)
        row.setSpacing(8)
        sign = label()
        sign.setPixmap(icon_pixmap("forward", INK_SOFT, 16, 2.0))
        row.addWidget(sign)
        self.sentence = Pressable(lambda: act(self._step) if self._step else None)
        row.addWidget(self.sentence, 1)
        self._work = label("", soft=True)
        row.addWidget(self._work)
        self._share = 1.0
        self._quiet = QTimer(self)
        self._quiet.setSingleShot(True)
        self._quiet.setInterval(SAID_FOR)
        self._quiet.timeout.connect(self._show_step)

    def next_is(self, step: NextStep) -> None:
        """What is best done next."""
        self._step = step
        if not self._quiet.isActive():
            self._show_step()

    def say(self, sentence: str) -> None:
        """Something the creator should know now."""
        self.sentence.setText(sentence)
        self._quiet.start()

    def work(self, title: str, share: float) -> None:
        """How far background work is."""
        self._share = share
        self._work.setText(f"{title}: {share:.0%}" if share < 1 else "")
        self.update()

    def paintEvent(self, event: QPaintEvent | None) -> None:
        """Paper, a rule above, and the progress of background work along it."""
        painter = QPainter(self)
        painter.fillRect(self.rect(), QColor(PAPER_DEEP))
        painter.fillRect(QRectF(0, 0, self.width(), 1), QColor(PAPER_LINE))
        if self._share < 1:
            painter.fillRect(QRectF(0, 0, self.width() * self._share, 3), QColor(FIRST))
        painter.end()

    def _show_step(self) -> None:
        self.sentence.setText(self._step.sentence if self._step else "")
