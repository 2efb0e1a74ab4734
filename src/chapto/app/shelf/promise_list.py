"""Promises on dark: each a slip with the words it was given in, on the line of months from when it was given."""

from __future__ import annotations

from datetime import date

from PyQt6.QtCore import QPointF, QRectF, Qt
from PyQt6.QtGui import QColor, QPainter, QPaintEvent, QPen

from chapto.app.film_cells import paint_cell
from chapto.app.shelf.rows import Rows
from chapto.app.shelf.shelf_pictures import ShelfPictures
from chapto.app.theme import number_font, text_font
from chapto.paint.colours import AMBER, DEEP, FIRST, ON_DARK, ON_DARK_SOFT, SPRUCE, SPRUCE_LIGHT, SPRUCE_LINE, TIES
from chapto.paint.lettering import write
from chapto.programme.programme import TieState
from chapto.shelf.book import Ended
from chapto.shelf.dates_said import day_said
from chapto.shelf.promises import SAID, OnShelf
from chapto.shelf.search import Found

ROW, EDGE, PICTURE = 78.0, 16.0, 104.0
KEPT = TIES[TieState.MET]


class PromiseList(Rows):
    """Promises one below the other, the open ones first."""

    def __init__(self, pictures: ShelfPictures) -> None:
        super().__init__("Promises", lambda p: (p.path, p.key), row=ROW, head=EDGE, foot=EDGE)
        self._pictures = pictures
        self._places: dict[tuple[str, str], Found] = {}
        pictures.arrived.connect(self._arrived)
        self._today = date.today()

    def show_promises(self, promises: tuple[OnShelf, ...], places: dict[tuple[str, str], Found], today: date) -> None:
        """Show these, with the places (by path and key) they were said over."""
        self._places, self._today = places, today
        self._pictures.locate(places.values())
        self._arrived()
        self.show_items(promises)

    def paintEvent(self, event: QPaintEvent | None) -> None:
        """One below the other; the open ones first."""
        p = QPainter(self)
        p.setRenderHint(QPainter.RenderHint.Antialiasing)
        p.fillRect(self.rect(), QColor(DEEP))
        for i, one in enumerate(self.items):
            self._row(p, QRectF(EDGE, EDGE + i * ROW, self.width() - 2 * EDGE, ROW - 10), one, i == self.current)
        if not self.items:
            p.setFont(text_font(15))
            said = "Nothing is promised. “Part two”, “link below” and the like are found by themselves."
            write(p, QRectF(self.rect()).adjusted(24, 0, -24, 0), said, ON_DARK_SOFT, Qt.AlignmentFlag.AlignCenter)
        p.end()

    def _row(self, p: QPainter, box: QRectF, one: OnShelf, chosen: bool) -> None:
        p.setPen(QPen(QColor(FIRST), 2) if chosen else Qt.PenStyle.NoPen)
        p.setBrush(QColor(SPRUCE_LIGHT if one.is_open else SPRUCE))
        p.drawRoundedRect(box, 4, 4)
        done = one.settled
        colour = AMBER if done is None else KEPT if done.how is Ended.KEPT else SPRUCE_LINE
        self._picture(p, QRectF(box.left() + 5, box.top() + 5, PICTURE, box.height() - 10), one)
        p.setPen(Qt.PenStyle.NoPen)
        p.setBrush(QColor(colour))
        left = box.left() + PICTURE + 24
        p.drawEllipse(QPointF(left, box.top() + 22), 6, 6)
        p.setFont(text_font(15, 600 if one.is_open else 400))
        ink = ON_DARK if one.is_open else ON_DARK_SOFT
        words = QRectF(left + 16, box.top() + 9, box.right() - 160 - left - 16, 26)
        write(p, words, f"“{one.sentence.strip()}”", ink)
        p.setFont(text_font(13))
        where = f"{SAID[one.kind]} · {one.title}" if one.title else SAID[one.kind]
        write(p, words.translated(0, 26), where, ON_DARK_SOFT)
        right = QRectF(box.right() - 150, box.top() + 8, 138, 24)
        p.setFont(number_font(15, 500))
        if done is not None:
            write(p, right, f"{done.how.value} {done.day}", ON_DARK_SOFT, Qt.AlignmentFlag.AlignRight)
        else:
            days = (self._today - date.fromisoformat(one.day)).days if one.day else 0
            write(p, right, f"{days} days" if days != 1 else "1 day", ON_DARK, Qt.AlignmentFlag.AlignRight)
            p.setFont(text_font(12))
            write(p, right.translated(0, 24), f"since {day_said(one.day)}", ON_DARK_SOFT, Qt.AlignmentFlag.AlignRight)

    def _picture(self, p: QPainter, box: QRectF, one: OnShelf) -> None:
        """What was seen when it was promised; a sign of words where nothing was."""
        place = self._places.get((one.path, one.place))
        image = self._pictures.still(place) if place is not None else None
        if image is not None:
            paint_cell(p, box, image)
            return
        p.fillRect(box, QColor(SPRUCE))
        p.setFont(number_font(24, 500))
        write(p, box, "“ ”", ON_DARK_SOFT, Qt.AlignmentFlag.AlignCenter)

    def _arrived(self) -> None:
        self._pictures.ask_stills(self, self._places.values())
        self.update()
