"""Two tries of the same technique side by side, started together at their own begin, with the moments beneath."""

from __future__ import annotations

import time
from fractions import Fraction

from PyQt6.QtCore import QLineF, QPointF, QRectF, Qt, QTimer, pyqtSignal
from PyQt6.QtGui import QColor, QKeyEvent, QPainter, QPaintEvent, QPen
from PyQt6.QtWidgets import QWidget

from chapto.app.axis import MARGIN
from chapto.app.own_keys import EscIsMine
from chapto.app.screen.feed import PictureFeed, Want
from chapto.app.studio import Studio
from chapto.app.theme import number_font, text_font
from chapto.clock.timecode import clock_text
from chapto.document.bout import Exchange, Moment
from chapto.lexicon.trade_words import trade_word
from chapto.paint.colours import DEEP, FIRST, ON_DARK, ON_DARK_SOFT, SPRUCE, SPRUCE_LINE
from chapto.paint.signs import dot

FOOT = 118.0
STEP = Fraction(1, 30)
SIZE = (480, 270)


class CompareView(EscIsMine, QWidget):
    """Space plays and stops, arrows step, Home goes to the begin, Esc ends (`done`)."""

    done = pyqtSignal()

    def __init__(self, studio: Studio) -> None:
        super().__init__()
        self._studio = studio
        self._files = studio.files
        self.feed = PictureFeed(self._files.pictures)
        self.pair: tuple[Exchange, Exchange] | None = None
        self.at = Fraction(0)
        self._from = (Fraction(0), 0.0)
        self._timer = QTimer(self)
        self._timer.setInterval(16)
        self._timer.timeout.connect(self._tick)
        self.setProperty("ownKeys", True)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName("Two tries side by side")
        self.feed.arrived.connect(self.update)
        self._files.moved.connect(lambda: self.feed.use(self._files.pictures))

    @property
    def playing(self) -> bool:
        """Whether both run."""
        return self._timer.isActive()

    @property
    def length(self) -> Fraction:
        """Seconds until the longer of the two ends."""
        return max((x.end - x.start for x in self.pair), default=Fraction(0)) if self.pair else Fraction(0)

    def begin(self, one: Exchange, other: Exchange) -> None:
        """Show these two from their begin."""
        self.pair, self.at = (one, other), Fraction(0)
        self._timer.stop()
        self._ask()
        self.setFocus()

    def moments(self, x: Exchange) -> tuple[tuple[Fraction, Moment], ...]:
        """(seconds from the begin, moment) of an exchange, in order."""
        return tuple((m.at - x.start, m) for m in self._studio.breakdown.moments if x.start <= m.at <= x.end)

    def is_settled(self) -> bool:
        """Whether nothing more is to come of both pictures."""
        return all(self.feed.is_done(w) for w in self.wants())

    def toggle(self) -> None:
        """Play or stop both."""
        if self.playing:
            self._timer.stop()
        else:
            self.at = Fraction(0) if self.at >= self.length else self.at
            self._from = (self.at, time.monotonic())
            self._timer.start()

    def go(self, at: Fraction) -> None:
        """Both at so many seconds from their begin."""
        self.at = min(max(at, Fraction(0)), self.length)
        self._from = (self.at, time.monotonic())
        self._ask()

    def paintEvent(self, event: QPaintEvent | None) -> None:
        """Pictures over their moments on one scale."""
        p = QPainter(self)
        p.setRenderHints(QPainter.RenderHint.Antialiasing | QPainter.RenderHint.SmoothPixmapTransform)
        p.fillRect(self.rect(), QColor(DEEP))
        if self.pair is None:
            p.end()
            return
        room = QRectF(8, 30, (self.width() - 24) / 2, self.height() - FOOT - 40)
        for i, (x, want) in enumerate(zip(self.pair, self.wants(), strict=True)):
            side = room.translated(i * (room.width() + 8), 0)
            self._head(p, x, QRectF(side.left(), 4, side.width(), 24))
            box = QRectF(0, 0, min(side.width(), side.height() * 16 / 9), min(side.height(), side.width() * 9 / 16))
            box.moveCenter(side.center())
            p.fillRect(box, QColor(SPRUCE))
            image = self.feed.image(want)
            if image is not None:
                p.drawImage(box, image)
            self._scale(p, x, QRectF(MARGIN, self.height() - FOOT + i * 56, self.width() - 2 * MARGIN, 52))
        at = MARGIN + float(self.at / max(self.length, STEP)) * (self.width() - 2 * MARGIN)
        p.setPen(QPen(QColor(FIRST), 1.8))
        p.drawLine(QLineF(at, self.height() - FOOT - 4, at, self.height() - 6))
        p.end()

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        """Play, step, begin, end."""
        assert event is not None
        match event.key():
            case Qt.Key.Key_Space:
                self.toggle()
            case Qt.Key.Key_Left:
                self.go(self.at - STEP)
            case Qt.Key.Key_Right:
                self.go(self.at + STEP)
            case Qt.Key.Key_Home:
                self.go(Fraction(0))
            case Qt.Key.Key_Escape:
                self._timer.stop()
                self.done.emit()
            case _:
                super().keyPressEvent(event)

    def _head(self, p: QPainter, x: Exchange, box: QRectF) -> None:
        p.setPen(QColor(ON_DARK))
        p.setFont(text_font(14, 600))
        ended = f", {trade_word(x.outcome)}" if x.outcome else ""
        p.drawText(box.adjusted(4, 0, 0, 0), Qt.AlignmentFlag.AlignVCenter, f"{x.technique or 'exchange'}{ended}")
        p.setPen(QColor(ON_DARK_SOFT))
        p.setFont(number_font(15))
        text = f"mat {clock_text(x.start, tenths=True)} + {float(self.at):.2f} s"
        p.drawText(box.adjusted(0, 0, -6, 0), Qt.AlignmentFlag.AlignVCenter | Qt.AlignmentFlag.AlignRight, text)

    def _scale(self, p: QPainter, x: Exchange, box: QRectF) -> None:
        """The moments of one try, at their seconds from its begin."""
        wide = box.width() / float(max(self.length, STEP))
        p.setPen(QPen(QColor(SPRUCE_LINE), 5))
        p.drawLine(QLineF(box.left(), box.top() + 8, box.left() + float(x.end - x.start) * wide, box.top() + 8))
        free = [box.left(), box.left()]
        for seconds, m in self.moments(x):
            at = box.left() + float(seconds) * wide
            dot(p, QPointF(at, box.top() + 8), 4, ON_DARK)
            p.setFont(text_font(12))
            text = f"{float(seconds):.1f} s  {m.note or trade_word(m.kind)}"
            needed = p.fontMetrics().horizontalAdvance(text) + 12
            row = 0 if at >= free[0] else 1
            left = min(max(at - 4, free[row]), box.right() - needed)
            p.setPen(QColor(ON_DARK_SOFT))
            p.drawText(QRectF(left, box.top() + 14 + row * 17, needed, 17), Qt.AlignmentFlag.AlignVCenter, text)
            free[row] = left + needed

    def wants(self) -> tuple[Want, ...]:
        """The two pictures that belong on the screen now."""
        if self.pair is None:
            return ()
        places = [min(x.start + self.at, x.end) for x in self.pair]
        return tuple(Want(self._studio.angles.at(mat), mat, *SIZE) for mat in places)

    def _ask(self) -> None:
        self.feed.ask(list(self.wants()))
        self.update()

    def _tick(self) -> None:
        since, then = self._from
        at = since + Fraction(time.monotonic() - then).limit_denominator(1000)
        # Whole pictures, so that two feeds of 30 a second are asked for no more than that.
        self.at = min(at // STEP * STEP, self.length)
        if self.at >= self.length:
            self._timer.stop()
        self._ask()
