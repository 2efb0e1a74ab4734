"""Places that were found, as pictures in rows; the one under the pointer plays."""

from __future__ import annotations

import time
from collections.abc import Callable, Sequence

from PyQt6.QtCore import QPointF, QRectF, QSize, Qt, QTimer, pyqtSignal
from PyQt6.QtGui import QColor, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QResizeEvent
from PyQt6.QtWidgets import QWidget

from chapto.app.shelf.cell import GAP, LEAST, SHAPE, WORDS, paint_place
from chapto.app.shelf.shelf_pictures import ShelfPictures
from chapto.app.theme import text_font
from chapto.paint.colours import DEEP, ON_DARK_SOFT
from chapto.paint.lettering import write
from chapto.shelf.search import Found

EDGE = 16
TICK = 80
"""Milliseconds from one picture of what plays to the next."""
AHEAD = (0.0, 0.09, 0.18, 0.27)
"""Seconds ahead that are fetched."""
Words = Callable[[Found], Sequence[str]]


class PlaceGrid(QWidget):
    """`chosen` carries a place that was pressed or gone to, `taken` one that was pressed twice or taken with Return.
    `left` comes where Up leaves the first row."""

    chosen = pyqtSignal(object)
    taken = pyqtSignal(object)
    left = pyqtSignal()

    def __init__(self, pictures: ShelfPictures, words: Words) -> None:
        super().__init__()
        self._pictures, self._words = pictures, words
        self.places: list[Found] = []
        self.current = -1
        self._under = -1
        self._since = 0.0
        self._nothing = ""
        self._timer = QTimer(self)
        self._timer.setInterval(TICK)
        self._timer.timeout.connect(self._tick)
        self.setMouseTracking(True)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setProperty("ownKeys", True)
        self.setAccessibleName("What was found")
        pictures.arrived.connect(self._arrived)

    def show_places(self, places: list[Found], nothing: str, *, same: bool = False) -> None:
        """Show these; `nothing` is said where there are none. Where it is the `same` that was looked for, the one that
        was chosen stays so."""
        before, keys = self.place if same else None, [(p.path, p.key) for p in places]
        self.places, self._nothing = places, nothing
        mine = (before.path, before.key) if before is not None else None
        self.current = keys.index(mine) if mine in keys else (0 if places else -1)
        self._stop()
        self._pictures.locate(places)
        self._ask()
        self._fit()
        self.update()
        if self.place is not None:
            self.chosen.emit(self.place)

    @property
    def place(self) -> Found | None:
        """The one that is chosen."""
        return self.places[self.current] if 0 <= self.current < len(self.places) else None

    def choose(self, number: int) -> None:
        """Choose one of them."""
        if self.places:
            self.current = min(max(number, 0), len(self.places) - 1)
            self.chosen.emit(self.places[self.current])
            self.update()

    def play(self, number: int | None = None) -> None:
        """Play one, the chosen one if none is named; or stop it."""
        number = self.current if number is None else number
        if self._under == number and self._timer.isActive():
            self._stop()
        elif 0 <= number < len(self.places) and self._pictures.is_here(self.places[number]):
            self._under, self._since = number, time.monotonic()
            self._timer.start()
            self._tick()

    def is_settled(self) -> bool:
        """Whether the pictures of all that is in view are there."""
        return self._pictures.is_settled(self.places)

    def box(self, number: int) -> QRectF:
        """Where one of them is painted."""
        row, column = divmod(number, self.across)
        wide, high = self._cell
        return QRectF(EDGE + column * (wide + GAP), EDGE + row * (high + GAP), wide, high)

    @property
    def across(self) -> int:
        """How many stand in a row."""
        return max(int((self.width() - 2 * EDGE + GAP) // (LEAST + GAP)), 1)

    @property
    def _cell(self) -> tuple[float, float]:
        """Width and height of a cell: a row is filled."""
        wide = (self.width() - 2 * EDGE - (self.across - 1) * GAP) / self.across
        return wide, wide * SHAPE + WORDS

    def sizeHint(self) -> QSize:
        """As high as all rows."""
        rows = -(-len(self.places) // self.across)
        return QSize(round(2 * EDGE + 2 * LEAST), round(2 * EDGE + max(rows, 1) * (self._cell[1] + GAP)))

    # ── painting ─────────────────────────────────────────────────────────────────────────────────────────────
    def paintEvent(self, event: QPaintEvent | None) -> None:
        """What is in view."""
        assert event is not None
        p = QPainter(self)
        p.setRenderHints(QPainter.RenderHint.Antialiasing | QPainter.RenderHint.SmoothPixmapTransform)
        p.fillRect(event.rect(), QColor(DEEP))
        seen = QRectF(event.rect())
        for i, place in enumerate(self.places):
            box = self.box(i)
            if not box.adjusted(-6, -6, 6, 6).intersects(seen):
                continue
            plays = i == self._under and self._timer.isActive()
            image = self._pictures.moving(place, self._second(place)) if plays else None
            at = self._second(place) / max(place.seconds, 0.1) if plays else None
            shown = image or self._pictures.still(place)
            paint_place(p, box, place, shown, self._words(place), chosen=i == self.current, at=at)
        if not self.places:
            p.setFont(text_font(15))
            write(
                p,
                QRectF(self.rect()).adjusted(24, 0, -24, 0),
                self._nothing,
                ON_DARK_SOFT,
                Qt.AlignmentFlag.AlignCenter,
            )
        p.end()

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        """Rows of another length."""
        super().resizeEvent(event)
        self._fit()

    # ── pointer and keys ─────────────────────────────────────────────────────────────────────────────────────
    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        """What is under the pointer plays."""
        assert event is not None
        number = self._at(event.position())
        if number != self._under:
            self._stop()
            if number >= 0:
                self.play(number)

    def leaveEvent(self, event: object) -> None:
        """It stands again."""
        self._stop()

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        """Choose it."""
        assert event is not None
        if (number := self._at(event.position())) >= 0:
            self.choose(number)
        self.setFocus()

    def mouseDoubleClickEvent(self, event: QMouseEvent | None) -> None:
        """Take it."""
        assert event is not None
        if (number := self._at(event.position())) >= 0:
            self.taken.emit(self.places[number])

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        """Arrows go, Space plays, Return takes."""
        assert event is not None
        by = {Qt.Key.Key_Right: 1, Qt.Key.Key_Left: -1, Qt.Key.Key_Down: self.across, Qt.Key.Key_Up: -self.across}
        key = event.key()
        if key == Qt.Key.Key_Up and self.current < self.across:
            self.left.emit()
        elif key in by:
            self.choose(self.current + by[Qt.Key(key)])
        elif key == Qt.Key.Key_Space:
            self.play()
        elif key in (Qt.Key.Key_Return, Qt.Key.Key_Enter) and self.place is not None:
            self.taken.emit(self.place)
        else:
            super().keyPressEvent(event)

    def _at(self, point: QPointF) -> int:
        return next((i for i in range(len(self.places)) if self.box(i).contains(point)), -1)

    def _second(self, place: Found) -> float:
        """Seconds after its start; it begins anew at its end."""
        return (time.monotonic() - self._since) % max(place.seconds, 0.5)

    def _tick(self) -> None:
        if not 0 <= self._under < len(self.places):
            self._stop()
            return
        place = self.places[self._under]
        second = self._second(place)
        self._pictures.ask_moving(place, (second + s for s in AHEAD))
        self.update(self.box(self._under).toAlignedRect())

    def _stop(self) -> None:
        if self._timer.isActive():
            self._timer.stop()
            self.update()
        self._under = -1

    def _arrived(self) -> None:
        self._ask()
        self.update()

    def _ask(self) -> None:
        self._pictures.ask_stills(self, self.places)

    def _fit(self) -> None:
        self.setMinimumHeight(self.sizeHint().height() if self.places else 0)
