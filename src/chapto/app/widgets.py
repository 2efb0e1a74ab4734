"""Small dressed widgets that every stage uses."""

from __future__ import annotations

from collections.abc import Callable

from PyQt6.QtCore import QSize, Qt
from PyQt6.QtGui import QMouseEvent, QResizeEvent
from PyQt6.QtWidgets import QLabel, QLineEdit, QPushButton, QSizePolicy, QWidget

from chapto.app.theme import icon
from chapto.paint.colours import INK, ON_DARK


def ground(widget: QWidget, kind: str) -> QWidget:
    """Put a widget on "paper" or "dark"."""
    widget.setProperty("ground", kind)
    widget.setAttribute(Qt.WidgetAttribute.WA_StyledBackground)
    return widget


def label(text: str = "", *, size: str = "", soft: bool = False, wrap: bool = False) -> QLabel:
    """Words in one of the sizes "title", "head", "time", "clock", or plain."""
    made = QLabel(text)
    made.setTextFormat(Qt.TextFormat.PlainText)
    if size:
        made.setProperty("letters", size)
    made.setProperty("soft", "true" if soft else "false")
    made.setWordWrap(wrap)
    return made


def button(
    text: str,
    act: Callable[[], object],
    *,
    tip: str = "",
    key: str = "",
    sign: str = "",
    kind: str = "",
    dark: bool = False,
) -> QPushButton:
    """A button with what it does; the tooltip gives the key. `kind` is "main", "quiet" or plain."""
    made = QPushButton(text)
    made.setCursor(Qt.CursorShape.PointingHandCursor)
    made.setProperty("act", kind)
    if sign:
        colour = ON_DARK if dark != (kind == "main") else INK
        made.setIcon(icon(sign, colour))
        made.setIconSize(QSize(17, 17))
    made.setToolTip(f"{tip or text}  ({key})" if key else tip)
    made.setAccessibleName(tip or text)
    made.clicked.connect(lambda: act())
    return made


class Pressable(QLabel):
    """A sentence that can be pressed."""

    def __init__(self, act: Callable[[], object]) -> None:
        super().__init__()
        self._act = act
        self.setTextFormat(Qt.TextFormat.PlainText)
        self.setCursor(Qt.CursorShape.PointingHandCursor)

    def mouseReleaseEvent(self, event: QMouseEvent | None) -> None:
        """Do what the sentence says."""
        self._act()


def show_begin(line: QLineEdit, text: str) -> None:
    """Put a text into a line, its beginning in sight and all of it in the tooltip; what is being written stays."""
    if not line.hasFocus() and line.text() != text:
        line.setText(text)
        line.setCursorPosition(0)
    line.setToolTip(text or line.accessibleName())


class Elided(QLabel):
    """Soft words that give way: cut with an ellipsis where there is no room, whole in the tooltip."""

    def __init__(self) -> None:
        super().__init__()
        self.setTextFormat(Qt.TextFormat.PlainText)
        self.setProperty("soft", "true")
        self.setAlignment(Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter)
        self.setSizePolicy(QSizePolicy.Policy.Ignored, QSizePolicy.Policy.Preferred)
        self._whole = ""

    def say(self, text: str) -> None:
        """Show these words as far as there is room."""
        self._whole = text
        self._fit()

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        """More or less of them."""
        super().resizeEvent(event)
        self._fit()

    def _fit(self) -> None:
        shown = self.fontMetrics().elidedText(self._whole, Qt.TextElideMode.ElideRight, self.width())
        self.setText(shown)
        self.setToolTip(self._whole if shown != self._whole else "")
