"""A list of rows of two lines each, light however long it is."""

from __future__ import annotations

from collections.abc import Callable

from PyQt6.QtCore import QAbstractListModel, QModelIndex, QObject, QRectF, QSize, Qt
from PyQt6.QtGui import QColor, QContextMenuEvent, QPainter
from PyQt6.QtWidgets import QAbstractItemView, QListView, QMenu, QStyledItemDelegate, QStyleOptionViewItem

from chapto.app.theme import number_font, text_font
from chapto.app.voice.rows import Row
from chapto.paint.colours import AMBER, CHOSEN, INK, INK_SOFT, PAPER_LINE
from chapto.paint.lettering import RIGHT, write

HIGH, HEAD_HIGH = 42, 24
LEFT, AFTER = 38.0, 62.0


class _Rows(QAbstractListModel):
    def __init__(self, parent: QObject) -> None:
        super().__init__(parent)
        self.rows: tuple[Row, ...] = ()

    def show(self, rows: tuple[Row, ...]) -> None:
        if [r.id for r in rows] == [r.id for r in self.rows] and [r.section for r in rows] == [
            r.section for r in self.rows
        ]:
            self.rows = rows
            if rows:
                self.dataChanged.emit(self.index(0), self.index(len(rows) - 1))
        else:
            self.beginResetModel()
            self.rows = rows
            self.endResetModel()

    def rowCount(self, parent: QModelIndex = QModelIndex()) -> int:  # noqa: B008
        return 0 if parent.isValid() else len(self.rows)

    def data(self, index: QModelIndex, role: int = Qt.ItemDataRole.DisplayRole) -> object:
        if role == Qt.ItemDataRole.DisplayRole and index.row() < len(self.rows):
            row = self.rows[index.row()]
            return f"{row.text} {row.under} {row.after}".strip()
        return None


class _Paint(QStyledItemDelegate):
    def __init__(self, owner: RowList, model: _Rows) -> None:
        super().__init__(owner)
        self._owner, self._model = owner, model

    def sizeHint(self, option: QStyleOptionViewItem, index: QModelIndex) -> QSize:
        head = HEAD_HIGH if self._model.rows[index.row()].section else 0
        return QSize(100, HIGH + head)

    def paint(self, p: QPainter | None, option: QStyleOptionViewItem, index: QModelIndex) -> None:
        assert p is not None
        row, box = self._model.rows[index.row()], QRectF(option.rect)
        p.setRenderHint(QPainter.RenderHint.Antialiasing)
        if row.section:
            p.setFont(text_font(13, 600))
            write(p, QRectF(box.left() + 18, box.top() + 3, box.width() - 26, HEAD_HIGH - 3), row.section, INK_SOFT)
            box.setTop(box.top() + HEAD_HIGH)
        if row.id == self._owner.chosen:
            p.fillRect(box, QColor(CHOSEN))
        sign = QRectF(box.left() + 19, box.top() + 8, 10, 10)
        p.setPen(QColor(INK) if row.own else QColor(PAPER_LINE))
        p.setBrush(QColor(INK) if row.own else Qt.GlobalColor.transparent)
        p.drawRoundedRect(sign, 2, 2)
        words = QRectF(box.left() + LEFT, box.top() + 3, box.width() - LEFT - AFTER, 20)
        p.setFont(text_font(14, 500))
        write(p, words, row.text, INK)
        p.setFont(text_font(13))
        under = QRectF(words.left(), box.top() + 21, box.width() - LEFT - 8, 18)
        wide = write(p, under, row.under, INK_SOFT)
        if row.open:
            p.fillRect(QRectF(under.left(), under.bottom() - 1, wide, 1.6), QColor(AMBER))
        p.setFont(number_font(15))
        write(p, QRectF(box.right() - AFTER, box.top() + 3, AFTER - 20, 20), row.after, INK_SOFT, RIGHT)


class RowList(QListView):
    """`choose` is called with the id of a row that is pressed; `chosen` is marked. `menu` makes what opens at the
    pointer, once the row under it is chosen."""

    def __init__(
        self, name: str, choose: Callable[[str], object], menu: Callable[[str], QMenu | None] | None = None
    ) -> None:  # fmt: skip
        super().__init__()
        self._choose, self._menu = choose, menu
        self.chosen = ""
        self._rows = _Rows(self)
        self._paint = _Paint(self, self._rows)
        self.setModel(self._rows)
        self.setItemDelegate(self._paint)
        self.setAccessibleName(name)
        self.setFrameShape(QListView.Shape.NoFrame)
        self.setSelectionMode(QAbstractItemView.SelectionMode.NoSelection)
        self.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        self.setVerticalScrollMode(QAbstractItemView.ScrollMode.ScrollPerPixel)
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.clicked.connect(lambda index: choose(self.rows[index.row()].id))

    def contextMenuEvent(self, event: QContextMenuEvent | None) -> None:
        """What can be done with the row at the pointer."""
        assert event is not None
        index = self.indexAt(event.pos())
        if self._menu is None or not index.isValid():
            return
        row = self.rows[index.row()].id
        if row != self.chosen:
            self._choose(row)
        if (menu := self._menu(row)) is not None:
            menu.exec(event.globalPos())

    @property
    def rows(self) -> tuple[Row, ...]:
        """What is shown."""
        return self._rows.rows

    def show_rows(self, rows: tuple[Row, ...], chosen: str) -> None:
        """Show other rows, and which is chosen."""
        moved = chosen != self.chosen
        self.chosen = chosen
        self._rows.show(rows)
        if moved:
            place = next((i for i, r in enumerate(rows) if r.id == chosen), None)
            if place is not None:
                self.scrollTo(self._rows.index(place))
        viewport = self.viewport()
        assert viewport is not None
        viewport.update()

    def height_of(self, most: int) -> int:
        """Pixels that its rows take, `most` rows at most."""
        return sum(HIGH + (HEAD_HIGH if r.section else 0) for r in self.rows[:most])
