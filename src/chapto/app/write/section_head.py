"""The head of a section: its chapter, and what is under it."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial

from PyQt6.QtCore import QPoint
from PyQt6.QtWidgets import QLineEdit, QWidget

from chapto.app import layouts
from chapto.app.studio import Studio
from chapto.app.theme import icon, text_font
from chapto.app.widgets import Elided, button, ground, show_begin
from chapto.app.write.drafting import Drafting
from chapto.app.write.section_menu import section_menu
from chapto.clock.timecode import clock_text
from chapto.document import edit_script
from chapto.document.breakdown import Breakdown
from chapto.document.script import Part, Section
from chapto.paint.colours import INK_SOFT


class SectionHead(QWidget):
    """Title of a section (its chapter) and the exchange under it."""

    def __init__(
        self, studio: Studio, section: Section, drafting: Drafting, fold: Callable[[str], object]
    ) -> None:  # fmt: skip
        super().__init__()
        self._studio, self._drafting, self.section_id = studio, drafting, section.id
        ground(self, "paper")
        row = layouts.row(self, margins=(8, 14, 12, 2), spacing=4)
        self.folder = button("", partial(fold, section.id), tip="Show only this head", key="Alt+F", kind="quiet")
        self.folder.setFixedWidth(20)
        self.folder.setStyleSheet("padding: 0;")
        row.addWidget(self.folder)
        self.title = QLineEdit(section.title)
        self.title.setFont(text_font(15, 600))
        self.title.setStyleSheet("QLineEdit { font-size: 15px; font-weight: 600; border-bottom: none; }")
        self.title.setPlaceholderText("chapter title, or none")
        self.title.setAccessibleName("Chapter title")
        self.title.editingFinished.connect(self._retitle)
        self.title.setMinimumWidth(90)
        row.addWidget(self.title, 1)
        self.show_folded(False, 0)
        self._about = Elided()
        row.addWidget(self._about, 1)
        row.addWidget(button("", self.open_menu, tip="Section", key="Ctrl+M", sign="more", kind="quiet"))

    def show_section(self, b: Breakdown, section: Section) -> None:
        """Take the section as the document has it."""
        show_begin(self.title, section.title)
        self._about.say(about_section(b, section))

    def show_folded(self, folded: bool, words: int) -> None:
        """Whether its beats are hidden, and then how many words they have."""
        self.folder.setIcon(icon("forward" if folded else "down", INK_SOFT))
        self.folder.setToolTip(f"{words} words: show them again  (Alt+F)" if folded else "Show only this head  (Alt+F)")

    def open_menu(self) -> None:
        """What can be done with the section."""
        menu = section_menu(self, self._studio, self.section_id, self._drafting)
        menu.exec(self.mapToGlobal(QPoint(self.width() - 180, self.height())))

    def _retitle(self) -> None:
        text, section = self.title.text().strip(), self.section_id
        self._studio.edit("rename the chapter", lambda b: edit_script.change_section(b, section, title=text))


def about_section(b: Breakdown, section: Section) -> str:
    """What is under a section, in a few words."""
    if section.part is not Part.TALK:
        return section.part.value
    if not section.exchange:
        return "title card"
    x = b.exchange(section.exchange)
    allowed = [
        *([f"{float(section.allow.hold_seconds):g} s more hold"] if section.allow.hold_seconds else []),
        *([f"{float(section.allow.silence_seconds):g} s more silence"] if section.allow.silence_seconds else []),
        *(f"{float(r):g}×" for r in section.allow.rates),
    ]
    words = [
        *(["as filmed"] if section.as_filmed else []),
        *(["shown first"] if section.show_first else []),
        *(["once more"] if section.once_more else []),
        *([section.style] if section.style else []),
        *([f"skips {float(sum(z - a for a, z in section.skips)):.1f} s"] if section.skips else []),
        *([f"allows {', '.join(allowed)}"] if allowed else []),
        f"{x.technique or 'exchange'} {clock_text(x.start)}–{clock_text(x.end)}",
    ]
    return " · ".join(words)
