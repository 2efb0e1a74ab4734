"""Entries of a menu, without the holes of Qt's own."""

from __future__ import annotations

from collections.abc import Callable

from PyQt6.QtWidgets import QMenu


def choice(menu: QMenu, text: str, act: Callable[[], object], *, checked: bool) -> None:
    """An entry that shows whether it is chosen."""
    made = menu.addAction(text.replace("&", "&&"), lambda: act())
    assert made is not None
    made.setCheckable(True)
    made.setChecked(checked)


def deeper(menu: QMenu, text: str) -> QMenu:
    """A menu that opens from an entry."""
    made = menu.addMenu(text)
    assert made is not None
    return made
