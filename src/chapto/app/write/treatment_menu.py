"""The menu of what the picture can do under a beat, or from one of its words on."""

from __future__ import annotations

from collections.abc import Callable
from fractions import Fraction
from functools import partial

from msgspec.structs import replace
from PyQt6.QtWidgets import QMenu, QWidget

from chapto.app.menus import choice, deeper
from chapto.app.studio import Studio
from chapto.app.write.treatments import Choice, choices
from chapto.document import edit_script, edit_turns
from chapto.document.edit_closer import come_closer
from chapto.document.script import MARKS, words_of
from chapto.document.treatments import Treatment

NEARER = (
    ("To the middle", (0.5, 0.5), Fraction(1, 2)),
    ("To the left", (0.33, 0.55), Fraction(1, 2)),
    ("To the right", (0.67, 0.55), Fraction(1, 2)),
    ("Slowly, to the middle", (0.5, 0.5), Fraction(6)),
    ("At once, to the middle", (0.5, 0.5), Fraction(0)),
)
"""What to come closer to (0…1 of the picture), and the seconds it takes. The point can be moved in Mark."""
Treat = Callable[[Treatment | None], object]


def treatment_menu(parent: QWidget, studio: Studio, beat_id: str, on_screen: Fraction, word: int = 0) -> QMenu:
    """A menu that treats a beat; what the beat has already is checked. Where the caret is in `word`, not the first, the
    picture can also turn there. `on_screen` is the mat second looked at."""
    b = studio.breakdown
    section, beat = b.find_beat(beat_id)
    menu = QMenu(parent)

    def treat(treatment: Treatment | None) -> None:
        studio.edit("change the treatment", lambda b: edit_script.treat(b, beat_id, treatment))

    def turn(treatment: Treatment | None) -> None:
        studio.edit("turn the picture", lambda b: edit_turns.turn_at(b, beat_id, word, treatment))

    if 0 < word < len(words_of(beat.text)):
        here = deeper(menu, f"From “{words_of(beat.text)[word].strip(MARKS)}” on")
        turns = [t for t in beat.turns if t.word == word]
        if turns:
            here.addAction(
                "As before it",
                lambda: studio.edit("take the turn away", lambda b: edit_turns.no_turn_at(b, beat_id, word)),
            )
        from_here = replace(beat, treatment=beat.treated_at(word), turns=())
        _fill(here, choices(b, section, from_here, on_screen), turn, from_here.treatment, there=bool(turns))
        menu.addSeparator()
    _fill(menu, choices(b, section, beat, on_screen), treat, beat.treatment, there=True)
    seen = studio.angles.at(on_screen)
    if seen is not None:
        closer = deeper(menu, "Come closer")
        for text, place, ease in NEARER:
            change = partial(
                come_closer, beat_id=beat_id, word=word, footage_id=seen.id, mat=on_screen, place=place, ease=ease
            )
            closer.addAction(text, partial(studio.edit, "come closer", change))
    return menu


def _fill(into: QMenu, offered: tuple[Choice, ...], treat: Treat, chosen: Treatment | None, *, there: bool) -> None:
    for one in offered:
        if one.group:
            _fill(deeper(into, one.text), one.group, treat, chosen, there=there)
        else:
            checked = there and one.treatment == chosen
            choice(into, one.text, lambda t=one.treatment: treat(t), checked=checked)  # type: ignore[misc]
