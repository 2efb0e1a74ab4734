"""The chosen finding on paper: its sentence, the value beside its limit, and what can be done with it."""

from __future__ import annotations

from collections.abc import Callable

from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtWidgets import QHBoxLayout, QLineEdit, QWidget

from chapto.app import layouts
from chapto.app.review.rows import Row
from chapto.app.widgets import Elided, Pressable, button, ground, label
from chapto.review.own_limits import as_typed

LONGEST = 34
"""Letters on the button that mends, at most; its tip has all of it."""
WIDE = 90
"""Pixels of the line in which a limit is typed."""


class FindingCard(QWidget):
    """Its signals say what is asked for: `leave` carries a reason, `answer` what was filled in, and `limit` a name with
    what was typed, nothing for the limit that ships."""

    go = pyqtSignal()
    mend = pyqtSignal()
    leave = pyqtSignal(str)
    open_again = pyqtSignal()
    answer = pyqtSignal(str)
    look = pyqtSignal()
    limit = pyqtSignal(str, str)

    def __init__(self) -> None:
        super().__init__()
        ground(self, "paper")
        self.row: Row | None = None
        self._sentence = label("", size="head", wrap=True)
        self._measured, self._source = label("", soft=True), Elided()
        self._limit = Pressable(self._type_limit)
        self._limit.setToolTip("Press to choose a limit of your own")
        self._typed = self._line("The limit", self._limit_typed)
        self._typed.setFixedWidth(WIDE)
        self._more = label("", soft=True, wrap=True)
        self._reason = self._line("Why may it stay as it is?", self._reason_given)
        self._reason.setPlaceholderText("Why may it stay as it is?  Enter keeps it")
        self._text = self._line("What is asked", self._answered)
        self.go_button = button("Go there", self.go.emit, tip="Go to where it is mended", key="G")
        self.mend_button = button("", self.mend.emit, tip="Mend it", key="M", kind="main", sign="tick")
        self.leave_button = button("Leave it…", self.ask_reason, tip="Leave it as it is, with a reason", key="L")
        self._again = button("Open it again", self.open_again.emit, tip="It is no longer left", key="L")
        self._look = button(
            "Look and listen", self.look.emit, tip="Look at the finished picture and listen", kind="main"
        )
        layouts.column(self, *self._lines(), margins=(16, 12, 14, 12), spacing=7)
        self.show_row(None)

    def _lines(self) -> tuple[QWidget | QHBoxLayout, ...]:
        values = layouts.row(None, self._measured, self._limit, self._typed, spacing=8)
        self._source.setAlignment(Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignVCenter)
        values.addWidget(self._source, 1)
        acts = layouts.row(None, self.mend_button, self._look, self.go_button, self.leave_button, self._again)
        acts.addStretch(1)
        return self._sentence, values, self._more, self._text, self._reason, acts

    def _line(self, name: str, done: Callable[[], object]) -> QLineEdit:
        made = QLineEdit()
        made.setAccessibleName(name)
        made.returnPressed.connect(done)
        return made

    def show_row(self, row: Row | None) -> None:
        """Show another finding, or none."""
        if row is not None and self.row is not None and row.key == self.row.key and self._reason.isVisible():
            # What is being typed stays.
            self.row = row
            return
        self.row = row
        x, waiver = (row.finding, row.waiver) if row is not None else (None, None)
        self._sentence.setText(row.text if row is not None else "")
        limit = x.limit if x is not None else None
        self._measured.setText(x.value if x is not None else "")
        self._limit.setText("" if limit is None else f"limit {limit.said(limit.value)}")
        self._source.say("" if limit is None else limit.source)
        for part in (self._measured, self._limit, self._source):
            part.setVisible(limit is not None)
        self._typed.hide()
        places = len(x.more) + 1 if x is not None and x.more else 0
        said = f"Left as it is: {waiver.reason}" if waiver is not None else ""
        self._more.setText(said or (f"{places} places; the strip shows each." if places else ""))
        self._more.setVisible(bool(self._more.text()))
        ask = x.ask if x is not None and waiver is None else None
        self._text.setVisible(ask is not None)
        if ask is not None and not self._text.hasFocus():
            self._text.setText(ask.text)
            self._text.setPlaceholderText(f"{ask.words}  Enter keeps it")
        self._reason.hide()
        mend = x.mend if x is not None and waiver is None else None
        self.mend_button.setText(_short(mend.words) if mend is not None else "")
        self.mend_button.setToolTip(f"{mend.words}  (M)" if mend is not None else "")
        self.mend_button.setVisible(mend is not None)
        self.go_button.setVisible(x is not None)
        self.leave_button.setVisible(x is not None and waiver is None and not (row and row.is_note))
        self._again.setVisible(waiver is not None)
        self._look.setVisible(row is not None and bool(row.why))
        weight = x.weight.means if x is not None else ""
        self._sentence.setToolTip(weight)

    def ask_reason(self) -> None:
        """Ask why it may stay; what is left already is opened again."""
        if self.row is None or self.row.finding is None:
            return
        if self.row.waiver is not None:
            self.open_again.emit()
            return
        self._reason.clear()
        self._reason.show()
        self._reason.setFocus()

    def cancel(self) -> bool:
        """Put away what is being asked; whether anything was."""
        asked = self._reason.isVisible() or self._typed.isVisible()
        self._reason.hide()
        self._typed.hide()
        self._limit.setVisible(bool(self._limit.text()))
        return asked

    def _reason_given(self) -> None:
        if self._reason.text().strip():
            self._reason.hide()
            self.leave.emit(self._reason.text())

    def _answered(self) -> None:
        if self._text.text().strip():
            self.answer.emit(self._text.text())

    def _type_limit(self) -> None:
        x = self.row.finding if self.row is not None else None
        if x is not None and x.limit is not None:
            self._limit.hide()
            self._typed.setText(as_typed(x.limit.value))
            self._typed.setPlaceholderText("as it ships")
            self._typed.show()
            self._typed.setFocus()
            self._typed.selectAll()

    def _limit_typed(self) -> None:
        x = self.row.finding if self.row is not None else None
        if x is not None and x.limit is not None:
            self.limit.emit(x.limit.name, self._typed.text().strip())
        self._typed.hide()
        self._limit.show()


def _short(words: str) -> str:
    """What a press does, as far as a button has room."""
    return words if len(words) <= LONGEST else f"{words[: LONGEST - 1].rstrip()}…"
