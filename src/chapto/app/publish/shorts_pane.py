"""Which sections go out as shorts, and in which shape."""

from __future__ import annotations

from functools import partial

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QGridLayout, QPushButton, QWidget

from chapto.app import layouts
from chapto.app.publish.part_rows import NAMES
from chapto.app.studio import Studio
from chapto.app.widgets import Elided, button, ground, label
from chapto.document.edit_publishing import set_shorts
from chapto.document.publishing import Shape, Short
from chapto.document.script import Part, Section
from chapto.programme.short import shorts_wanted


class ShortsPane(QWidget):
    """A row a section, a press a shape."""

    def __init__(self, studio: Studio) -> None:
        super().__init__()
        self._studio = studio
        self._shown: tuple[tuple[str, str], ...] = ()
        self.buttons: dict[tuple[str, Shape], QPushButton] = {}
        column = layouts.column(self, margins=(2, 4, 2, 0))
        column.addWidget(
            label("Up to a minute each, with captions; the picture follows the two.", soft=True, wrap=True)
        )
        self._inside = ground(QWidget(), "paper")
        self._grid = QGridLayout(self._inside)
        self._grid.setContentsMargins(0, 0, 6, 0)
        self._grid.setSpacing(4)
        column.addWidget(layouts.scrolled(self._inside), 1)
        self.follow()

    def follow(self) -> None:
        """The document is another."""
        b = self._studio.breakdown
        sections = tuple(s for s in b.script if s.exchange and s.part in (Part.TALK, Part.RECAP))
        named = tuple((s.id, s.title) for s in sections)
        if named != self._shown:
            self._shown = named
            self._build(sections)
        wanted = set(shorts_wanted(b))
        for (section, shape), made in self.buttons.items():
            made.setChecked(Short(section=section, shape=shape) in wanted)

    def _build(self, sections: tuple[Section, ...]) -> None:
        while (item := self._grid.takeAt(0)) is not None:
            if (widget := item.widget()) is not None:
                widget.deleteLater()
        self.buttons = {}
        for row, section in enumerate(sections):
            name = Elided()
            name.setProperty("soft", "false")
            name.setAlignment(Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignVCenter)
            name.say(_called(section))
            self._grid.addWidget(name, row, 0)
            for column, shape in enumerate(Shape, 1):
                tip = f"“{_called(section)}” as a short, {NAMES[shape]} ({shape.value})"
                made = button(NAMES[shape], partial(self._toggle, section.id, shape), tip=tip)
                made.setCheckable(True)
                self._grid.addWidget(made, row, column)
                self.buttons[section.id, shape] = made
        self._grid.setColumnStretch(0, 1)
        self._grid.setRowStretch(len(sections), 1)

    def _toggle(self, section: str, shape: Shape) -> None:
        """What Chapto proposed counts as chosen from the first press on."""
        pressed, wanted = Short(section=section, shape=shape), shorts_wanted(self._studio.breakdown)
        shorts = tuple(s for s in wanted if s != pressed) if pressed in wanted else (*wanted, pressed)
        self._studio.edit("choose shorts", partial(set_shorts, shorts=shorts), merge="shorts")
        self.follow()


def _called(section: Section) -> str:
    """A section by its title, or by its first words."""
    words = " ".join(" ".join(beat.text for beat in section.beats).split()[:6])
    return section.title or (f"{words}…" if words else "Untitled")
