"""The menu of what can be done with a section."""

from __future__ import annotations

from collections.abc import Callable
from fractions import Fraction
from functools import partial
from typing import Any

from PyQt6.QtWidgets import QMenu, QWidget

from chapto.app.menus import choice, deeper
from chapto.app.studio import Studio
from chapto.app.write.drafting import Drafting
from chapto.clock.timecode import clock_text
from chapto.document import edit_pacing, edit_script
from chapto.document.breakdown import Breakdown, by_id
from chapto.document.footage import cameras_of
from chapto.document.script import Part, Section

PARTS = (
    (Part.TALK, "Explains an exchange"),
    (Part.OPENING, "Opening, from the best moment"),
    (Part.INTRODUCTION, "Introduction with names"),
    (Part.RECAP, "Recap of what was shown"),
    (Part.CREDITS, "Thanks and credits"),
)
SHARES = ((Fraction(1, 2), "Half a part"), (Fraction(1), "One part"), (Fraction(2), "Two parts"))

Edit = Callable[[Breakdown], Breakdown]


def section_menu(parent: QWidget, studio: Studio, section_id: str, drafting: Drafting) -> QMenu:
    """A menu over one section."""
    section = by_id(studio.breakdown.script, section_id, "section")
    menu = QMenu(parent)
    _Filling(menu, studio, section, drafting).fill()
    return menu


class _Filling:
    """Puts actions into the menu of one section."""

    def __init__(self, menu: QMenu, studio: Studio, section: Section, drafting: Drafting) -> None:
        self.menu, self.studio, self.section, self.drafting = menu, studio, section, drafting

    def fill(self) -> None:
        """From what is done often to what is done once."""
        s = self.section.id
        self._act("New beat here", "add a beat", lambda b: edit_script.add_beat(b, s))
        if self.section.exchange and self.section.part is Part.TALK:
            self.menu.addAction("Draft it anew from the log; what was changed stays", lambda: self.drafting.anew(s))
        self._act("Move up  (Alt+Shift+Up)", "move the section", lambda b: edit_script.move_section(b, s, -1))
        self._act("Move down  (Alt+Shift+Down)", "move the section", lambda b: edit_script.move_section(b, s, 1))
        self.menu.addSeparator()
        self._what_it_is()
        if self.section.exchange and self.section.part is Part.TALK:
            self._around()
            self._style()
            self._limits()
        self.menu.addSeparator()
        self._act("Take out", "take out the section", lambda b: edit_script.remove_section(b, s))

    def _what_it_is(self) -> None:
        parts = deeper(self.menu, "It is")
        for part, text in PARTS:
            self._field(text, "change what the section is", "part", part, parts)
        exchanges = deeper(self.menu, "Shows")
        self._field("Nothing, a title card", "change the exchange", "exchange", "", exchanges)
        for x in self.studio.breakdown.exchanges:
            text = f"{x.technique or 'exchange'}, mat {clock_text(x.start)}"
            self._field(text, "change the exchange", "exchange", x.id, exchanges)

    def _around(self) -> None:
        on = self.section
        first, more = "Show it first, without words", "Once more after the talk, clean"
        self._field(first, "show it first", "show_first", not on.show_first, checked=on.show_first)
        filmed = "As filmed, with its own sound and words"
        self._field(filmed, "show it as filmed", "as_filmed", not on.as_filmed, checked=on.as_filmed)
        self._field(more, "show it once more", "once_more", not on.once_more, checked=on.once_more)
        cameras = cameras_of(self.studio.breakdown.footage)
        for shown, field, text in (
            (on.show_first, "first_camera", "Shown first from"),
            (on.once_more, "more_camera", "Once more from"),
        ):
            if shown and len(cameras) > 1:
                into = deeper(self.menu, text)
                for camera, named in (("", "The camera as it is found"), *((c, c) for c in cameras)):
                    self._field(named, "change the camera", field, camera, into)

    def _style(self) -> None:
        styles = self.studio.known.styles
        into = deeper(self.menu, "House style")
        whole = styles.get(self.studio.breakdown.style)
        self._field(
            f"As the breakdown’s{f', {whole.title}' if whole else ''}", "change the style here", "style", "", into
        )
        for name, style in styles.items():
            self._field(style.title, "change the style here", "style", name, into)

    def _limits(self) -> None:
        s = self.section.id
        part = deeper(self.menu, "Its part in a wished length")
        for share, text in SHARES:
            self._field(text, "change its part in the length", "weight", share, part)
        if self.section.allow != type(self.section.allow)():
            text = "Only what the house style allows"
            self._act(text, "take back what is allowed", lambda b: edit_pacing.allow_nothing(b, s))
        if self.section.skips:
            self._act("Skip nothing by hand", "take back what is skipped", lambda b: edit_pacing.skip_nothing(b, s))

    def _act(self, text: str, what: str, change: Edit) -> None:
        self.menu.addAction(text, lambda: self.studio.edit(what, change))

    def _field(
        self, text: str, what: str, field: str, value: Any, into: QMenu | None = None, *, checked: bool | None = None
    ) -> None:
        change = partial(edit_script.change_section, section_id=self.section.id, **{field: value})
        on = getattr(self.section, field) == value if checked is None else checked
        choice(into or self.menu, text, partial(self.studio.edit, what, change), checked=on)
