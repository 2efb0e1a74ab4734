"""Rows on dark of which one is chosen: by a press, or with the arrows."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from typing import Any

from PyQt6.QtCore import QSize, Qt, pyqtSignal
from PyQt6.QtGui import QKeyEvent, QMouseEvent
from PyQt6.QtWidgets import QWidget


class Rows(QWidget):
    """`items` in rows of `row` pixels under a `head`, with a `foot` beneath; `key_of` tells one when all are shown
    anew. `chosen` carries an item, or None."""

    chosen = pyqtSignal(object)

    def __init__(self, name: str, key_of: Callable[[Any], object], *, row: float, head: float, foot: float) -> None:
        super().__init__()
        self._key_of = key_of
        self.items: Sequence[Any] = ()
        self.current = -1
        self.row, self.head, self.foot = row, head, foot
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setProperty("ownKeys", True)
        self.setAccessibleName(name)

    @property
    def item(self) -> Any:
        """The chosen one; None where there is none."""
        return self.items[self.current] if 0 <= self.current < len(self.items) else None

    def show_items(self, items: Sequence[Any]) -> None:
        """Show these; the one that was chosen stays so if it is still there."""
        before = self._key_of(self.item) if self.item is not None else None
        self.items = items
        keys = [self._key_of(i) for i in items]
        self.current = keys.index(before) if before in keys else (0 if items else -1)
        self.setMinimumHeight(self.sizeHint().height())
        self.update()
        self.chosen.emit(self.item)

    def choose(self, number: int) -> None:
        """Choose one by its number."""
        if self.items:
            self.current = min(max(number, 0), len(self.items) - 1)
            self.update()
            self.chosen.emit(self.item)

    def sizeHint(self) -> QSize:
        """All rows."""
        return QSize(560, round(self.head + self.row * len(self.items) + self.foot))

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        """Choose the one under the pointer."""
        assert event is not None
        number = int((event.position().y() - self.head) // self.row)
        if 0 <= number < len(self.items):
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
