"""The bottom edge: one sentence, what is best done next, and what works in the background."""

from __future__ import annotations

import time
from collections.abc import Callable

from PyQt6.QtCore import QRectF, QTimer
from PyQt6.QtGui import QColor, QPainter, QPaintEvent
from PyQt6.QtWidgets import QWidget

from chapto.app import layouts
from chapto.app.frame.message_list import MessageList
from chapto.app.frame.messages import Messages
from chapto.app.theme import icon_pixmap
from chapto.app.widgets import Pressable, button, ground, label
from chapto.app.workers import Workers
from chapto.clock.timecode import clock_text
from chapto.paint.colours import FIRST, INK_SOFT, PAPER_DEEP, PAPER_LINE
from chapto.review.work import NextStep


class StatusBar(QWidget):
    """A sentence that can be pressed; messages take its place one after another, each until it was read."""

    def __init__(self, act: Callable[[NextStep], object], workers: Workers) -> None:
        super().__init__()
        ground(self, "paper")
        self.setFixedHeight(36)
        self._step: NextStep | None = None
        self._act = act
        self.messages = Messages()
        row = layouts.row(self, margins=(14, 0, 14, 0), spacing=8)
        sign = label()
        sign.setPixmap(icon_pixmap("forward", INK_SOFT, 16, 2.0))
        row.addWidget(sign)
        self.sentence = Pressable(self._pressed)
        self.sentence.setMinimumWidth(80)
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
        row.addWidget(
            button("", self.show_messages, tip="Read the last messages again", key="F2", sign="said", kind="quiet")
        )
        self._quiet = QTimer(self)
        self._quiet.setSingleShot(True)
        self._quiet.timeout.connect(self._go_on)
        workers.progressed.connect(self.work)

    def next_is(self, step: NextStep) -> None:
        """What is best done next."""
        self._step = step
        if self.messages.now is None:
            self._show()

    def say(self, sentence: str) -> None:
        """Something the creator should know now. Of several lines the first is shown, the others are in the list."""
        self.messages.say(sentence, time.monotonic())
        self._show()

    def show_messages(self) -> None:
        """The last messages, to be read again."""
        MessageList(self.window() or self, self.messages.said)

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

    def _pressed(self) -> None:
        """A message has been read; the next step is gone to."""
        now = self.messages.now
        if now is None:
            if self._step is not None:
                self._act(self._step)
            return
        self.messages.put_away(time.monotonic())
        self._show()
        if now.is_list:
            self.show_messages()

    def _go_on(self) -> None:
        self.messages.go_on(time.monotonic())
        self._show()

    def _show(self) -> None:
        """The message of the moment, else the next step."""
        now, clock = self.messages.now, time.monotonic()
        text = now.head if now is not None else self._step.sentence if self._step else ""
        self.sentence.setText(text)
        self.sentence.setToolTip(text if self.sentence.sizeHint().width() > self.sentence.width() else "")
        if now is not None:
            self._quiet.start(round(self.messages.left(clock) * 1000))
