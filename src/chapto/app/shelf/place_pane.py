"""The paper beside what was found: how the chosen one went, why it fits, what is like it, what can be done with it."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial

from PyQt6.QtCore import QRectF, Qt, pyqtSignal
from PyQt6.QtGui import QColor, QMouseEvent, QPainter, QPaintEvent
from PyQt6.QtWidgets import QWidget

from chapto.app import layouts
from chapto.app.film_cells import paint_cell
from chapto.app.shelf.cell import title_of
from chapto.app.shelf.shelf_pictures import ShelfPictures
from chapto.app.shelf.way_strip import WayStrip
from chapto.app.theme import number_font, text_font
from chapto.app.widgets import button, ground, label
from chapto.clock.timecode import clock_text
from chapto.lexicon.lexicon import Lexicon
from chapto.paint.colours import CHOSEN, INK, INK_SOFT, PAPER, PAPER_DEEP
from chapto.paint.lettering import write
from chapto.shelf.alike import Alike
from chapto.shelf.cut_to import How
from chapto.shelf.dates_said import day_said
from chapto.shelf.search import Found

MOST_ALIKE = 4
ROW = 62
PICTURE = (86, 50)
HOW_SAID = {How.CUTAWAY: "Cut to it", How.INSET: "As an inset", How.BESIDE: "Side by side"}


class PlacePane(QWidget):
    """`opened` carries a place whose breakdown is to be opened, `cut` how the chosen one is to be shown, `gone_to` one
    that is alike."""

    opened = pyqtSignal(object)
    cut = pyqtSignal(object)
    gone_to = pyqtSignal(object)

    def __init__(self, pictures: ShelfPictures, lexicon: Callable[[], Lexicon]) -> None:
        super().__init__()
        ground(self, "paper")
        self._lexicon = lexicon
        self.place: Found | None = None
        self.title = label("", size="title", wrap=True)
        self.where = label("", soft=True, wrap=True)
        self.why = label("", wrap=True)
        self.way = WayStrip()
        self.said = label("", wrap=True, soft=True)
        self.rights = label("", wrap=True)
        self.alike = AlikeList(pictures, self._lexicon)
        self.alike.pressed.connect(self.gone_to)
        self._like_head = label("Like it", size="head")
        self.acts = {
            how: button(text, partial(self.cut.emit, how), tip=f"{text}, at the word in the script", key=str(n),
                        kind="main" if how is How.CUTAWAY else "")
            for n, (how, text) in enumerate(HOW_SAID.items(), 1)
        }  # fmt: skip
        self.open_button = button("Open its breakdown", self._open, tip="Open the breakdown it is in", key="O")
        cutting = layouts.row(None, *self.acts.values())
        opening = layouts.row(None, self.open_button)
        opening.addStretch(1)
        page = ground(QWidget(), "paper")
        column = layouts.column(page, margins=(18, 14, 16, 12), spacing=8)
        for item in (self.title, self.where, self.why, self.way, self.said, self.rights):
            column.addWidget(item)
        column.addLayout(cutting)
        column.addLayout(opening)
        column.addSpacing(6)
        column.addWidget(self._like_head)
        column.addWidget(self.alike)
        column.addStretch(1)
        layouts.column(self, layouts.scrolled(page))
        self.show_place(None, (), cutting=False, rights="")

    def show_place(self, place: Found | None, alike: tuple[Alike, ...], *, cutting: bool, rights: str) -> None:
        """Show one; `cutting` while a word of the script waits for it, `rights` what is open or forbidden about it."""
        self.place = place
        there = place is not None
        for item in (self.where, self.why, self.way, self.said, self.open_button):
            item.setVisible(there)
        for made in self.acts.values():
            made.setVisible(there and cutting)
        self.alike.show_alike(alike[:MOST_ALIKE])
        self._like_head.setVisible(bool(alike))
        self.rights.setText(rights)
        self.rights.setVisible(bool(rights))
        if place is None:
            self.title.setText("")
            return
        self.title.setText(title_of(place, self._lexicon()))
        part = f", {place.part}" if place.part else ""
        others = f" It also stands in {place.others} other{'s' if place.others > 1 else ''}." if place.others else ""
        state = {"missing": " Its file is no longer there.", "damaged": " Its file is damaged."}.get(place.state, "")
        self.where.setText(f"“{place.title}”{part}. {day_said(place.day)}.{others}{state}")
        who = f"{place.who} against {place.against}. " if place.who and place.against else ""
        ended = {"landed": "It landed.", "stopped": "It was stopped.", "half": "Half of it landed."}.get(
            place.outcome, ""
        )
        told = "" if place.explained or not place.is_exchange else " It was never explained."
        why = f"\nFound by: {', '.join(place.why)}." if place.why else ""
        self.why.setText(f"{who}{ended}{told}{why}".strip())
        self.way.show_place(place, self._lexicon())
        self.said.setText(f"“{place.said}”" if place.said else "")
        self.said.setVisible(bool(place.said))

    def _open(self) -> None:
        if self.place is not None:
            self.opened.emit(self.place)


class AlikeList(QWidget):
    """What is like a place: a picture, its name, and what they share."""

    pressed = pyqtSignal(object)

    def __init__(self, pictures: ShelfPictures, lexicon: Callable[[], Lexicon]) -> None:
        super().__init__()
        self._pictures, self._lexicon = pictures, lexicon
        self._alike: tuple[Alike, ...] = ()
        self._under = -1
        self.setMouseTracking(True)
        self.setCursor(Qt.CursorShape.PointingHandCursor)
        self.setAccessibleName("Exchanges like it")
        pictures.arrived.connect(self._ask)

    def show_alike(self, alike: tuple[Alike, ...]) -> None:
        """Show these."""
        self._alike = alike
        self._pictures.locate([a.found for a in alike])
        self.setFixedHeight((ROW + 8) * len(alike))
        self._ask()

    def _ask(self) -> None:
        self._pictures.ask_stills(self, [a.found for a in self._alike])
        self.update()

    def paintEvent(self, event: QPaintEvent | None) -> None:
        """One below the other."""
        p = QPainter(self)
        p.setRenderHints(QPainter.RenderHint.Antialiasing | QPainter.RenderHint.SmoothPixmapTransform)
        for i, a in enumerate(self._alike):
            row = QRectF(0, i * (ROW + 8), self.width(), ROW)
            p.fillRect(row, QColor(CHOSEN if i == self._under else PAPER))
            picture = QRectF(row.left() + 4, row.top() + 6, *PICTURE)
            image = self._pictures.still(a.found)
            if image is not None:
                paint_cell(p, picture, image)
            else:
                p.fillRect(picture, QColor(PAPER_DEEP))
                p.setFont(number_font(17, 500))
                write(p, picture, clock_text(a.found.start), INK_SOFT, Qt.AlignmentFlag.AlignCenter)
            words = row.adjusted(PICTURE[0] + 14, 3, -4, 0)
            p.setFont(text_font(13, 600))
            name = f"{title_of(a.found, self._lexicon())} · {a.found.title}"
            write(p, QRectF(words.left(), words.top(), words.width(), 19), name, INK)
            p.setFont(text_font(12))
            p.setPen(QColor(INK_SOFT))
            flags = Qt.TextFlag.TextWordWrap | Qt.AlignmentFlag.AlignTop
            p.drawText(QRectF(words.left(), words.top() + 20, words.width(), ROW - 20), flags, a.words)
        p.end()

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        """The one under the pointer lights up."""
        assert event is not None
        self._under = int(event.position().y() // (ROW + 8))
        self.update()

    def leaveEvent(self, event: object) -> None:
        """None does."""
        self._under = -1
        self.update()

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        """Go to it."""
        assert event is not None
        number = int(event.position().y() // (ROW + 8))
        if 0 <= number < len(self._alike):
            self.pressed.emit(self._alike[number].found)
