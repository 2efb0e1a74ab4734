"""The last messages, to be read again."""

from __future__ import annotations

from collections.abc import Sequence

from PyQt6.QtCore import Qt
from PyQt6.QtGui import QKeyEvent
from PyQt6.QtWidgets import QWidget

from chapto.app import layouts
from chapto.app.frame.messages import Message
from chapto.app.frame.over_sheet import OverSheet
from chapto.app.widgets import ground, label

WIDTH, HEIGHT = 620, 320
BESIDE, ABOVE = 96, 44
"""Pixels right of the rail and over the foot."""


class MessageList(OverSheet):
    """Paper over the foot of `window`, the newest message at the bottom; Esc or a press beside it closes."""

    def __init__(self, window: QWidget, messages: Sequence[Message]) -> None:
        super().__init__(window, "The last messages", (WIDTH, HEIGHT))
        column = layouts.column(self.sheet, margins=(18, 14, 8, 12), spacing=8)
        column.addWidget(label("What was said", size="head"))
        inner = ground(QWidget(), "paper")
        lines = layouts.column(inner, margins=(0, 0, 10, 0), spacing=9)
        for m in messages:
            row = layouts.row(spacing=12)
            at = label(f"{m.at:%H:%M:%S}", size="time", soft=True)
            at.setFixedWidth(62)
            row.addWidget(at, alignment=Qt.AlignmentFlag.AlignTop)
            words = label(m.text, wrap=True)
            words.setTextInteractionFlags(
                Qt.TextInteractionFlag.TextSelectableByMouse | Qt.TextInteractionFlag.TextSelectableByKeyboard
            )
            row.addWidget(words, 1)
            lines.addLayout(row)
        if not messages:
            lines.addWidget(label("Nothing yet.", soft=True))
        lines.addStretch(1)
        area = layouts.scrolled(inner)
        column.addWidget(area, 1)
        self.show_over()
        inner.adjustSize()
        if (bar := area.verticalScrollBar()) is not None:
            bar.setValue(bar.maximum())

    def place(self) -> tuple[int, int, int, int]:
        """Over the foot, from which it was called."""
        _, _, width, height = super().place()
        return BESIDE, self.height() - height - ABOVE, width, height

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        """Any key closes it."""
        self.leave()
