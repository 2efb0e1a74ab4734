"""Two things set for all breakdowns, beside what they change: how quiet is nothing, and how much room proxies take."""

from __future__ import annotations

from PyQt6.QtWidgets import QWidget

from chapto.app import layouts
from chapto.app.studio import Studio
from chapto.app.widgets import button, label
from chapto.media.cache import cache_folders, room_taken

ROOMS = (1, 2, 5, 10, 20, 50, 100, 200, 500)


class SettingsRow(QWidget):
    """Numbers with a less and a more."""

    def __init__(self, studio: Studio) -> None:
        super().__init__()
        self._preferences = studio.preferences
        self._files = studio.files
        row = layouts.row(self, spacing=4)
        self._quiet = label("", soft=True)
        row.addWidget(self._quiet)
        row.addWidget(button("−", lambda: self._change_quiet(-0.05), tip="Propose fewer quiet stretches", dark=True))
        row.addWidget(button("+", lambda: self._change_quiet(0.05), tip="Propose more quiet stretches", dark=True))
        row.addSpacing(14)
        self._room = label("", soft=True)
        row.addWidget(self._room)
        row.addWidget(
            button(
                "−", lambda: self._change_room(-1), tip="Less room for quick pictures, sound and guide voice", dark=True
            )
        )
        row.addWidget(
            button(
                "+", lambda: self._change_room(1), tip="More room for quick pictures, sound and guide voice", dark=True
            )
        )
        self._go_on = button("Go on", self._take_up, tip="Make the quick pictures that are missing", dark=True)
        row.addWidget(self._go_on)
        self._files.ready.connect(self._show)
        self._preferences.changed.connect(self._show)
        self._show()

    def _show(self) -> None:
        settings = self._preferences.now
        taken = room_taken(*cache_folders()) / 1e9
        self._go_on.setVisible(self._files.is_waiting_for_proxies)
        self._quiet.setText(f"quiet under {settings.quiet:.0%} of usual")
        self._room.setText(f"quick pictures {taken:.1f} of {settings.proxy_gigabytes} GB")

    def _take_up(self) -> None:
        self._files.find()
        self._show()

    def _change_quiet(self, by: float) -> None:
        self._preferences.set(quiet=round(self._preferences.now.quiet + by, 2))

    def _change_room(self, by: int) -> None:
        now = self._preferences.now.proxy_gigabytes
        near = min(range(len(ROOMS)), key=lambda i: abs(ROOMS[i] - now))
        self._preferences.set(proxy_gigabytes=ROOMS[min(max(near + by, 0), len(ROOMS) - 1)])
