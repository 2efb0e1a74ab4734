"""Menus of what a beat is for and of who says it."""

from __future__ import annotations

from fractions import Fraction
from functools import partial

from PyQt6.QtWidgets import QMenu, QWidget

from chapto.app.menus import choice
from chapto.app.studio import Studio
from chapto.document import edit_script
from chapto.document.script import BeatKind
from chapto.lexicon.trade_words import trade_word

FALLS_IN = (
    (Fraction(0), "After the one above"),
    (Fraction(1, 2), "Falls in half a second before that is out"),
    (Fraction(1), "Falls in a second before"),
    (Fraction(2), "Falls in two seconds before"),
)


def kind_menu(parent: QWidget, studio: Studio, beat_id: str) -> QMenu:
    """What a beat is for; its kind now is checked."""
    menu = QMenu(parent)
    _, beat = studio.breakdown.find_beat(beat_id)
    for kind in BeatKind:
        change = partial(edit_script.change_beat_kind, beat_id=beat_id, kind=kind)
        choice(menu, trade_word(kind), partial(studio.edit, "change the kind", change), checked=kind is beat.kind)
    return menu


def narrator_menu(parent: QWidget, studio: Studio, beat_id: str) -> QMenu:
    """Who says a beat."""
    menu = QMenu(parent)
    _, beat = studio.breakdown.find_beat(beat_id)
    for narrator in studio.breakdown.narrators:
        change = partial(edit_script.set_narrator, beat_id=beat_id, narrator=narrator.id)
        says = narrator == studio.breakdown.narrator(beat)
        choice(menu, narrator.name, partial(studio.edit, "change who says it", change), checked=says)
    menu.addSeparator()
    for seconds, text in FALLS_IN:
        overlap = partial(edit_script.fall_in, beat_id=beat_id, seconds=seconds)
        choice(menu, text, partial(studio.edit, "change when it begins", overlap), checked=seconds == beat.overlap)
    return menu
