"""What can be done with one lace, at the pointer."""

from __future__ import annotations

from collections.abc import Callable

from PyQt6.QtWidgets import QMenu, QWidget

from chapto.app.lacing.model import Lace


def lace_menu(
    parent: QWidget, to_word: Callable[[], object], to_moment: Callable[[float], object], untie: Callable[[], object],
    lace: Lace,
) -> QMenu:  # fmt: skip
    """Its word, its moment (at a watch second), and taking it away."""
    menu = QMenu(parent)
    menu.addAction("Go to its word", lambda: to_word())
    menu.addAction("Show its moment", lambda: to_moment(lace.said if lace.shown is None else lace.shown))
    menu.addAction("Untie it", lambda: untie())
    return menu
