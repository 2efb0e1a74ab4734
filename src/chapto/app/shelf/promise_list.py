"""Promises on dark: each a slip with the words it was given in, on the line of months from when it was given."""

from __future__ import annotations

from datetime import date

from PyQt6.QtCore import QPointF, QRectF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QColor, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen
from PyQt6.QtWidgets import QWidget

from chapto.app.film_cells import paint_cell
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


class PromiseList(QWidget):
    """`chosen` carries a promise."""

    chosen = pyqtSignal(object)

    def __init__(self, pictures: ShelfPictures) -> None:
        super().__init__()
        self._pictures = pictures
        self._places: dict[tuple[str, str], Found] = {}
        pictures.arrived.connect(self._arrived)
        self.promises: tuple[OnShelf, ...] = ()
        self.current = -1
        self._today = date.today()
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setProperty("ownKeys", True)
        self.setAccessibleName("Promises")

    def show_promises(self, promises: tuple[OnShelf, ...], places: dict[tuple[str, str], Found], today: date) -> None:
        """Show these, with the places (by path and key) they were said over; the one that was chosen stays so."""
        self._places = places
        self._pictures.locate(places.values())
        self._arrived()
        before = self.promise
        self.promises, self._today = promises, today
        keys = [(p.path, p.key) for p in promises]
        mine = (before.path, before.key) if before is not None else None
        self.current = keys.index(mine) if mine in keys else (0 if promises else -1)
        self.setMinimumHeight(round(2 * EDGE + ROW * len(promises)))
        self.update()
        self.chosen.emit(self.promise)

    @property
    def promise(self) -> OnShelf | None:
        """The chosen one."""
        return self.promises[self.current] if 0 <= self.current < len(self.promises) else None

    def choose(self, number: int) -> None:
        """Choose one."""
        if self.promises:
            self.current = min(max(number, 0), len(self.promises) - 1)
            self.update()
            self.chosen.emit(self.promise)

    def sizeHint(self) -> QSize:
        """All rows."""
        return QSize(500, round(2 * EDGE + ROW * len(self.promises)))

    def paintEvent(self, event: QPaintEvent | None) -> None:
        """One below the other; the open ones first."""
        p = QPainter(self)
        p.setRenderHint(QPainter.RenderHint.Antialiasing)
        p.fillRect(self.rect(), QColor(DEEP))
        for i, one in enumerate(self.promises):
            self._row(p, QRectF(EDGE, EDGE + i * ROW, self.width() - 2 * EDGE, ROW - 10), one, i == self.current)
        if not self.promises:
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

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        """Choose it."""
        assert event is not None
        number = int((event.position().y() - EDGE) // ROW)
        if 0 <= number < len(self.promises):
            self.choose(number)
        self.setFocus()

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        """Up and down."""
        assert event is not None
        by = {Qt.Key.Key_Down: 1, Qt.Key.Key_Up: -1}.get(Qt.Key(event.key()))
        if by is None:
            super().keyPressEvent(event)
        else:
            self.choose(self.current + by)
