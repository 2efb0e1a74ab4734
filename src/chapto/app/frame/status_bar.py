"""The bottom edge: one sentence, what is best done next, and what works in the background."""

from __future__ import annotations

import time
from collections.abc import Callable

from PyQt6.QtCore import QRectF, QTimer
from PyQt6.QtGui import QColor, QPainter, QPaintEvent
from PyQt6.QtWidgets import QWidget

from chapto.app import layouts
from chapto.app.theme import icon_pixmap
from chapto.app.widgets import Pressable, button, ground, label
from chapto.app.workers import Workers
from chapto.clock.timecode import clock_text
from chapto.paint.colours import FIRST, INK_SOFT, PAPER_DEEP, PAPER_LINE
from chapto.review.work import NextStep

SHOWN_FOR = 9_000
"""Milliseconds for which a message stands in the place of the next step."""


class StatusBar(QWidget):
    """A sentence that can be pressed; messages take its place for some seconds."""

    def __init__(self, act: Callable[[NextStep], object], workers: Workers) -> None:
        super().__init__()
        ground(self, "paper")
        self.setFixedHeight(36)
        self._step: NextStep | None = None
        row = layouts.row(self, margins=(14, 0, 14, 0), spacing=8)
        sign = label()
        sign.setPixmap(icon_pixmap("forward", INK_SOFT, 16, 2.0))
        row.addWidget(sign)
        self.sentence = Pressable(lambda: act(self._step) if self._step else None)
        row.addWidget(self.sentence, 1)
        self.work_text = label("", soft=True)
        row.addWidget(self.work_text)
        self.stop_button = button(
            "Stop",
            lambda: workers.stop(self._title),
            tip="Stop this work; what can go on later keeps what it has",
            kind="quiet",
        )
        self.stop_button.hide()
        row.addWidget(self.stop_button)
        self._share = 1.0
        self._title, self._since, self._from = "", 0.0, 0.0
        self._works: dict[str, float] = {}
        self._quiet = QTimer(self)
        self._quiet.setSingleShot(True)
        self._quiet.setInterval(SHOWN_FOR)
        self._quiet.timeout.connect(self._show_step)
        workers.progressed.connect(self.work)

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
        """How far a piece of work is, and about how long it still takes. Of several, the one begun last is shown."""
        self._works[title] = share
        if share >= 1:
            del self._works[title]
            title, share = next(reversed(self._works.items()), (title, 1.0))
        elif title != next(reversed(self._works)):
            return
        now = time.monotonic()
        if title != self._title or share < self._share:
            self._title, self._since, self._from = title, now, share
        self._share = share
        done = share - self._from
        left = (now - self._since) * (1 - share) / done if done > 0.02 else 0.0
        about = f", about {clock_text(left)} left" if left >= 1 else ""
        self.work_text.setText(f"{title}: {share:.0%}{about}" if share < 1 else "")
        self.stop_button.setVisible(share < 1)
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
