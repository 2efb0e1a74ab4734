"""Whether everything on a window can be read and reached: nothing cut off, nothing over one another."""

from __future__ import annotations

from itertools import combinations

from PyQt6.QtCore import QPoint, QRect
from PyQt6.QtWidgets import QAbstractButton, QLabel, QLineEdit, QScrollArea, QWidget

LAID_OVER = {"Canvas", "Marker", "DropHint", "QRubberBand", "KeysPage", "Alone"}
"""Widgets that are meant to lie over others."""


def cut_off(window: QWidget) -> list[str]:
    """A line for each label or button whose words do not fit, and each that its surroundings cut."""
    found = []
    for w in window.findChildren(QWidget):
        if not w.isVisible() or not isinstance(w, (QLabel, QAbstractButton, QLineEdit)):
            continue
        text = w.text() if not isinstance(w, QLineEdit) else ""
        if text and _is_too_long(w, text):
            found.append(f"{_where(w)}: “{text}” is cut off")
        if _is_clipped(w, window):
            found.append(f"{_where(w)}: “{text or w.accessibleName()}” is clipped by what is round it")
    return found


def overlapping(window: QWidget) -> list[str]:
    """A line for each pair of neighbours that lie over one another."""
    found = []
    for parent in [window, *window.findChildren(QWidget)]:
        if not parent.isVisible():
            continue
        children = [
            w for w in parent.children()
            if isinstance(w, QWidget) and w.isVisible() and not w.isWindow() and type(w).__name__ not in LAID_OVER
        ]  # fmt: skip
        for one, other in combinations(children, 2):
            both = one.geometry().intersected(other.geometry())
            if both.width() > 1 and both.height() > 1 and "qt_" not in other.objectName() + one.objectName():
                found.append(f"{_where(one)} and {_where(other)} overlap by {both.width()} × {both.height()}")
    return found


def _is_too_long(w: QWidget, text: str) -> bool:
    if isinstance(w, QLabel):
        if w.wordWrap():
            return w.heightForWidth(w.width()) > w.height() + 2
        return w.fontMetrics().horizontalAdvance(text) > w.contentsRect().width() + 1
    icon = w.iconSize().width() + 4 if isinstance(w, QAbstractButton) and not w.icon().isNull() else 0
    return w.fontMetrics().horizontalAdvance(text.replace("&&", "&")) + icon > w.width() - 4


def _is_clipped(w: QWidget, window: QWidget) -> bool:
    """Sideways nothing may be cut; upright only what scrolls."""
    at = QRect(w.mapTo(window, QPoint(0, 0)), w.size())
    seen, scrolls = at, False
    parent = w.parentWidget()
    while parent is not None and parent is not window.parentWidget():
        here = QRect(parent.mapTo(window, QPoint(0, 0)) if parent is not window else QPoint(0, 0), parent.size())
        scrolls = scrolls or isinstance(parent.parentWidget(), QScrollArea)
        sideways = seen.intersected(QRect(here.left(), seen.top(), here.width(), seen.height()))
        if sideways.width() < seen.width() - 1:
            return True
        if not scrolls and seen.intersected(here).height() < seen.height() - 1:
            return True
        if isinstance(parent, QScrollArea):
            # What is scrolled away is judged no further.
            if not seen.intersects(here):
                return False
            seen = seen.intersected(here)
        parent = parent.parentWidget() if parent is not window else None
    return False


def _where(w: QWidget) -> str:
    names, at = [], w
    while at is not None and len(names) < 3:
        names.append(type(at).__name__)
        at = at.parentWidget()  # type: ignore[assignment]
    return " in ".join(names)
