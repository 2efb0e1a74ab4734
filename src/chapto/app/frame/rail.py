"""The stages down the left edge."""

from __future__ import annotations

from collections.abc import Callable

from PyQt6.QtCore import QPointF, QRectF, QSize, Qt
from PyQt6.QtGui import QColor, QKeyEvent, QMouseEvent, QPainter, QPaintEvent
from PyQt6.QtWidgets import QSizePolicy, QWidget

from chapto.app import layouts
from chapto.app.theme import icon_pixmap, number_font, text_font
from chapto.app.widgets import ground
from chapto.paint.colours import (
    DEEP,
    FIRST,
    ON_DARK,
    ON_DARK_SOFT,
    PAPER,
    SPRUCE,
    SPRUCE_LIGHT,
    SPRUCE_LINE,
    TIES,
)
from chapto.paint.plates import plate
from chapto.programme.programme import TieState
from chapto.review.work import Stage


class StageButton(QWidget):
    """A stage: its sign, its name, and how much is open there."""

    def __init__(self, stage: Stage, number: int, act: Callable[[Stage], object]) -> None:
        super().__init__()
        self.stage = stage
        self._act = act
        self.current = False
        self.open = 0
        self.setFixedHeight(62)
        self.setFocusPolicy(Qt.FocusPolicy.TabFocus)
        self.setCursor(Qt.CursorShape.PointingHandCursor)
        self.setToolTip(f"{stage.value}  (Ctrl+{number})")
        self.setAccessibleName(stage.value)

    def show_state(self, *, current: bool, open_count: int) -> None:
        """Mark as the current stage, with so much open."""
        if (current, open_count) != (self.current, self.open):
            self.current, self.open = current, open_count
            self.update()

    def paintEvent(self, event: QPaintEvent | None) -> None:
        """Sign over name; the current stage reaches into the page on paper."""
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        if self.current:
            painter.fillRect(QRectF(0, 4, 4, self.height() - 8), QColor(FIRST))
            painter.fillRect(QRectF(4, 4, self.width() - 4, self.height() - 8), QColor(SPRUCE_LIGHT))
        if self.hasFocus():
            painter.setPen(QColor(FIRST))
            painter.drawRect(QRectF(5, 5, self.width() - 8, self.height() - 11))
        ratio = self.devicePixelRatioF()
        sign = icon_pixmap(self.stage.value.lower(), PAPER if self.current else ON_DARK, 22, ratio)
        painter.drawPixmap(QPointF((self.width() - 22) / 2, 11), sign)
        painter.setPen(QColor(PAPER if self.current else ON_DARK_SOFT))
        painter.setFont(text_font(13, 600 if self.current else 400))
        painter.drawText(QRectF(0, 36, self.width(), 20), Qt.AlignmentFlag.AlignCenter, self.stage.value)
        if self.open:
            spot = QRectF(self.width() / 2 + 8, 5, 20, 16)
            plate(painter, spot, 8, TIES[TieState.LATE], "")
            painter.setPen(QColor(DEEP))
            painter.setFont(number_font(13, 600))
            painter.drawText(spot, Qt.AlignmentFlag.AlignCenter, str(self.open))
        painter.end()

    def mouseReleaseEvent(self, event: QMouseEvent | None) -> None:
        """Go there."""
        self._act(self.stage)

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        """Return and Space go there."""
        assert event is not None
        if event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Space):
            self._act(self.stage)
        else:
            super().keyPressEvent(event)


class StageRail(QWidget):
    """All stages; the shelf stands apart at the foot."""

    def __init__(self, act: Callable[[Stage], object]) -> None:
        super().__init__()
        ground(self, "dark")
        self.setFixedWidth(84)
        self.setSizePolicy(QSizePolicy.Policy.Fixed, QSizePolicy.Policy.Expanding)
        column = layouts.column(self, margins=(0, 8, 0, 8), spacing=2)
        self.buttons: dict[Stage, StageButton] = {}
        for number, stage in enumerate(Stage, 1):
            if stage is Stage.SHELF:
                column.addStretch(1)
            made = StageButton(stage, number, act)
            self.buttons[stage] = made
            column.addWidget(made)

    def show_state(self, current: Stage, counts: dict[Stage, int]) -> None:
        """Which stage is open and what is left in each."""
        for stage, made in self.buttons.items():
            made.show_state(current=stage is current, open_count=counts.get(stage, 0))

    def paintEvent(self, event: QPaintEvent | None) -> None:
        """A rule to the right."""
        painter = QPainter(self)
        painter.fillRect(self.rect(), QColor(SPRUCE))
        painter.fillRect(self.width() - 1, 0, 1, self.height(), QColor(SPRUCE_LINE))
        painter.end()

    def sizeHint(self) -> QSize:
        """As wide as the longest name."""
        return QSize(84, 640)
