"""Names written wrong, all at once: a list to tick on the paper of the script."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtGui import QKeySequence, QShortcut
from PyQt6.QtWidgets import QWidget

from chapto.app import layouts
from chapto.app.studio import Studio
from chapto.app.widgets import button, ground, label
from chapto.app.write.tick_row import TickRow
from chapto.document import edit_script
from chapto.document.script import MARKS, words_of
from chapto.lexicon.spelling import Slip

AROUND = 4
"""Words shown on each side of a name."""


@dataclass(frozen=True)
class Repair:
    """One slip in a beat, with the words round it."""

    beat: str
    slip: Slip
    before: str
    after: str


def repairs(beat: str, text: str, slips: Sequence[Slip]) -> list[Repair]:
    """What could be put right in a beat."""
    words = words_of(text)
    return [
        Repair(beat, s, " ".join(words[max(s.first - AROUND, 0) : s.first]), " ".join(words[s.end : s.end + AROUND]))
        for s in slips
    ]


def stands(repair: Repair, text: str) -> bool:
    """Whether the words are still there: something may have been undone since the list was made."""
    return " ".join(w.strip(MARKS) for w in words_of(text)[repair.slip.first : repair.slip.end]) == repair.slip.written


class RepairSheet(QWidget):
    """`done` when it is put away."""

    done = pyqtSignal()

    def __init__(self, studio: Studio) -> None:
        super().__init__()
        self._studio = studio
        self.ticks: list[tuple[TickRow, Repair]] = []
        ground(self, "paper")
        column = layouts.column(self, margins=(20, 14, 16, 12), spacing=8)
        self._title = label("", size="title", wrap=True)
        column.addWidget(self._title)
        column.addWidget(label("Ticked ones are written as the lexicon has them. Space ticks.", soft=True, wrap=True))
        self._list = ground(QWidget(), "paper")
        self._lines = layouts.column(self._list, margins=(0, 4, 8, 0), spacing=3)
        column.addWidget(layouts.scrolled(self._list), 1)
        row = layouts.row()
        self._write = button("Write them", self.write, tip="Write all that are ticked", key="Return", kind="main")
        row.addWidget(self._write)
        row.addWidget(button("Not now", self.done.emit, tip="Back to the script", key="Esc", kind="quiet"))
        row.addStretch(1)
        column.addLayout(row)
        for keys, act in (("Return", self.write), ("Enter", self.write), ("Esc", self.done.emit)):
            shortcut = QShortcut(QKeySequence(keys), self, act)
            shortcut.setContext(Qt.ShortcutContext.WidgetWithChildrenShortcut)

    def open(self, found: Sequence[Repair]) -> None:
        """Show what could be put right, all of it ticked."""
        while item := self._lines.takeAt(0):
            if (widget := item.widget()) is not None:
                widget.deleteLater()
        self.ticks = []
        self._title.setText(f"{len(found)} name{'' if len(found) == 1 else 's'} written wrong")
        for repair in found:
            tick = TickRow(repair.before, repair.slip.written, repair.slip.right, repair.after)
            self._lines.addWidget(tick)
            self.ticks.append((tick, repair))
        self._lines.addStretch(1)
        (self.ticks[0][0] if self.ticks else self._write).setFocus()

    def write(self) -> None:
        """Write those that are ticked, in one step of undo."""
        texts = {beat.id: beat.text for _, beat in self._studio.breakdown.beats()}
        wanted = [
            (repair.beat, repair.slip.first, repair.slip.end, repair.slip.right)
            for tick, repair in self.ticks
            if tick.isChecked() and stands(repair, texts.get(repair.beat, ""))
        ]
        if wanted:
            what = f"write {len(wanted)} name{'' if len(wanted) == 1 else 's'}"
            self._studio.edit(what, lambda b: edit_script.replace_many(b, wanted))
        self.done.emit()
