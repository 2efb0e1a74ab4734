"""How much counts as quiet, beside the stretches it proposes, and quick pictures that were stopped."""

from __future__ import annotations

from functools import partial

from PyQt6.QtWidgets import QWidget

from chapto.app import layouts
from chapto.app.studio import Studio
from chapto.app.widgets import button, label

STEP = 0.05


class SettingsRow(QWidget):
    """Fewer or more quiet stretches; going on with quick pictures that were stopped."""

    def __init__(self, studio: Studio) -> None:
        super().__init__()
        self._preferences = studio.preferences
        self._files = studio.files
        row = layouts.row(self, spacing=4)
        self._go_on = button("Go on", self._take_up, tip="Make the quick pictures that are missing", dark=True)
        row.addWidget(self._go_on)
        row.addSpacing(10)
        self._quiet = label("Quiet stretches", soft=True)
        row.addWidget(self._quiet)
        for text, by, tip in (
            ("fewer", -STEP, "Propose fewer quiet stretches"),
            ("more", STEP, "Propose more of them"),
        ):
            row.addWidget(button(text, partial(self._change_quiet, by), tip=tip, kind="quiet", dark=True))
        self._files.ready.connect(self._show)
        self._preferences.changed.connect(self._show)
        self._show()

    def _show(self) -> None:
        self._go_on.setVisible(self._files.is_waiting_for_proxies)
        quiet = self._preferences.now.quiet
        self._quiet.setToolTip(f"Where less than {quiet:.0%} of what is usual in the file moves")

    def _take_up(self) -> None:
        self._files.find()
        self._show()

    def _change_quiet(self, by: float) -> None:
        self._preferences.set(quiet=round(self._preferences.now.quiet + by, 2))
