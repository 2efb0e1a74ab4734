"""The ties of a beat as small pictures, each with its word and how it meets."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from fractions import Fraction

from PyQt6.QtCore import QRectF, Qt
from PyQt6.QtGui import QColor, QMouseEvent, QPainter, QPaintEvent
from PyQt6.QtWidgets import QWidget

from chapto.app.filmstrip import Filmstrip
from chapto.app.theme import number_font, text_font
from chapto.paint.colours import INK, INK_SOFT, PAPER_DEEP, TIES
from chapto.paint.lettering import RIGHT, write
from chapto.programme.programme import PlacedTie

WIDE, HIGH, ROOM = 80.0, 45.0, 94.0
"""Pixels of a small picture, and from the left edge of one to that of the next."""


@dataclass(frozen=True)
class Shown:
    """One tie: its word, its moment's mat second, its state's colour, and what is said of it."""

    word: int
    text: str
    mat: Fraction
    colour: str
    meets: str


def shown_ties(ties: Sequence[PlacedTie]) -> tuple[Shown, ...]:
    """Ties as the row shows them."""
    found = []
    for t in sorted(ties, key=lambda t: t.word):
        lag = t.lag
        meets = "not shown" if lag is None else "meets" if abs(lag) < Fraction(1, 20) else f"{float(lag):+.1f} s"
        found.append(Shown(t.word, t.text.strip(".,;:!?"), t.mat, TIES[t.state], meets))
    return tuple(found)


class TieRow(QWidget):
    """`go` is called with a word and a mat second when a picture is pressed."""

    def __init__(self, film: Filmstrip, go: Callable[[int, Fraction], object]) -> None:
        super().__init__()
        self._film, self._go = film, go
        self._ties: tuple[Shown, ...] = ()
        self.setFixedHeight(int(HIGH) + 20)
        self.setCursor(Qt.CursorShape.PointingHandCursor)
        film.arrived.connect(self.update)
        self.hide()

    def show_ties(self, ties: tuple[Shown, ...], *, chosen: bool) -> None:
        """Take the ties of the beat; the row is there while the beat is being written."""
        self._ties = ties
        self.setVisible(chosen and bool(ties))
        self.update()

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        """Go to the moment under the pointer."""
        assert event is not None
        i = int(event.position().x() // ROOM)
        if i < len(self._ties):
            self._go(self._ties[i].word, self._ties[i].mat)

    def paintEvent(self, event: QPaintEvent | None) -> None:
        """Pictures in a row, a thread of the state's colour under each, then word and lag."""
        p = QPainter(self)
        p.setRenderHints(QPainter.RenderHint.Antialiasing | QPainter.RenderHint.SmoothPixmapTransform)
        for i, tie in enumerate(self._ties):
            box = QRectF(i * ROOM + 4, 1, WIDE, HIGH)
            image = self._film.at(tie.mat)
            if image is None:
                p.fillRect(box, QColor(PAPER_DEEP))
            else:
                p.drawImage(box, image)
            p.fillRect(QRectF(box.left(), box.bottom(), WIDE, 3), QColor(tie.colour))
            p.setFont(text_font(12, 600))
            words = QRectF(box.left(), box.bottom() + 3, WIDE, 16)
            write(p, words.adjusted(0, 0, -p.fontMetrics().horizontalAdvance(tie.meets) - 6, 0), tie.text, INK)
            p.setFont(number_font(13))
            write(p, words, tie.meets, INK_SOFT, RIGHT)
        p.end()
