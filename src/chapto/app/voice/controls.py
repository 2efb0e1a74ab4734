"""Under the prompter: record and keep, the level of the microphone, and a sentence on what comes next."""

from __future__ import annotations

from collections.abc import Callable

from PyQt6.QtCore import QTimer
from PyQt6.QtWidgets import QWidget

from chapto.app import layouts
from chapto.app.voice.booth import Booth, State
from chapto.app.voice.level_thread import LevelThread
from chapto.app.voice.rows import said_of
from chapto.app.widgets import button, ground, label
from chapto.clock.timecode import clock_text

LOOK_EVERY = 50
"""Milliseconds between two looks at the level."""


class RecordControls(QWidget):
    """`record`, `keep` and `talk` are what the buttons do; the sentence follows the booth."""

    def __init__(
        self, booth: Booth, record: Callable[[], object], keep: Callable[[], object], talk: Callable[[], object]
    ) -> None:  # fmt: skip
        super().__init__()
        self._booth = booth
        ground(self, "paper")
        row = layouts.row(self, margins=(20, 6, 18, 8), spacing=10)
        self.record_button = button("Record", record, tip="Record this line, and stop", key="R", kind="main")
        self.record_button.setMinimumWidth(92)
        self.keep_button = button("Keep it", keep, tip="Keep it and go to the next line", key="Return", kind="main")
        self.again_button = button("Once more", record, tip="Read this line again", key="R")
        self.talk_button = button(
            "Talk while watching", talk, tip="Watch and talk; what you do with the picture becomes the edit", key="W"
        )  # fmt: skip
        for made in (self.record_button, self.talk_button, self.keep_button, self.again_button):
            row.addWidget(made)
        self.sentence = label("", soft=True, wrap=True)
        row.addWidget(self.sentence, 1)
        self.level = LevelThread()
        row.addWidget(self.level)
        self._timer = QTimer(self)
        self._timer.setInterval(LOOK_EVERY)
        self._timer.timeout.connect(self._look)
        booth.changed.connect(self._follow)
        self._follow()

    def _follow(self) -> None:
        state = self._booth.state
        self.record_button.setText({State.RECORDING: "Stop", State.FINDING: "Finding…"}.get(state, "Record"))
        self.record_button.setEnabled(state is not State.FINDING)
        for made, offering in ((self.record_button, False), (self.keep_button, True), (self.again_button, True)):
            made.setVisible((state is State.OFFERING) is offering)
        self.talk_button.setVisible(state is State.IDLE)
        self.level.setVisible(state is State.RECORDING)
        if state is State.RECORDING:
            self._timer.start()
        else:
            self._timer.stop()
            self.level.rest()
        self.sentence.setText(self._sentence())

    def _sentence(self) -> str:
        booth = self._booth
        if booth.state is State.IDLE:
            return "R records this line, Shift+R the section, Alt+R all. The picture starts two seconds before."
        if booth.state is State.FINDING:
            return "Finding every word of it."
        if booth.state is State.OFFERING and booth.offer is not None:
            lines = [line for take in booth.offer.takes for line in take.lines.values()]
            found = [line for line in lines if line is not None]
            if not found:
                return "None of these words were found in it. R reads it once more, Return keeps it all the same."
            if len(lines) == 1:
                return f"{found[0].end - found[0].start:.1f} s, {said_of(found[0])}. Return keeps it, R reads it again."
            missed = len(lines) - len(found)
            lost = f", {missed} are not in it" if missed else ""
            other = sum(line.differences for line in found)
            said = "as written" if not other else "1 word otherwise" if other == 1 else f"{other} words otherwise"
            return f"{len(found)} lines were found{lost}, {said}. Return keeps it, R reads this line again."
        return ""

    def _look(self) -> None:
        recorders = self._booth.recorders
        if recorders:
            meters = [r.meter for r in recorders]
            self.sentence.setText(f"Recording, {clock_text(recorders[0].seconds, tenths=True)}. R stops.")
            self.level.show_level(
                max(m.peak for m in meters), max(m.loudness for m in meters), max(m.loudest for m in meters),
                sum(m.clipped for m in meters),
            )  # fmt: skip
