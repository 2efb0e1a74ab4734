"""A word that may be tied, with the picture it would be tied to."""

from __future__ import annotations

from collections.abc import Callable

from PyQt6.QtCore import QRectF, Qt
from PyQt6.QtGui import QColor, QMouseEvent, QPainter, QPaintEvent
from PyQt6.QtWidgets import QWidget

from chapto.app.filmstrip import Filmstrip
from chapto.app.theme import text_font
from chapto.clock.timecode import clock_text
from chapto.lexicon.trade_words import trade_word
from chapto.pacing.offers import Offer
from chapto.paint.colours import INK_SOFT, PAPER_DEEP, PAPER_LINE
from chapto.paint.lettering import write

WIDE, HIGH = 80.0, 45.0


class OfferRow(QWidget):
    """`tie` is called when it is pressed. The picture is there while its beat is being written."""

    def __init__(self, film: Filmstrip, tie: Callable[[], object]) -> None:
        super().__init__()
        self._film, self._tie = film, tie
        self._offer: Offer | None = None
        self._chosen = False
        self.setCursor(Qt.CursorShape.PointingHandCursor)
        film.arrived.connect(self.update)
        self.hide()

    def text(self) -> str:
        """What is offered, in words."""
        offer = self._offer
        if offer is None:
            return ""
        m = offer.moment
        there = (m.note or trade_word(m.kind)) if m else "as the script says" if offer.stamped else "where most happens"
        return f"Tie “{offer.text}” to {clock_text(offer.at, tenths=True)}, {there}?   Ctrl+G"

    def show_offer(self, offer: Offer | None, *, chosen: bool) -> None:
        """Take what is offered, and whether the beat is the one being written."""
        self._offer, self._chosen = offer, chosen
        self.setVisible(offer is not None)
        self.setFixedHeight(int(HIGH) + 4 if chosen else 20)
        self.setAccessibleName(self.text())
        self.update()

    def mouseReleaseEvent(self, event: QMouseEvent | None) -> None:
        """Tie it."""
        self._tie()

    def paintEvent(self, event: QPaintEvent | None) -> None:
        """The picture with a dashed thread under it, and the question beside it."""
        if self._offer is None:
            return
        p = QPainter(self)
        p.setRenderHints(QPainter.RenderHint.Antialiasing | QPainter.RenderHint.SmoothPixmapTransform)
        left = 4.0
        if self._chosen:
            box = QRectF(4, 1, WIDE, HIGH)
            image = self._film.at(self._offer.at)
            if image is None:
                p.fillRect(box, QColor(PAPER_DEEP))
            else:
                p.drawImage(box, image)
            for x in range(int(box.left()), int(box.right()), 8):
                p.fillRect(QRectF(x, box.bottom(), 5, 3), QColor(PAPER_LINE).darker(140))
            left = box.right() + 10
        p.setFont(text_font(13))
        write(p, QRectF(left, 0, self.width() - left, self.height()), self.text(), INK_SOFT)
        p.end()
