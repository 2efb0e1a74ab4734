"""The slip of the chosen mark: its words, and what else there is to say of it."""

from __future__ import annotations

from collections.abc import Callable

from PyQt6.QtWidgets import QLineEdit, QWidget

from chapto.app import layouts
from chapto.app.mark.acts import MarkActs
from chapto.app.widgets import button, ground, label, show_begin
from chapto.document.breakdown import Breakdown
from chapto.document.mark_kinds import RULES, MarkKind
from chapto.document.marks import Mark, Until

UNTIL = {Until.HOLD: "until the hold ends", Until.BEAT: "until the line ends", Until.SECONDS: "for {0:g} s"}


class SlipLine(QWidget):
    """Shows one mark; every press is one edit. `fact` is what may be said of it."""

    def __init__(self, acts: MarkActs, done: Callable[[], object]) -> None:
        super().__init__()
        self._acts = acts
        self._mark: Mark | None = None
        self.fact = ""
        ground(self, "paper")
        self.words = QLineEdit()
        self.words.setPlaceholderText("No slip. Write what it should say.")
        self.words.setAccessibleName("Words on the slip")
        self.words.editingFinished.connect(self._written)
        self.words.returnPressed.connect(self.words.deselect)
        self.words.returnPressed.connect(lambda: done())
        self._owner = button("", self._act(acts.next_owner), tip="Whose it is", key="1", kind="quiet")
        self._until = button("", self._act(acts.next_until), tip="How long it stays", key="U", kind="quiet")
        self._state = button("", self._act(acts.next_state), tip="How it stands", key="R", kind="quiet")
        self._size = button("", self._act(lambda m: acts.larger(m, 1)), tip="Larger", key="+", kind="quiet")
        self._fact = button("", self.show_fact, tip="What was measured stands on the slip", key="Q", kind="quiet")
        self._write = button("Into the script", self.into_script, tip="Write it there", key="Shift+Q", kind="quiet")
        self._said = label("", soft=True, wrap=True)
        first = layouts.row(None, self._owner, self._until, self._state, self._size, spacing=2)
        first.addStretch(1)
        second = layouts.row(None, self._fact, self._write, spacing=2)
        second.addStretch(1)
        layouts.column(self, self.words, first, second, self._said, margins=(16, 8, 12, 8), spacing=3)

    def show_mark(self, b: Breakdown, mark: Mark | None, fact: str, trouble: str) -> None:
        """Show another mark, or the same as it is now."""
        self._mark, self.fact = mark, fact
        self.setVisible(mark is not None)
        if mark is None:
            return
        rule = RULES[mark.kind]
        show_begin(self.words, mark.words)
        covers = mark.kind is MarkKind.COVER
        self.words.setVisible(not covers)
        self._owner.setText(b.athlete(mark.of).name if mark.of is not None else "nobody’s")
        self._owner.setVisible(not covers)
        self._until.setText(UNTIL[mark.until].format(float(mark.seconds)) if not covers else _span(b, mark))
        self._state.setText(str(mark.stands) if mark.stands is not None else "")
        self._state.setVisible(bool(rule.states))
        self._size.setText(_size(mark))
        self._size.setVisible(rule.sized or rule.zoomed or rule.timed)
        self._fact.setText(("✓ " if mark.fact else "") + f"“{fact}”")
        self._fact.setVisible(bool(fact))
        self._write.setVisible(bool(fact) and bool(mark.beat))
        self._said.setText(trouble or _unsaid(mark, fact))
        self._said.setVisible(bool(self._said.text()))

    def show_fact(self) -> None:
        """What was measured stands on the slip, or not."""
        if self._mark is not None:
            self._acts.change(self._mark, "what a slip says", fact=not self._mark.fact)

    def into_script(self) -> None:
        """What was measured is written into the script."""
        if self._mark is not None:
            self._acts.fact_into_script(self._mark, self.fact)

    def _written(self) -> None:
        if self._mark is not None and self.words.text() != self._mark.words:
            self._acts.change(self._mark, "words on a slip", words=self.words.text().strip())

    def _act(self, act: Callable[[Mark], object]) -> Callable[[], object]:
        return lambda: act(self._mark) if self._mark is not None else None


def _size(mark: Mark) -> str:
    rule, parts = RULES[mark.kind], []
    if rule.sized:
        parts.append(f"{mark.size:.0%} high")
    if rule.zoomed:
        parts.append(f"{float(mark.zoom):g}×")
    if rule.timed:
        parts.append(f"{float(mark.before):g} s back")
    return ", ".join(parts)


def _span(b: Breakdown, mark: Mark) -> str:
    if mark.span is None:
        return "in the whole file"
    return f"mat {float(mark.span[0]):.1f} – {float(mark.span[1]):.1f} s"


def _unsaid(mark: Mark, fact: str) -> str:
    """Why nothing may be said, where a kind could say something."""
    reasons = {
        MarkKind.LEVEL: "Whose hips are higher can be said when both figures are put down, with what rests on the mat.",
        MarkKind.BASE: "The weight can be told when the whole figure is put down, with what rests on the mat.",
        MarkKind.GAP: "A length can be told when a figure is put down to measure by.",
        MarkKind.KNEE_LINE: "How far the knee is can be told when a figure is put down to measure by.",
        MarkKind.PATH: "A length can be told when a figure is put down to measure by.",
    }
    return "" if fact else reasons.get(mark.kind, "")
