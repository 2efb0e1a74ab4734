"""A script that comes in, on the paper it will stand on: what is asked about it, and how it was read."""

from __future__ import annotations

from functools import partial

from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtGui import QKeySequence, QShortcut
from PyQt6.QtWidgets import QPushButton, QVBoxLayout, QWidget

from chapto.app import layouts
from chapto.app.studio import Studio
from chapto.app.widgets import button, ground, label
from chapto.app.write.incoming import NEW, Incoming, speaker_summary, summary, times_summary, voice_name
from chapto.clock.timecode import clock_text
from chapto.publish.scripts.times import TimesOf

SHOWN = 40
"""Beats shown of a script, to see how it was read."""
TIMES = (
    (TimesOf.MAT, "the mat", "The clock of the footage: what is seen at that second is spoken of"),
    (TimesOf.WATCH, "the finished video", "What the viewer sees at that second of the video is spoken of"),
)


class IncomingSheet(QWidget):
    """`taken` carries the script with its answers, `left` that it is not to come in."""

    taken = pyqtSignal(object)
    left = pyqtSignal()

    def __init__(self, studio: Studio) -> None:
        super().__init__()
        self._studio = studio
        self.script: Incoming | None = None
        ground(self, "paper")
        column = layouts.column(self, margins=(20, 14, 16, 12), spacing=8)
        self._title = label("", size="title", wrap=True)
        column.addWidget(self._title)
        self._about = label("", soft=True, wrap=True)
        column.addWidget(self._about)
        self._asked = layouts.column(spacing=6)
        column.addLayout(self._asked)
        self._beats = ground(QWidget(), "paper")
        self._lines = layouts.column(self._beats, margins=(0, 6, 8, 0), spacing=7)
        column.addWidget(layouts.scrolled(self._beats), 1)
        row = layouts.row()
        self._take = button("Bring it in", self.take, tip="Put it into the script", key="Return", kind="main")
        row.addWidget(self._take)
        row.addWidget(button("Not now", self.left.emit, tip="Leave the script as it is", key="Esc", kind="quiet"))
        row.addStretch(1)
        column.addLayout(row)
        for keys, act in (("Return", self.take), ("Enter", self.take), ("Esc", self.left.emit)):
            shortcut = QShortcut(QKeySequence(keys), self, act)
            shortcut.setContext(Qt.ShortcutContext.WidgetWithChildrenShortcut)

    def open(self, script: Incoming) -> None:
        """Ask about a script."""
        self._show(script)
        self._take.setFocus()

    def take(self) -> None:
        """Bring it in as it is answered now."""
        if self.script is not None:
            self.taken.emit(self.script)

    def _show(self, script: Incoming) -> None:
        self.script = script
        self._title.setText(script.name)
        self._about.setText(summary(self._studio.breakdown, script))
        _empty(self._asked)
        _empty(self._lines)
        if script.times is not None:
            self._ask_times(script)
        for speaker in script.asked:
            self._ask_who(script, speaker)
        beats = [beat for part in script.parts for beat in part.beats]
        for beat in beats[:SHOWN]:
            marks = [clock_text(beat.stamps[0][1])] if beat.stamps else []
            marks += [self._name(script, beat.speaker)] if beat.speaker else []
            line = layouts.column(spacing=0)
            if marks:
                line.addWidget(label("  ".join(marks), size="time", soft=True))
            line.addWidget(label(beat.text, wrap=True))
            self._lines.addLayout(line)
        if len(beats) > SHOWN:
            self._lines.addWidget(label(f"… and {len(beats) - SHOWN:,} beats more.", soft=True))
        self._lines.addStretch(1)

    def _ask_times(self, script: Incoming) -> None:
        row = layouts.row(spacing=6)
        row.addWidget(label(times_summary(script)))
        for times, text, tip in TIMES:
            made = button(text, partial(self._answer, script.with_times_of(times)), tip=tip)
            _stand(made, chosen=script.times is times)
            row.addWidget(made)
        row.addStretch(1)
        self._asked.addLayout(row)

    def _ask_who(self, script: Incoming, speaker: str) -> None:
        row = layouts.row(spacing=6)
        row.addWidget(label(speaker_summary(script, speaker)))
        narrators = [(n.id, n.name) for n in self._studio.breakdown.narrators]
        for narrator, text in (*narrators, (NEW, f"{voice_name(speaker)}, a new voice")):
            made = button(text, partial(self._answer, script.with_voice(speaker, narrator)))
            _stand(made, chosen=script.voices[speaker] == narrator)
            row.addWidget(made)
        row.addStretch(1)
        self._asked.addLayout(row)

    def _answer(self, script: Incoming) -> None:
        self._show(script)
        self._take.setFocus()

    def _name(self, script: Incoming, speaker: str) -> str:
        narrator = script.voices.get(speaker, NEW)
        known = next((n.name for n in self._studio.breakdown.narrators if n.id == narrator), "")
        return voice_name(speaker) if known in ("", "Narrator") else known


def _stand(made: QPushButton, *, chosen: bool) -> None:
    made.setCheckable(True)
    made.setChecked(chosen)


def _empty(column: QVBoxLayout) -> None:
    while item := column.takeAt(0):
        inner = item.layout()
        while inner is not None and (part := inner.takeAt(0)):
            if (widget := part.widget()) is not None:
                widget.deleteLater()
        if (widget := item.widget()) is not None:
            widget.deleteLater()
