"""The list of what goes out: it fills as it is made, and a press shows what can be looked at and mended."""

from __future__ import annotations

from collections.abc import Callable

from PyQt6.QtCore import QPointF, QRectF, Qt
from PyQt6.QtGui import QColor, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen
from PyQt6.QtWidgets import QSizePolicy, QWidget

from chapto.app.publish.part_rows import Entry, Row, State
from chapto.app.theme import number_font, text_font
from chapto.paint.colours import FIRST, INK, INK_SOFT, PAPER_DEEP, PAPER_LINE, TIES
from chapto.paint.lettering import RIGHT, write
from chapto.programme.programme import TieState

HIGH = 27
NAME = 184
"""Pixels that the names take."""


class PartList(QWidget):
    """`chosen` is the entry whose detail is shown; `choose` is called with another."""

    def __init__(self, choose: Callable[[Entry], object]) -> None:
        super().__init__()
        self._choose = choose
        self.rows: tuple[Row, ...] = ()
        self.chosen = Entry.CHAPTERS
        self.setFixedHeight(HIGH * len(Entry) + 2)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setCursor(Qt.CursorShape.PointingHandCursor)
        self.setAccessibleName("What goes out")
        self.setToolTip("Press one to look at it or change it")

    def show_rows(self, rows: tuple[Row, ...]) -> None:
        """Show other rows."""
        if rows != self.rows:
            self.rows = rows
            self._tell()
            self.update()

    def choose(self, entry: Entry) -> None:
        """Show the detail of an entry."""
        self.chosen = entry
        self._tell()
        self.update()
        self._choose(entry)

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        """Choose the row at the pointer."""
        assert event is not None
        at = int(event.position().y()) // HIGH
        if 0 <= at < len(self.rows):
            self.choose(self.rows[at].entry)

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        """Up and down go from row to row."""
        assert event is not None
        step = -1 if event.key() == Qt.Key.Key_Up else 1 if event.key() == Qt.Key.Key_Down else None
        if step is None:
            super().keyPressEvent(event)
            return
        entries = list(Entry)
        at = entries.index(self.chosen) + step
        self.choose(entries[min(max(at, 0), len(entries) - 1)])

    def paintEvent(self, event: QPaintEvent | None) -> None:
        """One row an entry: a sign of how far it is, its name, what it is."""
        p = QPainter(self)
        p.setRenderHint(QPainter.RenderHint.Antialiasing)
        for i, row in enumerate(self.rows):
            box = QRectF(0, i * HIGH, self.width(), HIGH)
            if row.entry is self.chosen:
                p.fillRect(box, QColor(PAPER_DEEP))
                p.fillRect(QRectF(0, box.top(), 3, HIGH), QColor(FIRST if self.hasFocus() else INK_SOFT))
            if row.state is State.MAKING:
                p.fillRect(QRectF(0, box.bottom() - 3, box.width() * row.share, 3), QColor(FIRST))
            _sign(p, QPointF(17, box.center().y()), row)
            p.setFont(text_font(13, 600))
            write(p, box.adjusted(32, 0, -(box.width() - NAME), 0), row.entry.value, INK)
            p.setFont(number_font(14))
            write(p, box.adjusted(NAME + 8, 0, -8, 0), row.detail, INK_SOFT, RIGHT)
            p.setPen(QPen(QColor(PAPER_LINE), 1))
            p.drawLine(QPointF(0, box.bottom()), QPointF(box.right(), box.bottom()))
        p.end()

    def _tell(self) -> None:
        row = next((r for r in self.rows if r.entry is self.chosen), None)
        if row is not None:
            self.setAccessibleDescription(f"{row.entry.value}: {row.detail}, {row.state.value}")


def _sign(p: QPainter, at: QPointF, row: Row) -> None:
    """An open ring for what waits, a filling one for what is being made, a tick for what is made."""
    p.setBrush(Qt.BrushStyle.NoBrush)
    if row.state is State.MADE:
        p.setPen(QPen(QColor(TIES[TieState.MET]), 2.2))
        p.drawPolyline(at + QPointF(-5, 0), at + QPointF(-1.5, 4), at + QPointF(5, -4.5))
        return
    late = QColor(TIES[TieState.LATE])
    p.setPen(QPen(QColor(PAPER_LINE) if row.state is not State.CHANGED else late, 1.6))
    p.drawEllipse(at, 5, 5)
    if row.state is State.MAKING:
        p.setPen(QPen(QColor(FIRST), 2.4))
        p.drawArc(QRectF(at.x() - 5, at.y() - 5, 10, 10), 90 * 16, -round(360 * 16 * max(row.share, 0.04)))
    if row.state is State.CHANGED:
        p.setPen(Qt.PenStyle.NoPen)
        p.setBrush(late)
        p.drawEllipse(at, 2.2, 2.2)
