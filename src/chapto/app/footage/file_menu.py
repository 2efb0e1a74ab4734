"""What can be done with one file, at the pointer."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial

from PyQt6.QtWidgets import QMenu, QWidget

from chapto.app.menus import choice
from chapto.app.studio import Studio
from chapto.document import edit_footage
from chapto.document.breakdown import Breakdown
from chapto.document.footage import Footage


def file_menu(parent: QWidget, studio: Studio, c: Footage, line_up: Callable[[], object]) -> QMenu:
    """Main camera, mirrored, steady, lining up, taking out."""
    menu, b = QMenu(parent), studio.breakdown
    main = b.footage[0].camera_name == c.camera_name
    make_main = partial(_edit, studio, "make it the main camera", edit_footage.make_main, c)
    choice(menu, "Main camera", make_main, checked=main)
    turned = partial(edit_footage.change_footage, mirrored=not c.mirrored)
    calmed = partial(edit_footage.change_footage, steady=not c.steady)
    for text, change, on in (("Mirrored", turned, c.mirrored), ("Steady", calmed, c.steady)):
        choice(menu, text, partial(_edit, studio, f"{text.lower()} or not", change, c), checked=on)
    if len(b.footage) > 1:
        menu.addAction("Line it up by hand…  (L)", lambda: line_up())
    menu.addSeparator()
    menu.addAction("Take it out of the breakdown", lambda: _take_out(studio, c))
    return menu


def _edit(studio: Studio, what: str, change: Callable[..., Breakdown], c: Footage) -> None:
    studio.edit(what, lambda b: change(b, footage_id=c.id))


def _take_out(studio: Studio, c: Footage) -> None:
    studio.edit(f"take out {c.name}", lambda b: edit_footage.remove_footage(b, c.id))
    studio.files.find()
