"""Lines of the programme with their times: a list that stays light however long the programme is."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from fractions import Fraction

from PyQt6.QtCore import QAbstractListModel, QModelIndex, QObject, QRect, QSize, Qt
from PyQt6.QtGui import QColor, QContextMenuEvent, QPainter
from PyQt6.QtWidgets import QAbstractItemView, QListView, QMenu, QStyle, QStyledItemDelegate, QStyleOptionViewItem

from chapto.app.theme import number_font, text_font
from chapto.clock.timecode import clock_text
from chapto.paint.colours import INK, INK_SOFT, PAPER_DEEP

LINE = 18
GAP = 12
"""Pixels between a time and its words."""
TIME_WIDTH, AFTER_WIDTH = 52, 52


@dataclass(frozen=True)
class TimedLine:
    """Something at watch second `at`, with what stands right of it."""

    at: Fraction
    text: str
    after: str = ""


class TimedLines(QAbstractListModel):
    """The rows; a view asks only for those in sight."""

    def __init__(self, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self.lines: tuple[TimedLine, ...] = ()

    def set_lines(self, lines: tuple[TimedLine, ...]) -> None:
        """Show other rows."""
        if lines != self.lines:
            self.beginResetModel()
            self.lines = lines
            self.endResetModel()

    def rowCount(self, parent: QModelIndex = QModelIndex()) -> int:  # noqa: B008
        """As many as there are lines."""
        return 0 if parent.isValid() else len(self.lines)

    def data(self, index: QModelIndex, role: int = Qt.ItemDataRole.DisplayRole) -> object:
        """The words, for the view and for what reads aloud."""
        if role == Qt.ItemDataRole.DisplayRole and index.row() < len(self.lines):
            line = self.lines[index.row()]
            return f"{clock_text(line.at)} {line.text} {line.after}".strip()
        return None


class _Rows(QStyledItemDelegate):
    """Time, words, and what stands right of them."""

    def __init__(self, lines: TimedLines, height: int) -> None:
        super().__init__(lines)
        self._lines, self._height = lines, height

    def sizeHint(self, option: QStyleOptionViewItem, index: QModelIndex) -> QSize:
        """Every row is as high as its words may need."""
        return QSize(100, self._height)

    def paint(self, painter: QPainter | None, option: QStyleOptionViewItem, index: QModelIndex) -> None:
        """Paint one row."""
        assert painter is not None
        line, box = self._lines.lines[index.row()], option.rect.adjusted(6, 2, -6, -2)
        if option.state & QStyle.StateFlag.State_Selected:
            painter.fillRect(option.rect, QColor(PAPER_DEEP))
        top = Qt.AlignmentFlag.AlignTop
        painter.setPen(QColor(INK_SOFT))
        painter.setFont(number_font(15))
        times = QRect(box.left(), box.top(), TIME_WIDTH - GAP, box.height())
        painter.drawText(times, top | Qt.AlignmentFlag.AlignRight, clock_text(line.at))
        baseline = painter.fontMetrics().ascent()
        painter.drawText(box, top | Qt.AlignmentFlag.AlignRight, line.after)
        painter.setPen(QColor(INK))
        painter.setFont(text_font(13))
        down = baseline - painter.fontMetrics().ascent()
        words = QRect(box).adjusted(TIME_WIDTH, down, -AFTER_WIDTH if line.after else 0, 0)
        painter.drawText(words, top | Qt.TextFlag.TextWordWrap, line.text)


class TimedList(QListView):
    """Shows lines; a press or Enter goes to the time of one. `menu` makes what opens at a line."""

    def __init__(
        self,
        name: str,
        go: Callable[[Fraction], object],
        menu: Callable[[TimedLine], QMenu],
        *,
        rows_high: int = 1,
    ) -> None:
        super().__init__()
        self._go, self._menu = go, menu
        self._lines = TimedLines(self)
        self.row_height = rows_high * LINE + 4
        self._delegate = _Rows(self._lines, self.row_height)
        self.setModel(self._lines)
        self.setItemDelegate(self._delegate)
        self.setUniformItemSizes(True)
        self.setAccessibleName(name)
        self.setFrameShape(QListView.Shape.NoFrame)
        self.setVerticalScrollMode(QAbstractItemView.ScrollMode.ScrollPerPixel)
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.clicked.connect(self._chosen)
        self.activated.connect(self._chosen)

    @property
    def lines(self) -> tuple[TimedLine, ...]:
        """What is shown."""
        return self._lines.lines

    def show_lines(self, lines: tuple[TimedLine, ...]) -> None:
        """Show other lines."""
        self._lines.set_lines(lines)

    def contextMenuEvent(self, event: QContextMenuEvent | None) -> None:
        """What can be done with the line at the pointer; with the key, with the one that is chosen."""
        assert event is not None
        by_key = event.reason() is QContextMenuEvent.Reason.Keyboard
        index = self.currentIndex() if by_key else self.indexAt(event.pos())
        if index.isValid() and index.row() < len(self.lines):
            self.setCurrentIndex(index)
            at = self.mapToGlobal(self.visualRect(index).bottomLeft()) if by_key else event.globalPos()
            self._menu(self.lines[index.row()]).exec(at)

    def _chosen(self, index: QModelIndex) -> None:
        if index.row() < len(self.lines):
            self._go(self.lines[index.row()].at)
