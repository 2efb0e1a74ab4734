"""A script that comes in, on the paper it will stand on: what is asked about it, and how it was read."""

from __future__ import annotations

from functools import partial

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QPushButton

from chapto.app import layouts
from chapto.app.studio import Studio
from chapto.app.widgets import button, label
from chapto.app.write.paper_sheet import PaperSheet
from chapto.clock.timecode import clock_text
from chapto.publish.scripts.incoming import NEW, Incoming, speaker_summary, summary, times_summary, voice_name
from chapto.publish.scripts.times import TimesOf

SHOWN = 40
"""Beats shown of a script, to see how it was read."""
TIMES = (
    (TimesOf.MAT, "the mat", "The clock of the footage: what is seen at that second is spoken of"),
    (TimesOf.WATCH, "the finished video", "What the viewer sees at that second of the video is spoken of"),
)


class IncomingSheet(PaperSheet):
    """`taken` carries the script with its answers."""

    taken = pyqtSignal(object)

    def __init__(self, studio: Studio) -> None:
        super().__init__("Bring it in", "Put it into the script")
        self._studio = studio
        self.script: Incoming | None = None

    def open(self, script: Incoming) -> None:
        """Ask about a script."""
        self.script = script
        self.title.setText(script.name)
        self.about.setText(summary(self._studio.breakdown, script))
        self.empty()
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
            self.lines.addLayout(line)
        if len(beats) > SHOWN:
            self.lines.addWidget(label(f"… and {len(beats) - SHOWN:,} beats more.", soft=True))
        self.lines.addStretch(1)
        self.main.setFocus()

    def act(self) -> None:
        """Bring it in as it is answered now."""
        if self.script is not None:
            self.taken.emit(self.script)

    def _ask_times(self, script: Incoming) -> None:
        row = layouts.row(spacing=6)
        row.addWidget(label(times_summary(script)))
        for times, text, tip in TIMES:
            made = button(text, partial(self.open, script.with_times_of(times)), tip=tip)
            _stand(made, chosen=script.times is times)
            row.addWidget(made)
        row.addStretch(1)
        self.asked.addLayout(row)

    def _ask_who(self, script: Incoming, speaker: str) -> None:
        row = layouts.row(spacing=6)
        row.addWidget(label(speaker_summary(script, speaker)))
        narrators = [(n.id, n.name) for n in self._studio.breakdown.narrators]
        for narrator, text in (*narrators, (NEW, f"{voice_name(speaker)}, a new voice")):
            made = button(text, partial(self.open, script.with_voice(speaker, narrator)))
            _stand(made, chosen=script.voices[speaker] == narrator)
            row.addWidget(made)
        row.addStretch(1)
        self.asked.addLayout(row)

    def _name(self, script: Incoming, speaker: str) -> str:
        narrator = script.voices.get(speaker, NEW)
        known = next((n.name for n in self._studio.breakdown.narrators if n.id == narrator), "")
        return voice_name(speaker) if known in ("", "Narrator") else known


def _stand(made: QPushButton, *, chosen: bool) -> None:
    made.setCheckable(True)
    made.setChecked(chosen)
