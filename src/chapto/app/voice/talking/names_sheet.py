"""Names that were said in a talk, to be ticked for the log."""

from __future__ import annotations

from PyQt6.QtWidgets import QWidget

from chapto.app import layouts
from chapto.app.frame.over_sheet import OverSheet
from chapto.app.studio import Studio
from chapto.app.widgets import button, label
from chapto.app.write.tick_row import TickRow
from chapto.publish.talks.named_in_talk import NameSaid, take_names

SIZE = 640, 460


class NamesSheet(OverSheet):
    """Lies over `window` with what was `said`, all of it ticked."""

    def __init__(self, window: QWidget, studio: Studio, said: tuple[NameSaid, ...]) -> None:
        super().__init__(window, "Names that were said", SIZE)
        self._studio = studio
        column = layouts.column(self.sheet, margins=(30, 22, 26, 18), spacing=4)
        head = layouts.row()
        head.addWidget(label("What you named, for the log", size="title"), 1)
        self.main = button("Log them", self.act, tip="Put what is ticked into the log", key="Return", kind="main")
        head.addWidget(self.main)
        column.addLayout(head)
        about = "A technique is that of its exchange, or a label where you said it; a position holds from there on."
        column.addWidget(label(about, soft=True, wrap=True))
        column.addSpacing(8)
        self.ticks: list[tuple[TickRow, NameSaid]] = []
        for name in said:
            kind = "technique" if name.is_technique else "position"
            tick = TickRow(name.before, "", name.item.en, f"{name.after} · {kind}")
            tick.setAccessibleName(f"Log the {kind} “{name.item.en}”")
            column.addWidget(tick)
            self.ticks.append((tick, name))
        column.addStretch(1)
        self.show_over()
        (self.ticks[0][0] if self.ticks else self.main).setFocus()

    def act(self) -> None:
        """Log those that are ticked, in one step of undo."""
        wanted = [name for tick, name in self.ticks if tick.isChecked()]
        if wanted:
            count = "1 name" if len(wanted) == 1 else f"{len(wanted)} names"
            self._studio.edit(f"log {count}", lambda b: take_names(b, wanted))
        self.leave()
