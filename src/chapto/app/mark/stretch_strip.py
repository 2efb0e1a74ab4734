"""The stretch of a mark magnified: its points as threads, keys as pins, doubt as fraying, hidden parts open."""

from __future__ import annotations

from fractions import Fraction

from PyQt6.QtCore import QLineF, QPointF, QRectF, Qt, pyqtSignal
from PyQt6.QtGui import QColor, QMouseEvent, QPainter, QPainterPath, QPaintEvent, QPen
from PyQt6.QtWidgets import QWidget

from chapto.app.mark.strip_model import Stretch, Thread
from chapto.app.theme import number_font, text_font
from chapto.clock.timecode import clock_text
from chapto.document.people import Side
from chapto.paint.colours import (
    AMBER,
    CHOSEN,
    DEEP,
    ON_DARK,
    ON_DARK_SOFT,
    PAPER,
    SPRUCE,
    SPRUCE_LIGHT,
    SPRUCE_LINE,
    see_through,
)

LEFT, RIGHT, TOP, FOOT = 146.0, 14.0, 24.0, 8.0
HIGHEST = 24.0
NAMED = 13.0
"""Pixels of a row: the highest, and from which on each has its name beside it."""
FRAY = 3.4
"""Pixels by which a thread comes apart where its point is in doubt."""


class StretchStrip(QWidget):
    """`sought` carries the mat second that was pressed."""

    sought = pyqtSignal(float)

    def __init__(self) -> None:
        super().__init__()
        self.setAccessibleName("The stretch of the mark")
        self.setMinimumHeight(112)
        self.stretch = Stretch(0, 5, ())
        self.chosen = ""
        self.now = 0.0
        self.colours: dict[Side, str] = {}

    def show_stretch(self, stretch: Stretch, chosen: str, now: Fraction, colours: dict[Side, str]) -> None:
        """Show a stretch; `now` is the mat time on the screen."""
        self.stretch, self.chosen, self.now, self.colours = stretch, chosen, float(now), colours
        self.update()

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        """Go to a mat second."""
        if event is not None:
            self.sought.emit(self._second(event.position().x()))

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        """Go along with the pointer."""
        if event is not None and event.buttons() & Qt.MouseButton.LeftButton:
            self.sought.emit(self._second(event.position().x()))

    def _x(self, second: float) -> float:
        s = self.stretch
        return LEFT + (second - s.start) / (s.end - s.start) * (self.width() - LEFT - RIGHT)

    def _second(self, x: float) -> float:
        s = self.stretch
        share = min(max((x - LEFT) / (self.width() - LEFT - RIGHT), 0.0), 1.0)
        return s.start + share * (s.end - s.start)

    def paintEvent(self, event: QPaintEvent | None) -> None:
        """Seconds, when the mark is shown, the threads, where we are."""
        p = QPainter(self)
        p.setRenderHint(QPainter.RenderHint.Antialiasing)
        p.fillRect(self.rect(), QColor(SPRUCE))
        s = self.stretch
        room = QRectF(LEFT, TOP, self.width() - LEFT - RIGHT, self.height() - TOP - FOOT)
        p.fillRect(room, QColor(DEEP))
        for start, end in s.shown:
            box = QRectF(self._x(start), TOP, max(self._x(end) - self._x(start), 3), room.height())
            p.fillRect(box, see_through(CHOSEN, 34))
        self._seconds(p, room)
        high = min(room.height() / max(len(s.threads), 1), HIGHEST)
        for i, thread in enumerate(s.threads):
            self._thread(p, thread, TOP + (i + 0.5) * high + (room.height() - high * len(s.threads)) / 2, high)
        if not s.threads:
            p.setPen(QColor(ON_DARK_SOFT))
            p.setFont(text_font(13))
            p.drawText(room, Qt.AlignmentFlag.AlignCenter, "The points of a mark are shown here over time.")
        x = self._x(self.now)
        if LEFT <= x <= self.width() - RIGHT:
            p.setPen(QPen(QColor(PAPER), 1.6))
            p.drawLine(QLineF(x, TOP - 6, x, self.height() - FOOT))
        p.end()

    def _seconds(self, p: QPainter, room: QRectF) -> None:
        s = self.stretch
        step = next(n for n in (0.5, 1, 2, 5, 10, 30, 60, 300, 1e9) if room.width() * n / (s.end - s.start) > 54)
        p.setFont(number_font(13))
        k = int(s.start / step) + 1
        while k * step < s.end:
            x = self._x(k * step)
            p.setPen(QPen(QColor(SPRUCE_LIGHT), 1))
            p.drawLine(QLineF(x, TOP, x, self.height() - FOOT))
            p.setPen(QColor(ON_DARK_SOFT))
            text = clock_text(Fraction(k * step).limit_denominator(10), tenths=step < 1)
            p.drawText(QRectF(x - 40, 4, 80, 18), Qt.AlignmentFlag.AlignCenter, text)
            k += 1

    def _thread(self, p: QPainter, thread: Thread, y: float, high: float) -> None:
        chosen = thread.anchor == self.chosen
        colour = self.colours.get(thread.side, PAPER) if thread.side is not None else PAPER
        if chosen or high >= NAMED:
            p.setFont(text_font(12, 600 if chosen else 400))
            p.setPen(QColor(ON_DARK if chosen else ON_DARK_SOFT))
            right = Qt.AlignmentFlag.AlignVCenter | Qt.AlignmentFlag.AlignRight
            p.drawText(QRectF(8, y - 10, LEFT - 16, 20), right, thread.name)
        p.save()
        p.setClipRect(QRectF(LEFT, 0, self.width() - LEFT - RIGHT, self.height()))
        for start, end, doubt, hidden in thread.pieces:
            one, other = self._x(start), self._x(end)
            if hidden:
                p.setPen(QPen(QColor(SPRUCE_LINE), 1.6, Qt.PenStyle.DotLine))
                p.drawLine(QLineF(one, y, other, y))
            else:
                self._strands(p, one, other, y, doubt, colour, min(high, 16) / 16)
        for second, seen in thread.keys:
            self._pin(p, self._x(second), y, seen, chosen, min(4.2, 0.42 * high))
        p.restore()

    def _strands(self, p: QPainter, one: float, other: float, y: float, doubt: float, colour: str, by: float) -> None:
        """A thread: one cord where it is sure, three loose strands where it is not."""
        if doubt < 0.34:
            p.setPen(QPen(QColor(colour), 1.4 + 1.8 * by, Qt.PenStyle.SolidLine, Qt.PenCapStyle.FlatCap))
            p.drawLine(QLineF(one, y, other, y))
            return
        p.setPen(QPen(QColor(AMBER if doubt > 0.6 else colour), 1.2))
        for strand in (-1, 0, 1):
            path = QPainterPath(QPointF(one, y))
            x = one
            turn = 1
            while x < other:
                x2 = min(x + 5, other)
                path.lineTo(x2, y + strand * FRAY * by + turn * FRAY * 0.5 * doubt * by)
                x, turn = x2, -turn
            p.drawPath(path)

    def _pin(self, p: QPainter, x: float, y: float, seen: bool, chosen: bool, size: float) -> None:
        """A key: a pin through the thread, its head filled where the point is seen from there on."""
        p.setPen(QPen(QColor(PAPER), 1.6))
        p.drawLine(QLineF(x, y, x, y + 1.4 * size))
        p.setBrush(QColor(CHOSEN if chosen else PAPER) if seen else QColor(DEEP))
        p.drawEllipse(QPointF(x, y - 0.2 * size), size, size)
