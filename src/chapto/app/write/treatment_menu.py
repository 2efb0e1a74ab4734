"""The menu of what the picture can do under a beat."""

from __future__ import annotations

from fractions import Fraction
from functools import partial

from PyQt6.QtWidgets import QMenu, QWidget

from chapto.app.menus import choice, deeper
from chapto.app.studio import Studio
from chapto.app.write.treatments import Choice, choices
from chapto.document import edit_script
from chapto.document.treatments import Treatment


def treatment_menu(parent: QWidget, studio: Studio, beat_id: str, on_screen: Fraction) -> QMenu:
    """A menu that treats a beat; what the beat has already is checked. `on_screen` is the mat second looked at."""
    section, beat = studio.breakdown.find_beat(beat_id)
    menu = QMenu(parent)

    def treat(treatment: Treatment | None) -> None:
        studio.edit("change the treatment", lambda b: edit_script.treat(b, beat_id, treatment))

    def fill(into: QMenu, offered: tuple[Choice, ...]) -> None:
        for one in offered:
            if one.group:
                fill(deeper(into, one.text), one.group)
            else:
                choice(into, one.text, partial(treat, one.treatment), checked=one.treatment == beat.treatment)

    fill(menu, choices(studio.breakdown, section, beat, on_screen))
    return menu
