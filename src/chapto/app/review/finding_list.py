"""The list of what was found: painted rows, light however many there are."""

from __future__ import annotations

from collections.abc import Callable

from PyQt6.QtCore import QAbstractListModel, QModelIndex, QObject, QPointF, QRect, QRectF, QSize, Qt
from PyQt6.QtGui import QColor, QFontMetrics, QKeyEvent, QPainter, QResizeEvent
from PyQt6.QtWidgets import QAbstractItemView, QListView, QStyledItemDelegate, QStyleOptionViewItem

from chapto.app.review.rows import Row
from chapto.app.review.signs import weight_sign
from chapto.app.theme import number_font, text_font
from chapto.clock.timecode import clock_text
from chapto.paint.colours import CHOSEN, INK, INK_SOFT
from chapto.paint.lettering import RIGHT, write
from chapto.review.finding import Finding

HEADING = 32
LEFT, TIME, VALUE = 34, 46, 84
"""Pixels before a sentence, of its time, and of what was measured."""
ROOM = 6
SHORT = 11
"""Letters of a unit that stand beside a value in the list, at most."""
LINES = 3
"""Lines of a sentence at most; the card below shows all of it."""
WRAPPED = Qt.AlignmentFlag.AlignTop | Qt.AlignmentFlag.AlignLeft | Qt.TextFlag.TextWordWrap


class _Rows(QAbstractListModel):
    def __init__(self, parent: QObject) -> None:
        super().__init__(parent)
        self.rows: tuple[Row, ...] = ()

    def show(self, rows: tuple[Row, ...]) -> None:
        self.beginResetModel()
        self.rows = rows
        self.endResetModel()

    def rowCount(self, parent: QModelIndex = QModelIndex()) -> int:  # noqa: B008
        return 0 if parent.isValid() else len(self.rows)

    def flags(self, index: QModelIndex) -> Qt.ItemFlag:
        if index.row() < len(self.rows) and self.rows[index.row()].is_heading:
            return Qt.ItemFlag.ItemIsEnabled
        return Qt.ItemFlag.ItemIsEnabled | Qt.ItemFlag.ItemIsSelectable

    def data(self, index: QModelIndex, role: int = Qt.ItemDataRole.DisplayRole) -> object:
        if role == Qt.ItemDataRole.DisplayRole and index.row() < len(self.rows):
            row = self.rows[index.row()]
            at = row.finding.at if row.finding is not None else None
            return f"{clock_text(at)} {row.text}" if at is not None else row.text
        return None


class _Paint(QStyledItemDelegate):
    def __init__(self, owner: FindingList, model: _Rows) -> None:
        super().__init__(owner)
        self._owner, self._model = owner, model

    def sizeHint(self, option: QStyleOptionViewItem, index: QModelIndex) -> QSize:
        row = self._model.rows[index.row()]
        if row.is_heading:
            return QSize(100, HEADING)
        metrics = QFontMetrics(text_font(14))
        words = self._words(QRect(0, 0, self._owner.viewport_width, 1000), row)
        high = metrics.boundingRect(words, WRAPPED, row.text).height()
        return QSize(100, min(high, LINES * metrics.lineSpacing()) + 2 * ROOM)

    def paint(self, p: QPainter | None, option: QStyleOptionViewItem, index: QModelIndex) -> None:
        assert p is not None
        row, box = self._model.rows[index.row()], option.rect
        p.setRenderHint(QPainter.RenderHint.Antialiasing)
        if row.is_heading:
            p.setFont(text_font(13, 600))
            write(p, QRectF(box).adjusted(12, 8, -12, 0), row.title, INK_SOFT)
            return
        if row.key == self._owner.chosen:
            p.fillRect(box, QColor(CHOSEN))
        x, left = row.finding, row.waiver is not None
        middle = QPointF(box.left() + 20, box.top() + ROOM + 9)
        weight_sign(p, middle, 4.5, x.weight if x is not None else None, left=left)
        words = self._words(box, row)
        p.setFont(number_font(15))
        if x is not None and x.at is not None:
            times = QRectF(box.left() + LEFT, box.top() + ROOM - 1, TIME - 8, 20)
            write(p, times, clock_text(x.at), INK_SOFT, RIGHT)
        if x is not None and x.value:
            values = QRectF(box.right() - VALUE - 10, box.top() + ROOM - 1, VALUE, 20)
            write(p, values, _short(x), INK_SOFT, RIGHT)
        p.setFont(text_font(14))
        p.setPen(QColor(INK_SOFT if left or x is None else INK))
        p.save()
        p.setClipRect(words)
        p.drawText(words, WRAPPED, row.text)
        p.restore()

    @staticmethod
    def _words(box: QRect, row: Row) -> QRect:
        measured = row.finding is not None and bool(row.finding.value)
        return box.adjusted(LEFT + TIME, ROOM, -VALUE - 18 if measured else -14, -ROOM)


def _short(x: Finding) -> str:
    """What was measured, without a unit that is a sentence; the card has all of it."""
    return x.value if x.limit is None or len(x.limit.unit) <= SHORT else x.value.removesuffix(x.limit.unit).strip()


class FindingList(QListView):
    """`choose` is called with a row that is pressed or gone to by key, `act` when it is pressed twice or with Enter."""

    def __init__(self, choose: Callable[[Row], object], act: Callable[[], object]) -> None:
        super().__init__()
        self._choose, self._act = choose, act
        self.chosen: tuple[object, ...] = ()
        self._rows = _Rows(self)
        self._paint = _Paint(self, self._rows)
        self.setModel(self._rows)
        self.setItemDelegate(self._paint)
        self.setAccessibleName("What was found")
        self.setFrameShape(QListView.Shape.NoFrame)
        self.setSelectionMode(QAbstractItemView.SelectionMode.NoSelection)
        self.setVerticalScrollMode(QAbstractItemView.ScrollMode.ScrollPerPixel)
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.clicked.connect(lambda index: self._take(index.row()))
        self.doubleClicked.connect(lambda index: act())

    @property
    def rows(self) -> tuple[Row, ...]:
        """What is listed."""
        return self._rows.rows

    @property
    def viewport_width(self) -> int:
        """Pixels that a row has."""
        view = self.viewport()
        return view.width() if view is not None else self.width()

    def show_rows(self, rows: tuple[Row, ...]) -> None:
        """List other rows; the place in the list stays."""
        bar = self.verticalScrollBar()
        at = bar.value() if bar is not None else 0
        self._rows.show(rows)
        if bar is not None:
            bar.setValue(at)

    def mark(self, row: Row) -> None:
        """Show a row as the chosen one, in sight."""
        self.chosen = row.key
        if row in self.rows:
            i = self.rows.index(row)
            if i and self.rows[i - 1].is_heading:
                # With what stands over it.
                self.scrollTo(self._rows.index(i - 1))
            self.scrollTo(self._rows.index(i))
        view = self.viewport()
        if view is not None:
            view.update()

    def step(self, by: int) -> None:
        """Choose the next row, or the one before."""
        places = [i for i, r in enumerate(self.rows) if not r.is_heading]
        if not places:
            return
        now = next((n for n, i in enumerate(places) if self.rows[i].key == self.chosen), -1 if by > 0 else 0)
        self._take(places[min(max(now + by, 0), len(places) - 1)])

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        """Up and Down choose, Enter acts."""
        assert event is not None
        if event.key() in (Qt.Key.Key_Up, Qt.Key.Key_Down):
            self.step(1 if event.key() == Qt.Key.Key_Down else -1)
        elif event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            self._act()
        else:
            event.ignore()

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        """Sentences are broken anew."""
        super().resizeEvent(event)
        self.scheduleDelayedItemsLayout()

    def _take(self, row: int) -> None:
        if row < len(self.rows) and not self.rows[row].is_heading:
            self._choose(self.rows[row])
