"""The line that is read, large, on paper; its words light up at the narrator's pace."""

from __future__ import annotations

from PyQt6.QtCore import QPointF, QRectF
from PyQt6.QtGui import QColor, QFontMetricsF, QPainter, QPaintEvent, QPen
from PyQt6.QtWidgets import QWidget

from chapto.app.theme import text_font
from chapto.app.voice.reading import Reading
from chapto.paint.colours import AMBER, CHOSEN, INK, INK_OFF, INK_SOFT, PAPER
from chapto.paint.lettering import cut

LEFT, RIGHT, TOP = 22.0, 20.0, 30.0
SIZES = (27, 24, 21, 18, 15)
"""Pixels of the line, the largest that fits."""
LINE, AHEAD_LINE = 1.28, 22.0
HIGHEST = 0.66
"""Share of the height that the line may take; the rest is for what follows."""


class Prompter(QWidget):
    """Shows a `Reading`."""

    def __init__(self) -> None:
        super().__init__()
        self.reading = Reading("", "", (), ())
        self.setMinimumHeight(130)
        self.setAccessibleName("The line to read")

    def show_reading(self, reading: Reading) -> None:
        """Show another line, or another word of it."""
        if reading != self.reading:
            self.reading = reading
            self.setAccessibleDescription(" ".join(reading.words))
            self.update()

    def paintEvent(self, event: QPaintEvent | None) -> None:
        """Who reads, the line, and the two after it."""
        p, r = QPainter(self), self.reading
        p.setRenderHint(QPainter.RenderHint.Antialiasing)
        p.fillRect(self.rect(), QColor(PAPER))
        p.setFont(text_font(13, 600))
        p.setPen(QColor(INK_SOFT))
        p.drawText(QPointF(LEFT, 20), r.who)
        room = self.height() - TOP - 2 * AHEAD_LINE - 8
        for size in SIZES:
            places, bottom = self._places(size)
            if bottom <= max(room, HIGHEST * self.height()) or size == SIZES[-1]:
                break
        p.setFont(text_font(size, 500))
        odd = dict(r.odd)
        for number, (word, box) in enumerate(zip(r.words, places, strict=True)):
            if number == r.now:
                p.setPen(QColor(CHOSEN))
                p.setBrush(QColor(CHOSEN))
                p.drawRoundedRect(box.adjusted(-3, 1, 3, -1), 4, 4)
            p.setPen(QColor(INK_SOFT if number < r.now else INK))
            p.drawText(QPointF(box.left(), box.bottom() - size * 0.32), word)
            if number in odd:
                y = box.center().y() + 2 if odd[number] else box.bottom() - size * 0.18
                p.setPen(QPen(QColor(AMBER), 2))
                p.drawLine(QPointF(box.left(), y), QPointF(box.right(), y))
        y = TOP + bottom + 8
        for text in r.ahead:
            if y + AHEAD_LINE > self.height() + 4:
                break
            font = text_font(15)
            p.setFont(font)
            p.setPen(QColor(INK_OFF if text is not r.ahead[0] else INK_SOFT))
            p.drawText(QPointF(LEFT, y + 17), cut(text, font, self.width() - LEFT - RIGHT))
            y += AHEAD_LINE + 2
        p.end()

    def _places(self, size: int) -> tuple[list[QRectF], float]:
        """The box of each word at a size in pixels, and how far down they go."""
        metrics = QFontMetricsF(text_font(size, 500))
        space, high = metrics.horizontalAdvance(" "), size * LINE
        x, y, boxes = LEFT, 0.0, []
        for word in self.reading.words:
            wide = metrics.horizontalAdvance(word)
            if x > LEFT and x + wide > self.width() - RIGHT:
                x, y = LEFT, y + high
            boxes.append(QRectF(x, TOP + y, wide, high))
            x += wide + space
        return boxes, y + high
