"""Who talks, and how fast: a line over the script."""

from __future__ import annotations

from functools import partial

from PyQt6.QtCore import QPoint
from PyQt6.QtWidgets import QLineEdit, QMenu, QWidget

from chapto.app import layouts
from chapto.app.menus import choice
from chapto.app.studio import Studio
from chapto.app.widgets import button, ground, label, show_begin
from chapto.document import edit_breakdown
from chapto.document.people import Narrator

PACES = (150, 160, 175, 190, 205, 220, 240, 260)
"""Words a minute; narrators of breakdowns talk at 160 to 260, typically 190 (common practice)."""

ROOMY = 2
"""Up to so many voices the row has room for long words."""


class VoicesRow(QWidget):
    """Names and paces of the narrators, each to be changed where it stands."""

    def __init__(self, studio: Studio) -> None:
        super().__init__()
        self._studio = studio
        self._shown: tuple[Narrator, ...] = ()
        ground(self, "paper")
        self._row = layouts.row(self, margins=(16, 6, 12, 4), spacing=4)
        studio.changed.connect(self._follow)
        studio.compiled.connect(self._count)
        self._follow()

    def _follow(self) -> None:
        b = self._studio.breakdown
        if b.narrators == self._shown:
            return
        self._shown = b.narrators
        while item := self._row.takeAt(0):
            if (widget := item.widget()) is not None:
                widget.deleteLater()
        for narrator in b.narrators:
            self._row.addWidget(self._name(narrator))
            words = "words/min" if len(b.narrators) <= ROOMY else "/min"
            tip = "Pace of this voice, in words a minute"
            pace = button(f"{narrator.pace} {words}", lambda: None, tip=tip, kind="quiet")
            pace.clicked.connect(partial(self._menu, narrator.id, pace))
            self._row.addWidget(pace)
            self._row.addSpacing(10)
        self._row.addWidget(button("", self.add, tip="Another voice", sign="plus", kind="quiet"))
        self._row.addWidget(label("" if len(b.narrators) > 1 else "another voice", soft=True))
        self._row.addStretch(1)
        self._words = label("", soft=True)
        self._row.addWidget(self._words)
        self._count()

    def _count(self) -> None:
        """How many words are said, of the programme as it is compiled."""
        said = sum(len(placed.block.words) for placed in self._studio.programme.blocks)
        self._words.setText(f"{said:,} words" if said != 1 else "1 word")
        self._words.setVisible(said > 0)

    def _name(self, narrator: Narrator) -> QLineEdit:
        made = QLineEdit(narrator.name)
        made.setAccessibleName("Name of the narrator")
        made.setStyleSheet("QLineEdit { font-weight: 600; border-bottom: none; }")
        width = made.fontMetrics().horizontalAdvance(narrator.name) + 24
        made.setFixedWidth(min(max(width, 52), 180))
        show_begin(made, narrator.name)
        made.editingFinished.connect(lambda: self._rename(narrator, made.text().strip()))
        return made

    def _rename(self, narrator: Narrator, name: str) -> None:
        if name and name != narrator.name:
            self._studio.edit(
                "rename the narrator", lambda b: edit_breakdown.change_narrator(b, narrator.id, name=name)
            )

    def add(self) -> None:
        """One more voice, with a name to be written over."""
        self._studio.edit("add a narrator", lambda b: edit_breakdown.add_narrator(b, f"Voice {len(b.narrators) + 1}"))

    def _menu(self, narrator: str, under: QWidget) -> None:
        menu, edit = QMenu(self), self._studio.edit
        current = next(n.pace for n in self._studio.breakdown.narrators if n.id == narrator)
        for pace in sorted({*PACES, current}):
            change = partial(edit_breakdown.change_narrator, narrator=narrator, pace=pace)
            choice(menu, f"{pace} words a minute", partial(edit, "change the pace", change), checked=pace == current)
        if len(self._studio.breakdown.narrators) > 1:
            menu.addSeparator()
            menu.addAction(
                "Take this voice out",
                lambda: edit("take out a narrator", lambda b: edit_breakdown.remove_narrator(b, narrator)),
            )
        menu.exec(under.mapToGlobal(QPoint(0, under.height())))
