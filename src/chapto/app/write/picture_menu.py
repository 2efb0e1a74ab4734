"""The menu of names, strips and cautions on the picture."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from functools import partial

from PyQt6.QtWidgets import QMenu, QWidget

from chapto.app.menus import choice, deeper
from chapto.app.studio import Studio
from chapto.document.breakdown import Breakdown
from chapto.document.edit_breakdown import change_naming, set_shown
from chapto.lexicon.lexicon import School


def picture_menu(parent: QWidget, studio: Studio, beside: Mapping[str, Callable[[], object]]) -> QMenu:
    """What is painted over the footage, each on or off, and the school that techniques are named by. Sheets `beside`
    open by their names."""
    menu, b = QMenu(parent), studio.breakdown

    def turn(into: QMenu, text: str, on: bool, change: Callable[[Breakdown], Breakdown]) -> None:
        choice(into, text, partial(studio.edit, "change what is on the picture", change), checked=on)

    automatic, both = b.naming.automatic, b.naming.both_at_first
    turn(menu, "Names of techniques", automatic, partial(change_naming, automatic=not automatic))
    turn(menu, "Both names at first mention", both, partial(change_naming, both_at_first=not both))
    schools = deeper(menu, "Names as said in")
    for school in School:
        turn(schools, school.value, school == b.naming.school, partial(change_naming, school=school.value))
    menu.addSeparator()
    turn(menu, "Score and clock of the bout", b.score_strip, partial(set_shown, score_strip=not b.score_strip))
    turn(menu, "Strip of who controls", b.control_strip, partial(set_shown, control_strip=not b.control_strip))
    turn(menu, "A line of care for each risk", b.cautions, partial(set_shown, cautions=not b.cautions))
    menu.addSeparator()
    for text, opens in beside.items():
        menu.addAction(f"{text}…", partial(_open, opens))
    return menu


def _open(opens: Callable[[], object]) -> None:
    opens()
