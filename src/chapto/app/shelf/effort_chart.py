"""Effort a finished minute, breakdown after breakdown, with the curve by which it falls."""

from __future__ import annotations

from collections.abc import Sequence

from PyQt6.QtCore import QLineF, QPointF, QRectF, QSize, Qt
from PyQt6.QtGui import QColor, QPainter, QPainterPath, QPaintEvent, QPen
from PyQt6.QtWidgets import QSizePolicy, QWidget

from chapto.app.theme import number_font, text_font
from chapto.paint.colours import FIRST, INK, INK_SOFT, PAPER_LINE
from chapto.paint.lettering import write
from chapto.shelf.dates_said import day_said
from chapto.shelf.forecast import Learning
from chapto.shelf.times import Effort

HIGH = 132


class EffortChart(QWidget):
    """Minutes of work a finished minute; a dot for each breakdown."""

    def __init__(self) -> None:
        super().__init__()
        self._efforts: Sequence[Effort] = []
        self._learning: Learning | None = None
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        self.setFixedHeight(HIGH)
        self.setAccessibleName("Effort a finished minute")

    def show_efforts(self, efforts: Sequence[Effort], learning: Learning | None) -> None:
        """Show those with a finished video."""
        self._efforts, self._learning = [e for e in efforts if e.a_minute is not None], learning
        self.update()

    def sizeHint(self) -> QSize:
        """Its height is given."""
        return QSize(240, HIGH)

    def paintEvent(self, event: QPaintEvent | None) -> None:
        """Dots and curve."""
        minutes = [e.a_minute / 60 for e in self._efforts if e.a_minute is not None]
        if not minutes:
            return
        p = QPainter(self)
        p.setRenderHint(QPainter.RenderHint.Antialiasing)
        room = QRectF(self.rect()).adjusted(30, 20, -8, -20)
        highest = max(minutes)
        p.setFont(text_font(12))
        write(p, QRectF(0, 0, self.width(), 16), "Minutes of work a finished minute", INK_SOFT)
        for level in (0.0, highest / 2, highest):
            y = room.bottom() - room.height() * level / highest
            p.setPen(QPen(QColor(PAPER_LINE), 1))
            p.drawLine(QLineF(room.left(), y, room.right(), y))
            p.setFont(number_font(12))
            write(p, QRectF(0, y - 9, 26, 18), f"{level:.0f}", INK_SOFT, Qt.AlignmentFlag.AlignRight)

        def point(number: int, value: float) -> QPointF:
            x = room.left() + room.width() * (number - 0.5) / len(minutes)
            return QPointF(x, room.bottom() - room.height() * min(value / highest, 1.05))

        if self._learning is not None:
            path = QPainterPath()
            for n in range(1, len(minutes) + 1):
                at = point(n, self._learning.expected(n) / 60)
                path.moveTo(at) if n == 1 else path.lineTo(at)
            p.setPen(QPen(QColor(FIRST), 2.2))
            p.drawPath(path)
        p.setPen(Qt.PenStyle.NoPen)
        p.setBrush(QColor(INK))
        for n, value in enumerate(minutes, 1):
            p.drawEllipse(point(n, value), 3.2, 3.2)
        p.setFont(text_font(11))
        first, last = self._efforts[0].day, self._efforts[-1].day
        write(p, QRectF(room.left(), room.bottom() + 2, 130, 16), day_said(first), INK_SOFT)
        right = QRectF(room.right() - 130, room.bottom() + 2, 130, 16)
        write(p, right, day_said(last), INK_SOFT, Qt.AlignmentFlag.AlignRight)
        p.end()
