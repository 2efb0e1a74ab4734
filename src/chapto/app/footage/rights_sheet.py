"""Rights of all files and all people at once: each question that is still open, and one press that answers it."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from functools import partial

from PyQt6.QtWidgets import QHBoxLayout, QLineEdit, QPushButton, QWidget

from chapto.app import layouts
from chapto.app.frame.over_sheet import OverSheet
from chapto.app.studio import Studio
from chapto.app.widgets import button, label
from chapto.document import edit_rights
from chapto.document.breakdown import Breakdown
from chapto.document.clearance_checks import LAW

SIZE = 680, 470
"""Pixels of the sheet."""


@dataclass(frozen=True)
class Question:
    """What is asked, how many it is open for, the answer that one press gives, and what it does."""

    asked: str
    open_for: Callable[[Breakdown], int]
    of: str
    answer: str
    change: Callable[[Breakdown], Breakdown]


QUESTIONS = (
    Question("Is somebody hurt in it?", partial(edit_rights.open_files, question="hurt"), "file", "Nobody",
             partial(edit_rights.answer_all, question="hurt", answer=False)),
    Question("Is there music to be heard?", partial(edit_rights.open_files, question="music"), "file", "None",
             partial(edit_rights.answer_all, question="music", answer=False)),
    Question("Somebody else's commentary?", partial(edit_rights.open_files, question="commentary"), "file", "None",
             partial(edit_rights.answer_all, question="commentary", answer=False)),
    Question("May a still of it be the thumbnail?", partial(edit_rights.open_files, question="thumbnail"), "file",
             "It may", partial(edit_rights.answer_all, question="thumbnail", answer=True)),
    Question("Who can be seen?", partial(edit_rights.open_files, question="people"), "file", "The two on the mat",
             edit_rights.seen_in_all),
    Question("Do they agree to be shown?", edit_rights.not_agreed, "person", "All agreed",
             partial(edit_rights.agreed_all, how="asked")),
    Question("Are they of age?", edit_rights.of_unknown_age, "person", "All adults", edit_rights.adults_all),
)  # fmt: skip


class RightsSheet(OverSheet):
    """Lies over `window`. Only what is open is answered; what is otherwise for one file is changed at that file."""

    def __init__(self, window: QWidget, studio: Studio) -> None:
        super().__init__(window, "Rights of all files and people", SIZE)
        self._studio, self._preferences = studio, studio.preferences
        column = layouts.column(self.sheet, margins=(30, 22, 26, 18), spacing=9)
        head = layouts.row()
        head.addWidget(label("May it be shown?", size="title"), 1)
        head.addWidget(button("Done", self.leave, tip="Leave the sheet", key="Esc", kind="main"))
        column.addLayout(head)
        column.addWidget(
            label(
                "One press answers a question wherever it is still open. Answer only what is so.", soft=True, wrap=True
            )
        )
        column.addSpacing(6)
        column.addLayout(self._own_row())
        self.answers: list[QPushButton] = []
        self._lines = []
        for question in QUESTIONS:
            row = layouts.row(spacing=10)
            row.addWidget(label(question.asked, size="head"), 1)
            open_for = label("", soft=True)
            row.addWidget(open_for)
            made = button(question.answer, partial(self._answer, question), tip=f"{question.asked} {question.answer}")
            made.setMinimumWidth(150)
            row.addWidget(made)
            self.answers.append(made)
            self._lines.append((question, open_for, made))
            column.addLayout(row)
        column.addStretch(1)
        column.addWidget(label(LAW, soft=True, wrap=True))
        studio.changed.connect(self._follow)
        self._follow()
        self.show_over()
        (self.name if not self.name.text() else self.mine).setFocus()

    # ── inside ───────────────────────────────────────────────────────────────────────────────────────────
    def _own_row(self) -> QHBoxLayout:
        row = layouts.row(spacing=10)
        row.addWidget(label("Whose footage is it?", size="head"))
        self.name = QLineEdit(self._preferences.now.creator)
        self.name.setPlaceholderText("your name, as it stands in the credits")
        self.name.setAccessibleName("Your name, as it stands in the credits")
        self.name.returnPressed.connect(self._own)
        row.addWidget(self.name, 1)
        self._owned = label("", soft=True)
        row.addWidget(self._owned)
        self.mine = button("All mine", self._own, tip="Every file of which nobody is named is yours")
        self.mine.setMinimumWidth(150)
        row.addWidget(self.mine)
        return row

    def _own(self) -> None:
        name = self.name.text().strip()
        if self._studio.edit("all files are one's own", partial(edit_rights.own_all, name=name)):
            self._preferences.set(creator=name)

    def _answer(self, question: Question) -> None:
        self._studio.edit(f"{question.asked} {question.answer}", question.change)

    def _follow(self) -> None:
        b = self._studio.breakdown
        mine = edit_rights.open_files(b, "owner")
        self._owned.setText(_open_for(mine, "file"))
        self.mine.setEnabled(mine > 0)
        for question, open_for, made in self._lines:
            waiting = question.open_for(b)
            unknown = question.of == "person" and not b.people
            open_for.setText("nobody named" if unknown else _open_for(waiting, question.of))
            made.setEnabled(waiting > 0)


def _open_for(count: int, what: str) -> str:
    plural = {"file": "files", "person": "people"}[what]
    return f"open for {count} {what if count == 1 else plural}" if count else "answered"
