"""The window for a file that can't be opened: what is wrong, and what can be done."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial
from pathlib import Path

from PyQt6.QtGui import QKeySequence, QShortcut
from PyQt6.QtWidgets import QPushButton, QWidget

from chapto.app import layouts
from chapto.app.earlier import about, when
from chapto.app.widgets import button, ground, label
from chapto.store.states import State


class DamagedPage(QWidget):
    """A sentence on dark, the ways on on paper. `restore` is asked for one of the earlier `states`."""

    def __init__(
        self,
        path: Path,
        sentence: str,
        states: tuple[State, ...],
        restore: Callable[[State], object],
        open_other: Callable[[], object],
    ) -> None:
        super().__init__()
        self.sentence = sentence
        self.restore_buttons: list[QPushButton] = []
        self.setWindowTitle(f"{path.name} · Chapto")
        self.resize(1280, 800)
        self.setMinimumSize(900, 600)
        whole = layouts.column(self, spacing=0)
        dark, paper = ground(QWidget(), "dark"), ground(QWidget(), "paper")
        above = layouts.column(dark, margins=(90, 40, 90, 30))
        below = layouts.column(paper, margins=(90, 34, 90, 40), spacing=8)
        above.addStretch(1)
        above.addWidget(label(path.name, size="title"))
        above.addSpacing(6)
        above.addWidget(label(sentence, size="head", wrap=True))
        below.addWidget(label("What can be done", size="title"))
        below.addWidget(label(f"The file is left as it is, in {path.parent}.", soft=True, wrap=True))
        below.addSpacing(8)
        if states:
            below.addWidget(label("Go on from what was saved earlier; the damaged file is kept beside it.", wrap=True))
        for state in states:
            row = layouts.row()
            chosen = button(when(state), partial(restore, state), kind="" if self.restore_buttons else "main")
            self.restore_buttons.append(chosen)
            chosen.setMinimumWidth(190)
            row.addWidget(chosen)
            row.addWidget(label(about(state), soft=True), 1)
            below.addLayout(row)
        if not states:
            below.addWidget(
                label("Nothing that was saved earlier is known here. A copy of your own may be whole.", wrap=True)
            )
        last = layouts.row()
        last.addWidget(button("Open another…", open_other, key="Ctrl+O"))
        last.addWidget(button("Close", self.close, key="Esc"))
        last.addStretch(1)
        below.addSpacing(16)
        below.addLayout(last)
        below.addStretch(1)
        whole.addWidget(dark, 1)
        whole.addWidget(paper, 3)
        QShortcut(QKeySequence("Ctrl+O"), self, open_other)
        QShortcut(QKeySequence("Esc"), self, self.close)
        if self.restore_buttons:
            self.restore_buttons[0].setFocus()
