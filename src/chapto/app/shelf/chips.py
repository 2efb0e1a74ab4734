"""What a line was understood as, and what would narrow it: words that can be pressed."""

from __future__ import annotations

from collections.abc import Sequence

from PyQt6.QtCore import QRectF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QColor, QFontMetricsF, QMouseEvent, QPainter, QPaintEvent, QPen
from PyQt6.QtWidgets import QWidget

from chapto.app.theme import number_font, text_font
from chapto.paint.colours import CHOSEN, INK, INK_SOFT, PAPER, PAPER_DEEP, PAPER_LINE
from chapto.paint.lettering import write
from chapto.shelf.query import Filter

HIGH = 26
Offered = Sequence[tuple[Filter, int]]


class Chips(QWidget):
    """`dropped` carries a filter that is to go, `added` one that is to hold too. What holds stands first."""

    dropped = pyqtSignal(object)
    added = pyqtSignal(object)

    def __init__(self) -> None:
        super().__init__()
        self._held: tuple[Filter, ...] = ()
        self._offered: Offered = ()
        self._boxes: list[tuple[QRectF, Filter, bool]] = []
        self.setFixedHeight(HIGH + 8)
        self.setAccessibleName("Filters")
        self.setCursor(Qt.CursorShape.PointingHandCursor)

    def show_filters(self, held: tuple[Filter, ...], offered: Offered) -> None:
        """Show what holds, and what would narrow it with how many would be left."""
        self._held, self._offered = held, offered
        self.setAccessibleDescription(", ".join(f.label for f in held))
        self.update()

    def shown(self) -> list[tuple[Filter, bool]]:
        """What is painted: each filter, and whether it holds."""
        return [(f, holds) for _, f, holds in self._boxes]

    def sizeHint(self) -> QSize:
        """One row."""
        return QSize(300, HIGH + 8)

    def paintEvent(self, event: QPaintEvent | None) -> None:
        """As many as there is room for."""
        p = QPainter(self)
        p.setRenderHint(QPainter.RenderHint.Antialiasing)
        p.fillRect(self.rect(), QColor(PAPER))
        self._boxes, x = [], 16.0
        for one in self._held:
            x = self._chip(p, x, one, f"{one.label}  ×", "", holds=True)
        if self._held and self._offered:
            x += 8
        for one, count in self._offered:
            x = self._chip(p, x, one, one.label, str(count), holds=False)
        p.end()

    def _chip(self, p: QPainter, x: float, one: Filter, text: str, count: str, *, holds: bool) -> float:
        font, small = text_font(13, 600 if holds else 400), number_font(13)
        wide = QFontMetricsF(font).horizontalAdvance(text) + 20
        more = QFontMetricsF(small).horizontalAdvance(count) + 7 if count else 0.0
        box = QRectF(x, 4, wide + more, HIGH)
        if box.right() > self.width() - 8:
            return x
        p.setPen(QPen(QColor(PAPER_LINE), 1))
        p.setBrush(QColor(CHOSEN if holds else PAPER_DEEP))
        p.drawRoundedRect(box.adjusted(0.5, 0.5, -0.5, -0.5), HIGH / 2, HIGH / 2)
        p.setFont(font)
        write(p, QRectF(x + 10, 4, wide - 10, HIGH), text, INK)
        if count:
            p.setFont(small)
            write(p, QRectF(x + wide - 6, 4, more + 4, HIGH), count, INK_SOFT)
        self._boxes.append((box, one, holds))
        return box.right() + 7

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        """Press one away, or one more."""
        assert event is not None
        for box, one, holds in self._boxes:
            if box.contains(event.position()):
                (self.dropped if holds else self.added).emit(one)
                return
