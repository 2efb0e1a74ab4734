"""What can be done with one file, at the pointer."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial

from PyQt6.QtWidgets import QMenu, QWidget

from chapto.app.footage.file_acts import FileActs
from chapto.app.menus import choice
from chapto.app.studio import Studio
from chapto.document.footage import Footage


def file_menu(parent: QWidget, studio: Studio, c: Footage, line_up: Callable[[], object]) -> QMenu:
    """Main camera, mirrored, steady, lining up, taking out."""
    menu, acts = QMenu(parent), FileActs(studio)
    choice(menu, "Main camera", partial(acts.to_main, c), checked=acts.is_main(c))
    choice(menu, "Mirrored", partial(acts.mirror, c), checked=c.mirrored)
    choice(menu, "Steady", partial(acts.steady, c), checked=c.steady)
    if len(studio.breakdown.footage) > 1:
        menu.addAction("Line it up by hand…  (L)", lambda: line_up())
    menu.addSeparator()
    menu.addAction("Take it out of the breakdown", lambda: acts.take_out(c))
    return menu
