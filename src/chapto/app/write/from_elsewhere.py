"""Scripts from elsewhere: pasted, or opened from a file."""

from __future__ import annotations

from pathlib import Path

from PyQt6.QtCore import QObject, pyqtSignal
from PyQt6.QtWidgets import QWidget

from chapto.app.choosing import Choosing
from chapto.app.studio import Studio
from chapto.document.breakdown import Breakdown
from chapto.errors import ChaptoError
from chapto.publish.scripts.incoming import Incoming, incoming, put_into
from chapto.publish.scripts.parts import ImportedSection
from chapto.publish.scripts.plain_text import parts_of
from chapto.publish.scripts.read import read_script

KINDS = "Scripts (*.txt *.md *.srt *.vtt)"


class FromElsewhere(QObject):
    """Brings scripts into the document; `asks` carries one about which something is to be said first, which `bring_in`
    takes up again. `arrived` carries the beats that came in (ids)."""

    asks = pyqtSignal(object)
    arrived = pyqtSignal(object)

    def __init__(self, studio: Studio, parent: QWidget) -> None:
        super().__init__(parent)
        self._studio, self._parent = studio, parent
        self._after = ""

    def open(self, after: str) -> None:
        """Choose a script to bring in behind a beat (by id; at the end where there is none)."""
        path = Choosing(self._parent, self._studio.preferences, "script").file("Open a script", KINDS)
        if path is not None:
            self.read(path, after)

    def read(self, path: Path, after: str) -> None:
        """Bring in the script in a file."""
        try:
            parts = read_script(path, self._known())
        except ChaptoError as error:
            self._studio.message.emit(str(error))
            return
        self._come(path.stem, parts, after)

    def paste(self, text: str, after: str) -> None:
        """Bring in a pasted script; one step of undo."""
        parts = parts_of(text, self._known())
        if parts:
            self._come("Pasted script", parts, after)

    def bring_in(self, script: Incoming) -> None:
        """Put a script into the document as it is answered."""
        p, after, known = self._studio.programme, self._after, {x.id for _, x in self._studio.breakdown.beats()}

        def change(b: Breakdown) -> Breakdown:
            section = next((s.id for s, x in b.beats() if x.id == after), "")
            return put_into(b, p, script, section, after if section else "")

        if self._studio.edit(f"bring in {script.name}", change):
            self.arrived.emit([x.id for _, x in self._studio.breakdown.beats() if x.id not in known])

    def _come(self, name: str, parts: tuple[ImportedSection, ...], after: str) -> None:
        self._after = after
        script = incoming(self._studio.breakdown, name, parts)
        if script.has_questions:
            self.asks.emit(script)
        else:
            self.bring_in(script)

    def _known(self) -> list[str]:
        return [mark for n in self._studio.breakdown.narrators for mark in (n.name, *n.written)]
