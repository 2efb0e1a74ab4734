"""A number as a bar on paper, moved by pointer or arrow keys."""

from __future__ import annotations

from collections.abc import Callable

from PyQt6.QtCore import QRectF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QColor, QKeyEvent, QMouseEvent, QPainter, QPaintEvent
from PyQt6.QtWidgets import QSizePolicy, QWidget

from chapto.app.theme import number_font, text_font
from chapto.paint.colours import FIRST, INK, INK_SOFT, PAPER_DEEP
from chapto.paint.plates import plate

NAME, VALUE = 226, 64


class Gauge(QWidget):
    """`text` on the left, a bar from `low` to `high` in steps of `step`, the value in words on the right. `moved`
    carries the new value."""

    moved = pyqtSignal(float)

    def __init__(self, text: str, low: float, high: float, step: float, shown: Callable[[float], str]) -> None:
        super().__init__()
        self._text, self._low, self._high, self._step, self._shown = text, low, high, step, shown
        self.value = low
        self.setFixedHeight(30)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setProperty("ownKeys", True)
        self.setAccessibleName(text)
        self.setCursor(Qt.CursorShape.PointingHandCursor)

    def sizeHint(self) -> QSize:
        """Room for name, bar and value."""
        return QSize(420, 30)

    def show_value(self, value: float) -> None:
        """Show a value without saying that it moved."""
        self.value = value
        self.setAccessibleDescription(self._shown(value))
        self.update()

    def _set(self, value: float) -> None:
        value = min(max(round(value / self._step) * self._step, self._low), self._high)
        if abs(value - self.value) > self._step / 2:
            self.show_value(value)
            self.moved.emit(value)

    # ── Qt ───────────────────────────────────────────────────────────────────────────────────────────────
    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        """Arrows move a step, with Shift five."""
        assert event is not None
        by = {Qt.Key.Key_Left: -1, Qt.Key.Key_Right: 1}.get(Qt.Key(event.key()))
        if by is None:
            super().keyPressEvent(event)
            return
        many = 5 if event.modifiers() & Qt.KeyboardModifier.ShiftModifier else 1
        self._set(self.value + by * many * self._step)

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        """The bar ends where it is pressed."""
        assert event is not None
        self.setFocus()
        self._to(event.position().x())

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        """And follows the pointer."""
        assert event is not None
        if event.buttons() & Qt.MouseButton.LeftButton:
            self._to(event.position().x())

    def _to(self, x: float) -> None:
        bar = self._bar()
        share = min(max((x - bar.left()) / bar.width(), 0.0), 1.0)
        self._set(self._low + share * (self._high - self._low))

    def _bar(self) -> QRectF:
        return QRectF(NAME, 11, max(self.width() - NAME - VALUE, 20), 8)

    def paintEvent(self, event: QPaintEvent | None) -> None:
        """Name, bar and value on one line."""
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setFont(text_font(13))
        painter.setPen(QColor(INK))
        painter.drawText(QRectF(0, 0, NAME - 8, 30), Qt.AlignmentFlag.AlignVCenter, self._text)
        bar = self._bar()
        plate(painter, bar, 4, PAPER_DEEP)
        filled = QRectF(bar)
        filled.setWidth(max(bar.width() * (self.value - self._low) / (self._high - self._low), 3))
        plate(painter, filled, 4, FIRST if self.hasFocus() else INK_SOFT, "")
        painter.setFont(number_font(15, 500))
        painter.setPen(QColor(INK))
        box = QRectF(self.width() - VALUE, 0, VALUE - 4, 30)
        right = Qt.AlignmentFlag.AlignVCenter | Qt.AlignmentFlag.AlignRight
        painter.drawText(box, right, self._shown(self.value))
        painter.end()
