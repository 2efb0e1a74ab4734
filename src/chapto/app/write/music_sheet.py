"""Music on the paper of the script: what is there, under which licence, and where it plays."""

from __future__ import annotations

from fractions import Fraction
from functools import partial
from pathlib import Path
from typing import Any

from PyQt6.QtCore import QPoint
from PyQt6.QtWidgets import QHBoxLayout, QLineEdit, QMenu, QPushButton

from chapto.app import layouts
from chapto.app.choosing import Choosing
from chapto.app.jobs import Job
from chapto.app.menus import choice
from chapto.app.studio import Studio
from chapto.app.widgets import button, label
from chapto.app.write.paper_sheet import PaperSheet
from chapto.clock.timecode import clock_text
from chapto.document import edit_music
from chapto.document.edit_footage import stored_path
from chapto.document.music import Music
from chapto.media.sound import RATE, load_sound
from chapto.store.fingerprint import fingerprint

SOUNDS = "Music (*.wav *.flac *.mp3 *.ogg *.opus *.m4a);;All (*)"
PLACES = (("openings", "Openings"), ("cards", "Cards"), ("silences", "Silences"))
ABOUT = "Music is lowered under speech like the gym. Its licence stands in the credits; a hosting site may ask for it."


class MusicSheet(PaperSheet):
    """Follows the document while it is open."""

    def __init__(self, studio: Studio) -> None:
        super().__init__("Bring in music…", "Choose a sound file", "Back to the script")
        self._studio = studio
        self._shown: tuple[Music, ...] | None = None
        self.about.setText(ABOUT)
        studio.changed.connect(self._follow)

    def open(self) -> None:
        """Show what is there."""
        self._shown = None
        self._follow()
        self.main.setFocus()

    def act(self) -> None:
        """Choose a file."""
        path = Choosing(self, self._studio.preferences, "music").file("Bring in music", SOUNDS)
        if path is not None:
            self.bring_in(path)

    def bring_in(self, path: Path) -> None:
        """Bring in a sound file; what is none is said in a sentence."""

        def look(progress: object, stopped: object) -> tuple[str, Fraction]:
            mark = fingerprint(path)
            return mark, Fraction(len(load_sound(path, mark)), RATE)

        def put(found: tuple[str, Fraction]) -> None:
            mark, seconds = found
            stored = stored_path(path, self._studio.session.folder)
            add = partial(edit_music.add_music, name=path.stem, path=stored, fingerprint=mark, seconds=seconds)
            self._studio.edit(f"bring in {path.name}", add)
            self._studio.files.find()

        self._studio.workers.run_short(Job("Bringing in music", look).then(put))

    def _follow(self) -> None:
        music = self._studio.breakdown.music
        if music == self._shown or (self._shown is not None and not self.isVisible()):
            return
        same = self._shown is not None and [m.id for m in music] == [m.id for m in self._shown]
        self._shown = music
        if same and self.isAncestorOf(self.focusWidget()) and isinstance(self.focusWidget(), QLineEdit):
            return
        self.empty()
        self.title.setText("Music" if music else "No music yet")
        for m in music:
            self._row(m)
        self.lines.addStretch(1)

    def _row(self, m: Music) -> None:
        head = layouts.row()
        head.addWidget(label(m.name, size="head"))
        head.addWidget(label(clock_text(m.seconds), size="time", soft=True))
        head.addStretch(1)
        head.addWidget(self._switches(m))
        take_out = partial(edit_music.remove_music, music_id=m.id)
        head.addWidget(button("Take out", partial(self._studio.edit, "take out the music", take_out), kind="quiet"))
        self.lines.addLayout(head)
        self.lines.addLayout(self._words("Licence", "Which licence allows its use", m, "licence"))
        self.lines.addLayout(self._words("Named as", "As it stands in the credits", m, "credit"))

    def _switches(self, m: Music) -> QPushButton:
        on = [text for field, text in PLACES if getattr(m, field)]
        text = f"Under {', '.join(on).lower()}" if on else "Nowhere"
        made = button(text, lambda: self._where(m, made), tip="Where it plays, and how loud")
        return made

    def _where(self, m: Music, at: QPushButton) -> None:
        menu = QMenu(self)
        for field, text in PLACES:
            now = getattr(m, field)
            choice(menu, f"Under {text.lower()}", partial(self._change, m, field, not now), checked=now)
        for decibels in (3, -3):
            gain = m.gain + decibels
            choice(menu, f"{'Louder' if decibels > 0 else 'Quieter'}, to {float(gain):+g} dB",
                   partial(self._change, m, "gain", gain), checked=False)  # fmt: skip
        menu.exec(at.mapToGlobal(QPoint(0, at.height())))

    def _words(self, what: str, asked: str, m: Music, field: str) -> QHBoxLayout:
        row = layouts.row()
        row.addWidget(label(what, soft=True))
        line = QLineEdit(getattr(m, field))
        line.setPlaceholderText(asked)
        line.setAccessibleName(f"{what} of {m.name}")
        line.editingFinished.connect(lambda: self._change(m, field, line.text().strip()))
        row.addWidget(line, 1)
        return row

    def _change(self, m: Music, field: str, value: Any) -> None:
        now = next((x for x in self._studio.breakdown.music if x.id == m.id), None)
        if now is not None and getattr(now, field) != value:
            change = partial(edit_music.change_music, music_id=m.id, **{field: value})
            self._studio.edit("change the music", change)
