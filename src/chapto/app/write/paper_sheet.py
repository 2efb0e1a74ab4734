"""A sheet that takes the place of the script for one answer."""

from __future__ import annotations

from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtGui import QKeySequence, QShortcut
from PyQt6.QtWidgets import QVBoxLayout, QWidget

from chapto.app import layouts
from chapto.app.widgets import button, ground, label


class PaperSheet(QWidget):
    """A title with a soft line under it, what is `asked`, a list of `lines` that scrolls, and one act: Return does it,
    Esc leaves it (`left`), in words of its own."""

    left = pyqtSignal()

    def __init__(self, act: str, tip: str, leave: str = "Not now") -> None:
        super().__init__()
        ground(self, "paper")
        column = layouts.column(self, margins=(20, 14, 16, 12), spacing=8)
        self.title = label("", size="title", wrap=True)
        column.addWidget(self.title)
        self.about = label("", soft=True, wrap=True)
        column.addWidget(self.about)
        self.asked: QVBoxLayout = layouts.column(spacing=6)
        column.addLayout(self.asked)
        listed = ground(QWidget(), "paper")
        self.lines: QVBoxLayout = layouts.column(listed, margins=(0, 6, 8, 0), spacing=6)
        column.addWidget(layouts.scrolled(listed), 1)
        row = layouts.row()
        self.main = button(act, self.act, tip=tip, key="Return", kind="main")
        row.addWidget(self.main)
        row.addWidget(button(leave, self.left.emit, tip="Leave the script as it is", key="Esc", kind="quiet"))
        row.addStretch(1)
        column.addLayout(row)
        for keys, done in (("Return", self.act), ("Enter", self.act), ("Esc", self.left.emit)):
            shortcut = QShortcut(QKeySequence(keys), self, done)
            shortcut.setContext(Qt.ShortcutContext.WidgetWithChildrenShortcut)

    def act(self) -> None:
        """What the sheet is for."""
        self.left.emit()

    def empty(self) -> None:
        """Take away what is asked and listed."""
        for column in (self.asked, self.lines):
            layouts.empty(column)
