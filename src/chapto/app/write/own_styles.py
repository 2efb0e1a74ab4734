"""The menu of the user's own house styles."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial

from PyQt6.QtWidgets import QMenu, QWidget

from chapto.app.menus import choice
from chapto.app.studio import Studio
from chapto.document import edit_breakdown
from chapto.errors import ChaptoError
from chapto.store.own_styles import make_own, own_styles


def own_styles_menu(parent: QWidget, studio: Studio, change: Callable[[], object]) -> QMenu:
    """Choose one, make one from the style in use, or `change` the one in use."""
    menu = QMenu(parent)
    own, used = own_styles(), studio.breakdown.style
    for name, style in own.items():
        choice(menu, style.title, partial(_use, studio, name), checked=name == used)
    if own:
        menu.addSeparator()
    menu.addAction("Make one from the style in use", lambda: _make(studio, change))
    if used in own:
        menu.addAction("Change its limits", change)
    return menu


def _use(studio: Studio, name: str) -> None:
    studio.edit("change the house style", lambda b: edit_breakdown.set_style(b, name))


def _make(studio: Studio, change: Callable[[], object]) -> None:
    try:
        name = make_own(studio.breakdown.style)
    except ChaptoError as error:
        studio.message.emit(str(error))
        return
    studio.compiling.know_again()
    _use(studio, name)
    change()
