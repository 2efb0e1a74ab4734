"""The Footage stage: every camera on the mat clock, what is wrong with it, and whether it may be shown."""

from __future__ import annotations

from collections.abc import Callable

from PyQt6.QtCore import Qt
from PyQt6.QtGui import QKeyEvent
from PyQt6.QtWidgets import QPushButton, QStackedWidget, QWidget

from chapto.app import layouts
from chapto.app.footage.chart import CoverageChart
from chapto.app.footage.chart_model import Stretch
from chapto.app.footage.file_sheet import FileSheet
from chapto.app.footage.line_up import LineUpView
from chapto.app.footage.rights_sheet import RightsSheet
from chapto.app.footage.settings_row import SettingsRow
from chapto.app.footage_analysis import FootageAnalysis
from chapto.app.jobs import Job
from chapto.app.screen.player import Player
from chapto.app.studio import Studio
from chapto.app.widgets import button, ground
from chapto.media.one_clock import Placement

KEYS = (
    ("Ctrl+I", "bring in videos"),
    ("K", "bring all files onto one clock"),
    ("1 … 9", "use that camera from here on"),
    ("0", "leave the camera to Chapto"),
    ("N  P", "next, previous stretch to decide"),
    ("Return", "take it so"),
    ("Delete", "throw it away, open it again"),
    (",  .", "its start, its end is here"),
    ("Up  Down", "look through another file"),
    ("L", "line the file up by hand"),
    ("R", "rights of all files and people at once"),
    ("+  −  *", "chart: closer, wider, whole"),
)


class FootagePage(QWidget):
    """Picture and chart on dark; the chosen file on paper."""

    def __init__(
        self,
        studio: Studio,
        player: Player,
        desk: FootageAnalysis,
        screen: QWidget,
        bring_in: Callable[[], object],
        start: QWidget,
    ) -> None:
        super().__init__()
        self._studio, self._desk = studio, desk
        self._files = studio.files
        self._clock_job: Job[tuple[Placement, ...]] | None = None
        self.chart = CoverageChart(studio, player, desk)
        self.line_up = LineUpView(studio, player)
        self.sheet = FileSheet(studio, desk, self.chart, self.begin_line_up)
        self._pictures = QStackedWidget()
        self._pictures.addWidget(screen)
        self._pictures.addWidget(self.line_up)
        left = layouts.split(Qt.Orientation.Vertical, self._pictures, self._below(), sizes=(322, 384), stretch=(1,))
        side = ground(QWidget(), "paper")
        column = layouts.column(side, spacing=0)
        inner = ground(QWidget(), "paper")
        layouts.column(inner, self.sheet)
        column.addWidget(layouts.scrolled(inner), 1)
        column.addWidget(self._foot(bring_in))
        side.setMinimumWidth(350)
        self._start, self._whole = start, QStackedWidget()
        self._whole.addWidget(start)
        self._whole.addWidget(layouts.split(Qt.Orientation.Horizontal, left, side, sizes=(806, 390), stretch=(1,)))
        layouts.column(self, self._whole)
        self.chart.lining_up.connect(self.begin_line_up)
        self.chart.file_chosen.connect(lambda _: self._follow())
        self.sheet.rights_asked.connect(self.open_rights)
        self.line_up.done.connect(self.end_line_up)
        studio.changed.connect(self._follow)
        self._files.moved.connect(self._follow)
        desk.changed.connect(self._follow)
        self._follow()

    def begin_line_up(self) -> None:
        """Show two pictures instead of one, to line the chosen file up by hand."""
        if self.chart.chosen_file and len(self._studio.breakdown.footage) > 1:
            self._pictures.setCurrentWidget(self.line_up)
            self.line_up.begin(self.chart.chosen_file)

    def end_line_up(self) -> None:
        """Back to the one picture."""
        self._pictures.setCurrentIndex(0)
        self.chart.setFocus()

    def one_clock(self) -> None:
        """Bring all files onto one clock, or stop that."""
        if self._clock_job is not None:
            self._clock_job.stop()
            return
        waiting = [
            c for c in self._studio.breakdown.footage if c.id in self._files.places and c.id not in self._files.sounds
        ]
        if waiting:
            self._studio.message.emit("The sound is still being read; try again in a moment.")
            return
        self._clock_job = self._desk.one_clock()
        self._clock_job.ended.connect(self._clock_ended)
        self._follow()

    def open_rights(self) -> None:
        """The rights of all files and people at once, over the window."""
        RightsSheet(self.window() or self, self._studio)

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        """Keys that the chart leaves to the stage."""
        assert event is not None
        key = event.text().lower()
        if key == "k":
            self.one_clock()
        elif key == "l":
            self.begin_line_up()
        elif key == "r":
            self.open_rights()
        else:
            super().keyPressEvent(event)

    def is_settled(self) -> bool:
        """Whether every picture in view has arrived and every file was looked into."""
        lined = self._pictures.currentIndex() == 0 or self.line_up.pair.is_settled()
        return lined and self.chart.film.is_settled() and self._desk.is_done()

    def waiting(self) -> tuple[Stretch, ...]:
        """The stretches that wait for a decision."""
        return self.chart.model.open_stretches

    def close_feeds(self) -> None:
        """End the threads that fetch pictures."""
        self.chart.film.close()
        self.line_up.close_feed()

    # ── inside ───────────────────────────────────────────────────────────────────────────────────────────
    def _below(self) -> QWidget:
        holder = ground(QWidget(), "dark")
        column = layouts.column(holder, spacing=0)
        bar = layouts.row(margins=(12, 6, 12, 6))
        self._clock: QPushButton = button(
            "", self.one_clock, tip="Find where every file lies by its sound", key="K", sign="lace", dark=True
        )
        bar.addWidget(self._clock)
        self._next: QPushButton = button(
            "", self._to_next, tip="Go to the next stretch to decide", key="N", sign="forward", dark=True
        )
        bar.addWidget(self._next)
        bar.addStretch(1)
        self._settings = SettingsRow(self._studio)
        bar.addWidget(self._settings)
        column.addLayout(bar)
        column.addWidget(layouts.scrolled(self.chart), 1)
        return holder

    def _foot(self, bring_in: Callable[[], object]) -> QWidget:
        foot = ground(QWidget(), "paper")
        row = layouts.row(foot, margins=(20, 8, 16, 10))
        row.addWidget(
            button("Bring in videos", bring_in, tip="Bring in videos", key="Ctrl+I", sign="plus", kind="main")
        )
        return foot

    def _follow(self) -> None:
        b = self._studio.breakdown
        ids = [c.id for c in b.footage]
        if self.chart.chosen_file not in ids and ids:
            self.chart.chosen_file = ids[0]
        self._whole.setCurrentIndex(1 if ids else 0)
        self.setFocusProxy(self.chart if ids else self._start)
        self.sheet.follow()
        waiting = len(self.chart.model.open_stretches)
        self._next.setText(f"{waiting} to decide" if waiting else "Nothing to decide")
        self._next.setEnabled(bool(waiting))
        self._clock.setText("Stop" if self._clock_job is not None else "Bring onto one clock")
        self._clock.setEnabled(len(ids) > 1)

    def _to_next(self) -> None:
        """The next stretch to decide, and the keys that decide it."""
        self.chart.next_open()
        self.chart.setFocus()

    def _clock_ended(self) -> None:
        self._clock_job = None
        self._follow()
