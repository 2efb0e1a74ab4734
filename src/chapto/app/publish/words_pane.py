"""What an entry of the list is, in words, with what can be done with it."""

from __future__ import annotations

from collections.abc import Callable

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QWidget

from chapto.app import layouts
from chapto.app.widgets import button, ground, label


class WordsPane(QWidget):
    """A text that scrolls, and a button under it."""

    def __init__(self) -> None:
        super().__init__()
        self._act: Callable[[], object] | None = None
        column = layouts.column(self, margins=(2, 4, 2, 0))
        self.text = label("", wrap=True)
        self.text.setTextInteractionFlags(Qt.TextInteractionFlag.TextSelectableByMouse)
        self.text.setAlignment(Qt.AlignmentFlag.AlignTop | Qt.AlignmentFlag.AlignLeft)
        inner = ground(QWidget(), "paper")
        layouts.column(inner, self.text).addStretch(1)
        column.addWidget(layouts.scrolled(inner), 1)
        acts = layouts.row()
        self.button = button("", self._do)
        acts.addWidget(self.button)
        acts.addStretch(1)
        column.addLayout(acts)

    def say(self, text: str, act: str, do: Callable[[], object] | None) -> None:
        """Show a text, and what a press does; it can't be pressed while there is nothing to do."""
        self.text.setText(text)
        self.button.setText(act)
        self.button.setAccessibleName(act)
        self.button.setEnabled(do is not None)
        self._act = do

    def _do(self) -> None:
        if self._act is not None:
            self._act()
