"""The few questions at which work has to stop."""

from __future__ import annotations

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QMessageBox, QWidget

from chapto.app.widgets import ground


def ask(parent: QWidget | None, question: str, answers: tuple[str, ...]) -> int:
    """Put a question over `parent`; the number of the answer pressed. The last one is what Esc and closing mean, and
    the one that changes nothing."""
    box = QMessageBox(parent)
    box.setWindowTitle("Chapto")
    ground(box, "paper")
    box.setTextFormat(Qt.TextFormat.PlainText)
    box.setText(question)
    buttons = [box.addButton(answer, QMessageBox.ButtonRole.ActionRole) for answer in answers]
    box.setEscapeButton(buttons[-1])
    box.setDefaultButton(buttons[-1])
    box.exec()
    pressed = box.clickedButton()
    return next((i for i, made in enumerate(buttons) if made is pressed), len(answers) - 1)
