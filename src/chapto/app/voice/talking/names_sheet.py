"""What was said in a talk for the log: names to be ticked, and scores that are not the log's."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial

from PyQt6.QtWidgets import QPushButton, QWidget

from chapto.app import layouts
from chapto.app.frame.over_sheet import OverSheet
from chapto.app.studio import Studio
from chapto.app.widgets import button, label
from chapto.app.write.tick_row import TickRow
from chapto.publish.scores_said import ScoreSaid
from chapto.publish.talks.named_in_talk import NameSaid, take_names

SIZE = 640, 460
NO_NAMES = "Every technique and position you named is in the log."


class NamesSheet(OverSheet):
    """Lies over `window` with what was `said`, all of it ticked, and `scores` to `look` at."""

    def __init__(
        self,
        window: QWidget,
        studio: Studio,
        said: tuple[NameSaid, ...],
        scores: tuple[ScoreSaid, ...] = (),
        look: Callable[[ScoreSaid], object] = lambda score: None,
    ) -> None:
        super().__init__(window, "Names that were said", SIZE)
        self._studio = studio
        column = layouts.column(self.sheet, margins=(30, 22, 26, 18), spacing=4)
        head = layouts.row()
        head.addWidget(label("What you named, for the log", size="title"), 1)
        self.main = button("Log them", self.act, tip="Put what is ticked into the log", key="Return", kind="main")
        head.addWidget(self.main)
        column.addLayout(head)
        self.main.setVisible(bool(said))
        about = "A technique is that of its exchange, or a label where you said it; a position holds from there on."
        column.addWidget(label(about if said else NO_NAMES, soft=True, wrap=True))
        column.addSpacing(8)
        self.ticks: list[tuple[TickRow, NameSaid]] = []
        for name in said:
            kind = "technique" if name.is_technique else "position"
            tick = TickRow(name.before, "", name.item.en, f"{name.after} · {kind}")
            tick.setAccessibleName(f"Log the {kind} “{name.item.en}”")
            column.addWidget(tick)
            self.ticks.append((tick, name))
        self.looks: list[QPushButton] = []
        if scores:
            column.addSpacing(14)
            column.addWidget(label("Scores that are not the log's", size="head"))
        for score in scores:
            row = layouts.row()
            row.addWidget(label(score.sentence), 1)
            see = partial(self._see, score, look)
            shown = button("See it", see, tip="Put the picture there", kind="quiet")
            shown.setAccessibleName(f"See where you said “{score.words}”")
            row.addWidget(shown)
            column.addLayout(row)
            self.looks.append(shown)
        column.addStretch(1)
        self.show_over()
        first = self.ticks[0][0] if self.ticks else self.looks[0] if self.looks else self.main
        first.setFocus()

    def _see(self, score: ScoreSaid, look: Callable[[ScoreSaid], object]) -> None:
        self.leave()
        look(score)

    def act(self) -> None:
        """Log those that are ticked, in one step of undo."""
        wanted = [name for tick, name in self.ticks if tick.isChecked()]
        if wanted:
            count = "1 name" if len(wanted) == 1 else f"{len(wanted)} names"
            self._studio.edit(f"log {count}", lambda b: take_names(b, wanted))
        self.leave()
