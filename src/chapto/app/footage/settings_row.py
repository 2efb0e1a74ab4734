"""Two things set for all breakdowns, beside what they change: how quiet is nothing, and how much room proxies take."""

from __future__ import annotations

from dataclasses import replace

import msgspec
from PyQt6.QtWidgets import QHBoxLayout, QWidget

from chapto.app.footage.desk import FootageDesk
from chapto.app.studio import Studio
from chapto.app.widgets import button, label
from chapto.errors import ChaptoError
from chapto.media.cache import cache_folders, make_room, room_taken
from chapto.store.settings import LARGEST_CACHE, SMALLEST_CACHE, Settings, load_settings, save_settings

ROOMS = (1, 2, 5, 10, 20, 50, 100, 200, 500)


class SettingsRow(QWidget):
    """Numbers with a less and a more."""

    def __init__(self, desk: FootageDesk, studio: Studio) -> None:
        super().__init__()
        self._desk, self._studio = desk, studio
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(4)
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
        studio.media_ready.connect(self._show)
        self._show()

    def _show(self) -> None:
        settings = load_settings()
        taken = room_taken(*cache_folders()) / 1e9
        self._go_on.setVisible(self._studio.is_waiting_for_proxies)
        self._quiet.setText(f"quiet under {self._desk.levels.quiet:.0%} of usual")
        self._room.setText(f"quick pictures {taken:.1f} of {settings.proxy_gigabytes} GB")

    def _take_up(self) -> None:
        self._studio.go_on()
        self._show()

    def _change_quiet(self, by: float) -> None:
        quiet = round(min(max(self._desk.levels.quiet + by, 0.05), 1.0), 2)
        self._keep(msgspec.structs.replace(load_settings(), quiet=quiet))
        self._desk.set_levels(replace(self._desk.levels, quiet=quiet))
        self._show()

    def _change_room(self, by: int) -> None:
        now = load_settings().proxy_gigabytes
        near = min(range(len(ROOMS)), key=lambda i: abs(ROOMS[i] - now))
        room = ROOMS[min(max(near + by, 0), len(ROOMS) - 1)]
        self._keep(
            msgspec.structs.replace(load_settings(), proxy_gigabytes=min(max(room, SMALLEST_CACHE), LARGEST_CACHE))
        )
        make_room(*cache_folders(), limit=room * 10**9)
        self._show()

    def _keep(self, settings: Settings) -> None:
        try:
            save_settings(settings)
        except ChaptoError as error:
            self._studio.said.emit(str(error))
