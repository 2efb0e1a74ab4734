"""An exchange as it went: the positions it goes through and its moments, on one line of time."""

from __future__ import annotations

from PyQt6.QtCore import QLineF, QPointF, QRectF, QSize
from PyQt6.QtGui import QColor, QFontMetricsF, QPainter, QPaintEvent, QPen
from PyQt6.QtWidgets import QSizePolicy, QWidget

from chapto.app.theme import text_font
from chapto.document.bout import MomentKind
from chapto.lexicon.lexicon import Lexicon
from chapto.lexicon.trade_words import trade_word
from chapto.paint.colours import AMBER, INK, INK_SOFT, PAPER_DEEP, PAPER_LINE
from chapto.paint.lettering import write
from chapto.shelf.search import Found
from chapto.shelf.viewed import said

ROW, MOMENTS = 24.0, 56.0
"""Pixels of a position, and of the line with the moments and two rows of words."""
APART = 8.0
"""Pixels between the words of two moments."""


class WayStrip(QWidget):
    """Each position a slip of paper with an arrow to the next; under them the moments at their seconds."""

    def __init__(self) -> None:
        super().__init__()
        self._place: Found | None = None
        self._lexicon: Lexicon | None = None
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        self.setAccessibleName("How it went")

    def show_place(self, place: Found | None, lexicon: Lexicon) -> None:
        """Show how this went."""
        self._place, self._lexicon = place, lexicon
        self.updateGeometry()
        self.setFixedHeight(self.sizeHint().height())
        self.update()

    def sizeHint(self) -> QSize:
        """Higher the more there is."""
        p = self._place
        if p is None or not (p.way or p.moments):
            return QSize(200, 0)
        return QSize(200, round(ROW * min(len(p.way), 4) + (MOMENTS if p.moments else 0) + 4))

    def paintEvent(self, event: QPaintEvent | None) -> None:
        """Slips one under the other, each farther right, then the line with the moments."""
        place, lexicon = self._place, self._lexicon
        if place is None or lexicon is None:
            return
        p = QPainter(self)
        p.setRenderHint(QPainter.RenderHint.Antialiasing)
        for i, view in enumerate(place.way[:4]):
            box = QRectF(14.0 * i, i * ROW + 2, self.width() - 14.0 * i, ROW - 4)
            p.fillRect(box, QColor(PAPER_DEEP))
            p.fillRect(QRectF(box.left(), box.top(), 3, box.height()), QColor(PAPER_LINE))
            p.setFont(text_font(13, 500))
            write(p, box.adjusted(10, 0, -6, 0), said(view, lexicon), INK)
        if place.moments and place.seconds:
            self._moments(p, place, ROW * min(len(place.way), 4) + 12)
        p.end()

    def _moments(self, p: QPainter, place: Found, y: float) -> None:
        left, wide = 4.0, self.width() - 8.0
        p.setPen(QPen(QColor(PAPER_LINE), 2))
        p.drawLine(QLineF(left, y, left + wide, y))
        p.setFont(text_font(12))
        taken = [-100.0, -100.0]
        for kind, second in place.moments:
            x = left + wide * min(second / place.seconds, 1.0)
            p.setPen(QPen(QColor(AMBER), 2))
            p.setBrush(QColor(AMBER))
            p.drawEllipse(QPointF(x, y), 3.5, 3.5)
            words = f"{trade_word(MomentKind(kind))} {second:.1f} s"
            long = QFontMetricsF(p.font()).horizontalAdvance(words) + 2
            start = min(max(x - long / 2, 0.0), self.width() - long)
            row = next((i for i, end in enumerate(taken) if start > end + APART), None)
            # Words that would lie on others are left out; the dots stay.
            if row is not None:
                write(p, QRectF(start, y + 6 + 17 * row, long, 18), words, INK_SOFT)
                taken[row] = start + long
