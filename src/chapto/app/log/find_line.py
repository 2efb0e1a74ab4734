"""Finding in the log: rows without what is looked for step aside."""

from __future__ import annotations

from collections.abc import Callable, Mapping

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtGui import QKeyEvent
from PyQt6.QtWidgets import QLineEdit

from chapto.app.log.entry import Entry


class FindLine(QLineEdit):
    """`rows` are those of the log by id, in their order. `went` carries the row that Return goes to."""

    went = pyqtSignal(str)

    def __init__(self, rows: Callable[[], Mapping[str, Entry]]) -> None:
        super().__init__()
        self._rows, self._at = rows, ""
        self.setPlaceholderText("find")
        self.setAccessibleName("Find in the log")
        self.setToolTip("Find in the log: technique, words, outcome, name, time  (Ctrl+F)")
        self.setFixedWidth(84)
        self.textChanged.connect(lambda _: self.show_found())
        self.returnPressed.connect(self._next)

    def begin(self) -> None:
        """Type what is looked for."""
        self.setFocus()
        self.selectAll()

    def show_found(self) -> None:
        """Only the rows with all the words."""
        wanted = self.text().casefold().split()
        for row in self._rows().values():
            said = row.told().casefold()
            row.setVisible(all(word in said for word in wanted))

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        """Esc shows everything again."""
        if event is not None and event.text() == "\x1b":
            self.clear()
        super().keyPressEvent(event)

    def _next(self) -> None:
        found = [i for i, row in self._rows().items() if not row.isHidden()]
        if found:
            here = found.index(self._at) if self._at in found else -1
            self._at = found[(here + 1) % len(found)]
            self.went.emit(self._at)
            self.setFocus()
