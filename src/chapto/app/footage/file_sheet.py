"""The chosen file on paper: what it is, where it lies, what was found in it, whether it may be shown."""

from __future__ import annotations

from collections.abc import Callable
from datetime import datetime
from functools import partial

from PyQt6.QtCore import QPoint, Qt, pyqtSignal
from PyQt6.QtWidgets import QHBoxLayout, QMenu, QPushButton, QWidget

from chapto.app import layouts
from chapto.app.choosing import Choosing
from chapto.app.footage.chart import CoverageChart
from chapto.app.footage.chart_model import Stretch
from chapto.app.footage.clearance_sheet import ClearanceSheet
from chapto.app.footage.fields import Line
from chapto.app.footage.file_acts import FileActs
from chapto.app.footage_analysis import FootageAnalysis
from chapto.app.studio import Studio
from chapto.app.widgets import Pressable, button, ground, label
from chapto.clock.timecode import clock_text
from chapto.document.condition import ConditionKind
from chapto.document.footage import Footage
from chapto.media.probe import MediaInfo

ADVICE = {
    ConditionKind.FOGGED: "fogged",
    ConditionKind.BLOCKED: "view blocked",
    ConditionKind.SHAKY: "shaky",
    ConditionKind.STOPPED: "no picture",
    ConditionKind.IDLE: "nothing happens",
    ConditionKind.SIGNAL: "whistle or buzzer",
}


def facts_text(info: MediaInfo, dated: datetime | None = None) -> str:
    """What a file is, in two lines; `dated` is the file's own date, for one whose recorder did not say when."""
    rate = f"{float(info.fps):.4g} pictures a second, {'changing' if info.variable_rate else 'steady'}"
    turned = f", turned by {info.rotation}°" if info.rotation else ""
    made = f", filmed {info.made:%d %b %Y, %H:%M}" if info.made else f", file of {dated:%d %b %Y}" if dated else ""
    return f"{info.width}×{info.height}{turned}, {rate}{made}"


def written_text(info: MediaInfo) -> str:
    """How picture and sound are written in the file, for those who want to know."""
    depth = f"{info.codec}, {info.bit_depth} bit" + (", interlaced" if info.interlaced else "")
    channels = {0: "no sound", 1: "mono", 2: "stereo"}.get(info.sound_channels, f"{info.sound_channels} channels")
    return f"{depth}, {channels} {info.sound_rate / 1000:g} kHz" if info.has_sound else f"{depth}, {channels}"


class FoundRow(QWidget):
    """One stretch of the file: what, when, and the decision."""

    def __init__(self, chart: CoverageChart, s: Stretch) -> None:
        super().__init__()
        row = layouts.row(self, margins=(0, 1, 0, 1))
        what = Pressable(partial(chart.choose, s))
        what.setText(ADVICE[s.kind])
        when = label(f"{clock_text(s.start)}–{clock_text(s.end)}", size="time", soft=True)
        row.addWidget(what, 1)
        row.addWidget(when)
        if s.decision is None:
            row.addWidget(button("Take", partial(chart.decide, True, s), tip="Take it so", key="Return"))
            row.addWidget(button("No", partial(chart.decide, False, s), tip="Throw it away", key="Delete"))
        else:
            row.addWidget(label("taken", soft=True))
            row.addWidget(
                button(
                    "", partial(chart.decide, False, s), tip="Open it again", key="Delete", sign="undo", kind="quiet"
                )
            )


class FileSheet(QWidget):
    """Follows the chosen file of the chart. `rights_asked` when those of all files are wanted."""

    rights_asked = pyqtSignal()

    def __init__(
        self, studio: Studio, desk: FootageAnalysis, chart: CoverageChart, line_up: Callable[[], object]
    ) -> None:
        super().__init__()
        self._studio, self._desk, self._chart = studio, desk, chart
        self._files, self._acts = studio.files, FileActs(studio)
        ground(self, "paper")
        column = layouts.column(self, margins=(20, 14, 16, 14), spacing=5)
        self._name = Line("Name of the file", lambda t: self._put("name the file", name=t) if t else None)
        self._name.setStyleSheet("QLineEdit { font-size: 18px; font-weight: 600; }")
        named = layouts.row(None, self._name)
        named.addWidget(
            button(
                "",
                partial(self._do, self._acts.take_out),
                tip="Take this file out of the breakdown",
                sign="cross",
                kind="quiet",
            )
        )
        column.addLayout(named)
        camera = layouts.row()
        camera.addWidget(label("filmed with", soft=True))
        self._camera = Line(
            "camera: files of one recorder share a name", lambda name: self._put("say which camera it was", camera=name)
        )
        camera.addWidget(self._camera, 1)
        column.addLayout(camera)
        self._facts = label("", soft=True, wrap=True)
        column.addWidget(self._facts)
        self._place = label("", wrap=True)
        self._line_up: QPushButton = button("Line up…", line_up, tip="Bring it onto the clock by hand", key="L")
        place = layouts.row()
        place.addWidget(self._place, 1)
        place.addWidget(self._line_up, alignment=Qt.AlignmentFlag.AlignTop)
        column.addLayout(place)
        column.addLayout(self._buttons())
        self._missing = button("Find this file…", self._find, tip="Show where this file is now", kind="main")
        column.addWidget(self._missing)
        column.addSpacing(6)
        head = layouts.row()
        self._found_head = label("", size="head")
        head.addWidget(self._found_head, 1)
        self._mark = button("Mark…", self._marks, tip="Mark a stretch yourself, from the picture on", kind="quiet")
        head.addWidget(self._mark)
        column.addLayout(head)
        self._found = layouts.column(spacing=0)
        column.addLayout(self._found)
        self._rows: list[QWidget] = []
        self._shown: tuple[object, ...] = ()
        column.addSpacing(6)
        self.clearance = ClearanceSheet(studio)
        self.clearance.all_asked.connect(self.rights_asked)
        column.addWidget(self.clearance)
        column.addStretch(1)

    def _buttons(self) -> QHBoxLayout:
        row, acts = layouts.row(), self._acts
        self._main = button(
            "Main camera", partial(self._do, acts.to_main), tip="Use this camera wherever its picture is good"
        )
        self._mirrored = button(
            "Mirrored", partial(self._do, acts.mirror), tip="Filmed with a front camera: turn left and right back"
        )
        self._steady = button(
            "Steady", partial(self._do, acts.steady), tip="Take the shaking of a hand out of its picture"
        )
        for made in (self._main, self._mirrored, self._steady):
            made.setCheckable(True)
        row.addWidget(self._main)
        row.addWidget(self._mirrored)
        row.addWidget(self._steady)
        row.addStretch(1)
        return row

    def file(self) -> Footage | None:
        """The chosen file."""
        return next((c for c in self._studio.breakdown.footage if c.id == self._chart.chosen_file), None)

    def follow(self) -> None:
        """Take document and findings as they are now."""
        c = self.file()
        self.setVisible(c is not None)
        if c is None:
            return
        self._name.show_text(c.name)
        self._camera.show_text(c.camera_name)
        gone = c.id not in self._files.places
        self._missing.setVisible(gone)
        info = self._desk.facts.get(c.id)
        known = facts_text(info, self._desk.dates.get(c.id)) if info else "Looking into it…"
        self._facts.setText("The file is not where it was." if gone else known)
        self._facts.setToolTip(written_text(info) if info and not gone else "")
        self._place.setText(self._where(c))
        self._main.setChecked(self._acts.is_main(c))
        self._mirrored.setChecked(c.mirrored)
        self._steady.setChecked(c.steady)
        calm = self._studio.programme.readings.steady.get(c.id) if c.steady else None
        self._steady.setText("Steady" if calm is None else f"Steady −{calm.crop:.0%}")
        self._steady.setToolTip(
            "Take the shaking of a hand out of its picture" + (f"; {calm.crop:.0%} of it are cut off" if calm else "")
        )
        self._line_up.setEnabled(len(self._studio.breakdown.footage) > 1)
        self._stretches(c)
        self.clearance.show_file(c)

    def _where(self, c: Footage) -> str:
        text = f"{clock_text(c.duration, tenths=True)} long, from mat {clock_text(c.mat_in, tenths=True)}"
        if c.drift:
            an_hour = abs(float(c.drift)) * 3600
            text += f", its clock {an_hour:.2g} s an hour {'slow' if c.drift > 0 else 'fast'}"
        placed = self._desk.placements.get(c.id)
        return f"{text}\n{placed.sentence}" if placed else text

    def _stretches(self, c: Footage) -> None:
        lanes = (s for lane in self._chart.model.lanes for s in lane.stretches)
        stretches = [s for s in lanes if s.footage == c.id]
        now = (c.id, *((s.key, s.end, s.decision) for s in stretches))
        waiting = sum(s.decision is None for s in stretches)
        known = c.id in self._desk.readings
        head = f"Found here, {waiting} to decide" if waiting else ("Found here" if stretches else "Nothing wrong found")
        self._found_head.setText(head if known or stretches else "The picture is being looked at…")
        if now == self._shown:
            return
        self._shown = now
        for row in self._rows:
            self._found.removeWidget(row)
            row.hide()
            row.deleteLater()
        self._rows = [FoundRow(self._chart, s) for s in stretches]
        for row in self._rows:
            self._found.addWidget(row)

    def _marks(self) -> None:
        menu = QMenu(self)
        for kind, name in ADVICE.items():
            menu.addAction(f"{name}, from here on", partial(self._chart.mark, kind))
        menu.exec(self._mark.mapToGlobal(QPoint(0, self._mark.height())))

    def _put(self, what: str, **changes: object) -> None:
        self._do(lambda c: self._acts.put(c, what, **changes))

    def _do(self, act: Callable[[Footage], object]) -> None:
        """Do it to the chosen file, and show the buttons as the document has it even where it was refused."""
        c = self.file()
        if c is not None:
            act(c)
            self.follow()

    def _find(self) -> None:
        c = self.file()
        if c is None:
            return
        place = Choosing(self, self._studio.preferences, "video").file(f"Where is “{c.name}” now?", "All (*)")
        if place is not None:
            self._desk.relink(c.id, place)
