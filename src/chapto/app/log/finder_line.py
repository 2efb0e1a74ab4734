"""Quick find: a line of a few letters, and the names they may mean right under it. The picture plays on."""

from __future__ import annotations

from collections.abc import Callable

from PyQt6.QtCore import QRectF, Qt
from PyQt6.QtGui import QColor, QKeyEvent, QMouseEvent, QPainter, QPaintEvent
from PyQt6.QtWidgets import QLineEdit, QWidget

from chapto.app.own_keys import EscIsMine
from chapto.app.theme import text_font
from chapto.lexicon.find import Finder, Found
from chapto.lexicon.lexicon import Named, Position, Technique
from chapto.paint.colours import CHOSEN, FIRST, INK, INK_SOFT, PAPER, PAPER_LINE
from chapto.paint.lettering import write

ROW, SHOWN, HINT = 26, 7, 22


class Offers(QWidget):
    """The hits, painted over whatever is below the line."""

    def __init__(self, parent: QWidget, picked: Callable[[Named], object]) -> None:
        super().__init__(parent)
        self._picked = picked
        self.found: list[Found] = []
        self.at = 0
        self.asked = ""
        self.hide()

    def show_found(self, found: list[Found], asked: str, place: QRectF) -> None:
        """Show these hits for `asked` under the line."""
        self.asked, self.at = asked.strip(), 0
        hint = HINT if len(self.asked) > 1 else 0
        window = self.parentWidget()
        room = (window.height() if window is not None else 0) - place.y() - hint - 4
        # As many as there is room for, none of them cut.
        self.found = found = found[: max(int(room // ROW), 1)]
        self.setGeometry(int(place.x()), int(place.y()), int(place.width()), ROW * len(found) + hint + 2)
        self.setVisible(bool(found))
        self.raise_()
        self.update()

    def paintEvent(self, event: QPaintEvent | None) -> None:
        """Name, and what it was found by or belongs to."""
        p = QPainter(self)
        p.fillRect(self.rect(), QColor(PAPER))
        p.setPen(QColor(PAPER_LINE))
        p.drawRect(self.rect().adjusted(0, 0, -1, -1))
        for i, f in enumerate(self.found):
            row = QRectF(1, 1 + i * ROW, self.width() - 2, ROW)
            if i == self.at:
                p.fillRect(row, QColor(CHOSEN))
                p.fillRect(QRectF(1, row.top(), 3, ROW), QColor(FIRST))
            p.setPen(QColor(INK))
            p.setFont(text_font(14, 500))
            p.drawText(row.adjusted(12, 0, 0, 0), Qt.AlignmentFlag.AlignVCenter, f.item.en)
            p.setPen(QColor(INK_SOFT))
            p.setFont(text_font(12))
            about = f.item.family if isinstance(f.item, Technique) else "position"
            also = f.name if f.name != f.item.en and f.name in f.item.names() else f.item.ja or f.item.short
            text = f"{also}  ·  {about}" if also else about
            p.drawText(row.adjusted(0, 0, -10, 0), Qt.AlignmentFlag.AlignVCenter | Qt.AlignmentFlag.AlignRight, text)
        if len(self.asked) > 1:
            p.setFont(text_font(12))
            foot = QRectF(12, 1 + ROW * len(self.found), self.width() - 20, HINT)
            write(p, foot, f"Ctrl+Return keeps “{self.asked}” as another name of it", INK_SOFT)
        p.end()

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        """Take the one pressed."""
        assert event is not None
        i = int(event.position().y() // ROW)
        if 0 <= i < len(self.found):
            self._picked(self.found[i].item)


class FinderLine(EscIsMine, QLineEdit):
    """`picked` gets what was chosen with Return, and with Ctrl `keep` what was asked for as another name of it.

    Esc or an empty Return gives the keys back. `begun` hears True when the line takes the keys, and False when it gives
    them back.
    """

    def __init__(
        self,
        finder: Finder,
        recent: Callable[[], list[str]],
        picked: Callable[[Position | Technique], object],
        begun: Callable[[bool], object],
        keep: Callable[[Position | Technique, str], object],
    ) -> None:
        super().__init__()
        self._begun = begun
        self._finder, self._recent, self._picked, self._keep = finder, recent, picked, keep
        self.setPlaceholderText("/  technique or position: a few letters, or as it sounds")
        self.setAccessibleName("Find a technique or position")
        self.setToolTip("Find a technique or position by a few letters  (/)")
        self.offers: Offers | None = None
        self.textEdited.connect(lambda _: self._look())

    def use(self, finder: Finder) -> None:
        """Find among other names from now on."""
        self._finder = finder

    def begin(self) -> None:
        """Take the keys."""
        self._begun(True)
        self.clear()
        self.setFocus()
        self._look()

    def _look(self) -> None:
        home = self.window()
        if home is None:
            return
        if self.offers is None:
            self.offers = Offers(home, self._take)
        found = self._finder.find(self.text(), most=SHOWN, recent=self._recent())
        corner = self.mapTo(home, self.rect().bottomLeft())
        self.offers.show_found(found, self.text(), QRectF(corner.x(), corner.y() + 1, self.width(), 0))

    def _take(self, item: Named) -> None:
        if isinstance(item, (Position, Technique)):
            self._picked(item)
        self._end()

    def _end(self) -> None:
        self._begun(False)
        self.clear()
        if self.offers is not None:
            self.offers.hide()
        self.clearFocus()
        parent = self.parentWidget()
        while parent is not None and parent.focusPolicy() != Qt.FocusPolicy.StrongFocus:
            parent = parent.parentWidget()
        if parent is not None:
            parent.setFocus()

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        """Up and Down choose, Return takes, Esc ends."""
        assert event is not None
        offers = self.offers
        match event.key():
            case Qt.Key.Key_Escape:
                self._end()
            case Qt.Key.Key_Return | Qt.Key.Key_Enter:
                if offers is not None and offers.found:
                    item, asked = offers.found[offers.at].item, offers.asked
                    keeps = bool(event.modifiers() & Qt.KeyboardModifier.ControlModifier) and len(asked) > 1
                    self._take(item)
                    if keeps and isinstance(item, (Position, Technique)):
                        self._keep(item, asked)
                else:
                    self._end()
            case Qt.Key.Key_Down | Qt.Key.Key_Up if offers is not None and offers.found:
                offers.at = (offers.at + (1 if event.key() == Qt.Key.Key_Down else -1)) % len(offers.found)
                offers.update()
            case _:
                super().keyPressEvent(event)
