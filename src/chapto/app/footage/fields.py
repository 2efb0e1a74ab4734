"""Words written straight on the paper, and answers that a press turns to the next."""

from __future__ import annotations

from collections.abc import Callable, Sequence

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QLineEdit, QPushButton


class Line(QLineEdit):
    """One line of words; `put` gets them when they are done. What is being written is never overwritten."""

    def __init__(self, hint: str, put: Callable[[str], object]) -> None:
        super().__init__()
        self._put, self._shown = put, ""
        self.setPlaceholderText(hint)
        self.setToolTip(hint)
        self.setAccessibleName(hint)
        self.editingFinished.connect(self._done)

    def show_text(self, text: str) -> None:
        """Take it as the document has it."""
        self._shown = text
        if not self.hasFocus() and self.text() != text:
            self.setText(text)
            self.setCursorPosition(0)

    def _done(self) -> None:
        text = self.text().strip()
        if text != self._shown:
            self._shown = text
            self._put(text)


class Answer(QPushButton):
    """One of a few answers; a press or Space turns to the next, and `put` gets it. `is_open` ones stand out."""

    def __init__(self, answers: Sequence[tuple[object, str]], put: Callable[[object], object], *, tip: str) -> None:
        super().__init__()
        self._answers, self._put = list(answers), put
        self._at = 0
        self.setToolTip(f"{tip}: press for the next answer")
        self.setAccessibleName(tip)
        self.setCursor(Qt.CursorShape.PointingHandCursor)
        self.clicked.connect(self._next)

    def show_answer(self, value: object, *, is_open: bool) -> None:
        """Take it as the document has it."""
        self._at = next(i for i, (v, _) in enumerate(self._answers) if v == value)
        self.setText(self._answers[self._at][1])
        if self.property("open") != is_open:
            self.setProperty("open", is_open)
            style = self.style()
            if style is not None:
                style.unpolish(self)
                style.polish(self)

    def _next(self) -> None:
        self._put(self._answers[(self._at + 1) % len(self._answers)][0])
