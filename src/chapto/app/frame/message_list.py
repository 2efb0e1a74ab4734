"""The last messages, to be read again."""

from __future__ import annotations

from collections.abc import Sequence

from PyQt6.QtCore import Qt
from PyQt6.QtGui import QKeyEvent, QMouseEvent
from PyQt6.QtWidgets import QWidget

from chapto.app import layouts
from chapto.app.frame.messages import Message
from chapto.app.widgets import ground, label

WIDTH, HEIGHT = 620, 320


class MessageList(QWidget):
    """Paper over the foot of `window`, the newest message at the bottom; Esc or a press beside it closes."""

    def __init__(self, window: QWidget, messages: Sequence[Message]) -> None:
        super().__init__(window)
        self.setGeometry(window.rect())
        sheet = ground(QWidget(self), "paper")
        height = min(HEIGHT, window.height() - 120)
        sheet.setGeometry(96, window.height() - height - 44, min(WIDTH, window.width() - 120), height)
        column = layouts.column(sheet, margins=(18, 14, 8, 12), spacing=8)
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
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName("The last messages")
        self.show()
        self.raise_()
        self.setFocus()
        inner.adjustSize()
        if (bar := area.verticalScrollBar()) is not None:
            bar.setValue(bar.maximum())

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        """Any key closes it."""
        self.close()
        self.deleteLater()

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        """So does a press beside it."""
        self.close()
        self.deleteLater()
