"""Columns, rows, scrolled pages and splits: how every page of the window is put together."""

from __future__ import annotations

from collections.abc import Sequence

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QBoxLayout, QHBoxLayout, QLayout, QScrollArea, QSplitter, QVBoxLayout, QWidget

Margins = tuple[int, int, int, int]
"""Left, top, right, bottom, in pixels."""
Item = QWidget | QLayout
NONE: Margins = (0, 0, 0, 0)
GAP = 6
"""Pixels between neighbours where nothing else is said."""
HANDLE = 3
"""Pixels of the line that is dragged between two halves."""


def column(into: QWidget | None = None, *items: Item, margins: Margins = NONE, spacing: int = GAP) -> QVBoxLayout:
    """Items one below another, as the layout of `into` if it is given."""
    made = QVBoxLayout(into)
    _fill(made, items, margins, spacing)
    return made


def row(into: QWidget | None = None, *items: Item, margins: Margins = NONE, spacing: int = GAP) -> QHBoxLayout:
    """Items side by side, as the layout of `into` if it is given."""
    made = QHBoxLayout(into)
    _fill(made, items, margins, spacing)
    return made


def scrolled(page: QWidget) -> QScrollArea:
    """A page that scrolls when it is higher than its place."""
    area = QScrollArea()
    area.setWidgetResizable(True)
    area.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
    # What lies in it is reached by Tab; the area itself has nothing to say.
    area.setFocusPolicy(Qt.FocusPolicy.NoFocus)
    area.setWidget(page)
    return area


def split(way: Qt.Orientation, *items: QWidget, sizes: Sequence[int] = (), stretch: Sequence[int] = ()) -> QSplitter:
    """Items with lines between them that can be dragged, none of them away; `sizes` in pixels, `stretch` by
    which each grows."""
    made = QSplitter(way)
    made.setHandleWidth(HANDLE)
    for item in items:
        made.addWidget(item)
    if sizes:
        made.setSizes(list(sizes))
    for place, by in enumerate(stretch):
        made.setStretchFactor(place, by)
    made.setChildrenCollapsible(False)
    return made


def empty(layout: QLayout) -> None:
    """Take everything out of a layout; widgets are gone once control is back at the event loop."""
    while item := layout.takeAt(0):
        if (inner := item.layout()) is not None:
            empty(inner)
        if (widget := item.widget()) is not None:
            widget.hide()
            widget.deleteLater()


def _fill(layout: QBoxLayout, items: Sequence[Item], margins: Margins, spacing: int) -> None:
    layout.setContentsMargins(*margins)
    layout.setSpacing(spacing)
    for item in items:
        if isinstance(item, QWidget):
            layout.addWidget(item)
        else:
            layout.addLayout(item)
