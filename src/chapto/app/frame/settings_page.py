"""What is set for all breakdowns, on a sheet over the window."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial
from pathlib import Path

from PyQt6.QtCore import Qt, QUrl
from PyQt6.QtGui import QDesktopServices
from PyQt6.QtWidgets import QLabel, QVBoxLayout, QWidget

from chapto.app import layouts
from chapto.app.frame.over_sheet import OverSheet
from chapto.app.preferences import Preferences
from chapto.app.widgets import button, ground, label
from chapto.media.cache import cache_folders, room_taken
from chapto.store.home import state_folder
from chapto.store.settings import LARGEST_CACHE, SMALLEST_CACHE, settings_path

SIZE = 660, 600
"""Pixels of the sheet."""
ROOMS = (SMALLEST_CACHE, 2, 5, 10, 20, 50, 100, 200, LARGEST_CACHE)


class SettingsPage(OverSheet):
    """Every line is a setting, as it is now, and what makes it less or more. Esc or a press beside the sheet leaves."""

    def __init__(self, window: QWidget, preferences: Preferences, show_keys: Callable[[], object]) -> None:
        super().__init__(window, "Settings", SIZE)
        self._preferences, self._show_keys = preferences, show_keys
        whole = layouts.column(self.sheet, margins=(0, 22, 0, 16), spacing=8)
        head = layouts.row(margins=(30, 0, 24, 0))
        head.addWidget(label("Settings", size="title"), 1)
        head.addWidget(button("Done", self.leave, tip="Leave the settings", key="Esc", kind="main"))
        whole.addLayout(head)
        inner = ground(QWidget(), "paper")
        self._column = layouts.column(inner, margins=(30, 4, 24, 8), spacing=7)
        whole.addWidget(layouts.scrolled(inner), 1)
        self._values: dict[str, QLabel] = {}
        self._taken = room_taken(*cache_folders()) / 1e9
        self._build()
        self._show()
        self._preferences.changed.connect(self._show)
        self.show_over()

    # ── inside ───────────────────────────────────────────────────────────────────────────────────────────
    def _build(self) -> None:
        column = self._column
        self._head("Reading")
        self._line("Size of letters and signs", "letters", *self._steps("letters", 0.1))
        column.addWidget(label("It changes when Chapto is started the next time.", soft=True))
        self._head("Logging")
        self._line("What you press while it plays counts earlier by", "reaction", *self._steps("reaction", 0.05))
        self._line("A stretch is quiet when less moves than", "quiet", *self._steps("quiet", 0.05))
        self._head("Room on the disk")
        self._line("For pictures and sound made ready", "room", partial(self._room, -1), partial(self._room, 1))
        column.addWidget(
            label("What is left out first was not used for longest; it is made again when it is needed.", soft=True)
        )
        self._head("Folders")
        for said, folder in (
            ("Pictures and sound made ready", cache_folders()[0].parent),
            ("Edits kept safe, and earlier states", state_folder()),
            ("Your own styles, rules and names", settings_path().parent),
        ):
            self._folder(said, folder)
        self._head("Keys")
        row = layouts.row()
        row.addWidget(label("F1 shows the keys of the stage that is open, and those that work everywhere."), 1)
        row.addWidget(button("Show them", self._keys, tip="The keys of this stage", key="F1"))
        column.addLayout(row)
        column.addStretch(1)

    def _head(self, text: str) -> None:
        if self._column.count():
            self._column.addSpacing(10)
        self._column.addWidget(label(text, size="head"))

    def _line(self, said: str, what: str, less: Callable[[], object], more: Callable[[], object]) -> None:
        row = layouts.row(spacing=8)
        row.addWidget(label(said), 1)
        value = label("", size="time")
        value.setMinimumWidth(150)
        value.setAlignment(Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter)
        self._values[what] = value
        row.addWidget(value)
        for text, act, tip in (("−", less, "less"), ("+", more, "more")):
            made = button(text, act, tip=f"{said}: {tip}")
            made.setFixedWidth(34)
            row.addWidget(made)
        self._column.addLayout(row)

    def _folder(self, said: str, folder: Path) -> None:
        row = layouts.row(spacing=8)
        names: QVBoxLayout = layouts.column(spacing=0)
        names.addWidget(label(said))
        place = label(str(folder), soft=True)
        place.setTextInteractionFlags(Qt.TextInteractionFlag.TextSelectableByMouse)
        place.setToolTip(str(folder))
        place.setMinimumWidth(60)
        names.addWidget(place)
        row.addLayout(names, 1)
        row.addWidget(button("Open", partial(_open, folder), tip=f"Open the folder: {said.lower()}"))
        self._column.addLayout(row)

    def _show(self) -> None:
        s = self._preferences.now
        for what, text in (
            ("letters", f"{s.letters:.0%}"),
            ("reaction", f"{s.reaction:.2f} s"),
            ("quiet", f"{s.quiet:.0%} of what is usual"),
            ("room", f"{self._taken:.1f} of {s.proxy_gigabytes} GB"),
        ):
            self._values[what].setText(text)

    def _steps(self, what: str, by: float) -> tuple[Callable[[], object], Callable[[], object]]:
        """A step less and a step more of a setting."""
        return partial(self._add, what, -by), partial(self._add, what, by)

    def _add(self, what: str, by: float) -> None:
        self._preferences.set(**{what: round(getattr(self._preferences.now, what) + by, 2)})

    def _room(self, by: int) -> None:
        now = self._preferences.now.proxy_gigabytes
        near = min(range(len(ROOMS)), key=lambda i: abs(ROOMS[i] - now))
        self._preferences.set(proxy_gigabytes=ROOMS[min(max(near + by, 0), len(ROOMS) - 1)])

    def _keys(self) -> None:
        self.leave()
        self._show_keys()


def _open(folder: Path) -> None:
    folder.mkdir(parents=True, exist_ok=True)
    QDesktopServices.openUrl(QUrl.fromLocalFile(str(folder)))
