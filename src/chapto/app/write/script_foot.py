"""What can be put under the script: a section, a script from elsewhere, a form."""

from __future__ import annotations

from functools import partial

from PyQt6.QtCore import QPoint, pyqtSignal
from PyQt6.QtWidgets import QMenu, QPushButton, QWidget

from chapto.app import layouts
from chapto.app.studio import Studio
from chapto.app.widgets import button, ground
from chapto.app.write.drafting import Drafting
from chapto.app.write.forms_page import forms_menu
from chapto.clock.timecode import clock_text
from chapto.document import edit_script
from chapto.document.bout import Exchange
from chapto.document.breakdown import Breakdown
from chapto.document.forms import chapter_of


class ScriptFoot(QWidget):
    """`added` carries the first beat of a new section (by id), `opens` that a script is to be chosen."""

    added = pyqtSignal(str)
    opens = pyqtSignal()

    def __init__(self, studio: Studio, drafting: Drafting) -> None:
        super().__init__()
        self._studio = studio
        ground(self, "paper")
        row = layouts.row(self, margins=(16, 16, 12, 8))
        tip = "Explain another exchange"
        self._add = button("Add a section", lambda: _below(self._add, self._sections()), tip=tip, sign="plus")
        row.addWidget(self._add)
        row.addWidget(button("Open a script…", self.opens.emit, tip="Bring in a script (.txt, .md, .srt, .vtt)"))
        menu = partial(forms_menu, self, studio, drafting)
        tip = "A chapter and beats for every exchange that has none yet"
        self._lay = button("Lay out…", lambda: _below(self._lay, menu()), tip=tip)
        row.addWidget(self._lay)
        row.addStretch(1)

    def _sections(self) -> QMenu:
        b, menu = self._studio.breakdown, QMenu(self)
        used = {s.exchange for s in b.script}
        free = [x for x in b.exchanges if x.id not in used]
        for x in free:
            menu.addAction(f"{x.technique or 'exchange'}, mat {clock_text(x.start)}", partial(self._begin, x))
        if free:
            menu.addSeparator()
        menu.addAction("Title card", lambda: self._begin(None))
        return menu

    def _begin(self, x: Exchange | None, *_: object) -> None:
        """A new section with an empty beat."""

        def change(b: Breakdown) -> Breakdown:
            title, exchange = (chapter_of(x), x.id) if x else ("", "")
            made = edit_script.add_section(b, title=title, exchange=exchange)
            return edit_script.add_beat(made, made.script[-1].id)

        if self._studio.edit("add a section", change):
            self.added.emit(self._studio.breakdown.script[-1].beats[0].id)


def _below(made: QPushButton, menu: QMenu) -> None:
    menu.exec(made.mapToGlobal(QPoint(0, made.height())))
