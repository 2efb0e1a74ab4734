"""Who is on the mat: names, kits and their colours, for the whole breakdown or for one round of it."""

from __future__ import annotations

from functools import partial

from PyQt6.QtCore import QPoint, Qt
from PyQt6.QtGui import QColor
from PyQt6.QtWidgets import QColorDialog, QFrame, QLabel, QLineEdit, QPushButton, QVBoxLayout, QWidget

from chapto.app import layouts
from chapto.app.studio import Studio
from chapto.app.widgets import button, ground, label
from chapto.document import edit_log
from chapto.document.bout import Round
from chapto.document.people import Side
from chapto.paint.colours import INK, KITS, PAPER_LINE

IN_ROW = 8
"""Kit colours offered in a row."""


class WhoSheet(QFrame):
    """Two columns, one an athlete. Where there are several rounds, what is changed can hold for one of them only."""

    def __init__(self, studio: Studio, here: Round | None, parent: QWidget) -> None:
        super().__init__(parent, Qt.WindowType.Popup)
        self._studio = studio
        self._round = here
        own = here is not None and bool(here.first or here.second)
        ground(self, "paper")
        outer = layouts.column(self, margins=(18, 14, 18, 14), spacing=8)
        columns = layouts.row(spacing=22)
        self.names: dict[Side, QLineEdit] = {}
        self.kits: dict[Side, QLineEdit] = {}
        self._swatches: dict[tuple[Side, str], QPushButton] = {}
        self._own: dict[Side, QPushButton] = {}
        for side in Side:
            columns.addLayout(self._column(side))
        outer.addLayout(columns)
        self.only_here: QPushButton | None = None
        if here is not None and len(studio.breakdown.rounds) > 1:
            self.only_here = button(f"Only in {here.name}", lambda: None, tip="Others are on the mat in other rounds")
            self.only_here.setCheckable(True)
            self.only_here.setChecked(own)
            outer.addWidget(self.only_here, 0, Qt.AlignmentFlag.AlignLeft)
        self._follow()
        studio.changed.connect(self._follow)

    def _column(self, side: Side) -> QVBoxLayout:
        column = layouts.column(spacing=4)
        head: QLabel = label("Disc" if side is Side.FIRST else "Square", soft=True)
        column.addWidget(head)
        name, kit = QLineEdit(), QLineEdit()
        name.setStyleSheet("QLineEdit { font-size: 15px; font-weight: 600; }")
        name.setAccessibleName("Name")
        kit.setPlaceholderText("kit, as in “marigold sleeves”")
        kit.setAccessibleName("Kit")
        for field in (name, kit):
            field.setMinimumWidth(190)
            column.addWidget(field)
        name.editingFinished.connect(lambda: self._change(side, name=name.text().strip()))
        kit.editingFinished.connect(lambda: self._change(side, kit=kit.text().strip()))
        self.names[side], self.kits[side] = name, kit
        for first in range(0, len(KITS), IN_ROW):
            row = layouts.row(spacing=4)
            for colour in KITS[first : first + IN_ROW]:
                made = button("", partial(self._paint, side, colour), tip=f"Colour of the kit {colour}")
                made.setFixedSize(22, 22)
                self._swatches[side, colour] = made
                row.addWidget(made)
            row.addStretch(1)
            column.addLayout(row)
        own = button("Another colour…", partial(self._own_colour, side), tip="Any colour for the kit", kind="quiet")
        self._own[side] = own
        column.addWidget(own, 0, Qt.AlignmentFlag.AlignLeft)
        return column

    def open_at(self, place: QPoint) -> None:
        """Show the sheet with the first name ready to be written over."""
        self.adjustSize()
        self.move(place)
        self.show()
        self.names[Side.FIRST].setFocus()
        self.names[Side.FIRST].selectAll()

    def _own_colour(self, side: Side) -> None:
        """Any colour there is."""
        now = QColor(self._studio.breakdown.athlete(side, self._round.start if self._round else None).kit_colour)
        chosen = QColorDialog.getColor(now, self.parentWidget(), "Colour of the kit")
        if chosen.isValid():
            self._paint(side, chosen.name().upper())

    def _paint(self, side: Side, colour: str) -> None:
        self._change(side, kit_colour=colour)

    def _change(self, side: Side, **changes: str) -> None:
        """Change what is really another now; a name is never emptied."""
        now = self._studio.breakdown.athlete(side, self._round.start if self._round else None)
        new = {k: v for k, v in changes.items() if getattr(now, k) != v and (v or k != "name")}
        if new:
            only = self._round.id if self._round and self.only_here and self.only_here.isChecked() else ""
            self._studio.edit(
                "say who is on the mat", lambda b: edit_log.change_athlete(b, side, only, **new)
            )  # fmt: skip

    def _follow(self) -> None:
        b = self._studio.breakdown
        self._round = next((r for r in b.rounds if self._round and r.id == self._round.id), None)
        for side in Side:
            who = b.athlete(side, self._round.start if self._round else None)
            self.names[side].setText(who.name)
            self.kits[side].setText(who.kit)
            for colour in KITS:
                edge = INK if colour.casefold() == who.kit_colour.casefold() else PAPER_LINE
                wide = 3 if edge == INK else 1
                look = f"background: {colour}; border: {wide}px solid {edge}; border-radius: 4px; padding: 0;"
                self._swatches[side, colour].setStyleSheet(look)
            known = who.kit_colour.upper() in {colour.upper() for colour in KITS}
            self._own[side].setText("Another colour…" if known else f"Another colour… ({who.kit_colour.upper()})")
