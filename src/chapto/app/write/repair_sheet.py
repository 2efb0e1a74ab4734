"""Names written wrong, all at once: a list to tick on the paper of the script."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from chapto.app.studio import Studio
from chapto.app.write.paper_sheet import PaperSheet
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


class RepairSheet(PaperSheet):
    """`left` once they are written, too."""

    def __init__(self, studio: Studio) -> None:
        super().__init__("Write them", "Write all that are ticked")
        self._studio = studio
        self.ticks: list[tuple[TickRow, Repair]] = []
        self.about.setText("Ticked ones are written as the lexicon has them. Space ticks.")

    def open(self, found: Sequence[Repair]) -> None:
        """Show what could be put right, all of it ticked."""
        self.empty()
        self.ticks = []
        self.title.setText(f"{_names(len(found))} written wrong")
        for repair in found:
            tick = TickRow(repair.before, repair.slip.written, repair.slip.right, repair.after)
            self.lines.addWidget(tick)
            self.ticks.append((tick, repair))
        self.lines.addStretch(1)
        (self.ticks[0][0] if self.ticks else self.main).setFocus()

    def act(self) -> None:
        """Write those that are ticked, in one step of undo."""
        texts = {beat.id: beat.text for _, beat in self._studio.breakdown.beats()}
        wanted = [
            (repair.beat, repair.slip.first, repair.slip.end, repair.slip.right)
            for tick, repair in self.ticks
            if tick.isChecked() and stands(repair, texts.get(repair.beat, ""))
        ]
        if wanted:
            self._studio.edit(f"write {_names(len(wanted))}", lambda b: edit_script.replace_many(b, wanted))
        self.left.emit()


def _names(n: int) -> str:
    return f"{n} name{'' if n == 1 else 's'}"
