"""Typing what was heard and not known: each phrase is heard, typed, and Return goes to the next."""

from __future__ import annotations

from pathlib import Path

from PyQt6.QtWidgets import QLineEdit, QWidget

from chapto.app import layouts
from chapto.app.frame.over_sheet import OverSheet
from chapto.app.jobs import Job
from chapto.app.screen.player import Player
from chapto.app.studio import Studio
from chapto.app.voice.listening import source_of
from chapto.app.widgets import button, label
from chapto.clock.timecode import clock_text
from chapto.document.talks import Talk
from chapto.media.sound import RATE, FootageSound, load_sound
from chapto.publish.talks.typed import OpenPhrase, open_phrases, type_phrase
from chapto.store.fingerprint import find_media

SIZE = 640, 230
ROUND = 0.25
"""Seconds that are heard before a phrase and after it."""


class TypingSheet(OverSheet):
    """Lies over `window` with the open phrases of a talk, one after another."""

    def __init__(self, window: QWidget, studio: Studio, player: Player, talk: Talk) -> None:
        super().__init__(window, "Type what was said", SIZE)
        self._studio, self._player, self._talk_id = studio, player, talk.id
        self._sound: FootageSound | None = None
        self._passed = 0
        column = layouts.column(self.sheet, margins=(30, 22, 26, 18), spacing=8)
        head = layouts.row()
        self._title = label("", size="title")
        head.addWidget(self._title, 1)
        head.addWidget(button("Done", self.leave, tip="Leave the sheet", key="Esc"))
        column.addLayout(head)
        about = "What you hear is played as it comes. Return keeps it and plays the next; an empty line leaves it open."
        column.addWidget(label(about, soft=True, wrap=True))
        self.words = QLineEdit()
        self.words.setAccessibleName("What is said")
        self.words.setPlaceholderText("what is said")
        self.words.returnPressed.connect(self.keep)
        column.addWidget(self.words)
        row = layouts.row()
        row.addWidget(button("Hear it again", self.hear, tip="Play the phrase again", key="Ctrl+L"))
        row.addStretch(1)
        column.addLayout(row)
        column.addStretch(1)
        self.show_over()
        self._next()
        self._load(talk)

    @property
    def phrase(self) -> OpenPhrase | None:
        """The one that is typed."""
        left = self._left()
        return left[self._passed] if self._passed < len(left) else None

    def keep(self) -> None:
        """What was typed takes its place; an empty line leaves the phrase open."""
        phrase, text = self.phrase, self.words.text().strip()
        if phrase is None:
            return
        if not text:
            self._passed += 1
        elif not self._studio.edit("type what was said", lambda b: type_phrase(b, self._talk_id, phrase, text)):
            return
        self.words.clear()
        self._next()

    def hear(self) -> None:
        """Play the phrase."""
        phrase, sound = self.phrase, self._sound
        if phrase is None or sound is None:
            return
        self._player.pause()
        first = max(round((float(phrase.start) - ROUND) * RATE), 0)
        count = min(round((float(phrase.end) + ROUND) * RATE), len(sound)) - first
        self._player.speaker.start(source_of(sound.read(first, count).mean(axis=1)), 0)

    def leave(self) -> None:
        """Fall silent."""
        self._player.speaker.stop()
        super().leave()

    def _left(self) -> tuple[OpenPhrase, ...]:
        b = self._studio.breakdown
        talk = next((t for t in b.talks if t.id == self._talk_id), None)
        return open_phrases(b, talk) if talk is not None else ()

    def _next(self) -> None:
        phrase = self.phrase
        if phrase is None:
            self.leave()
            return
        left = len(self._left()) - self._passed
        more = "the last one" if left == 1 else f"{left} to go"
        self._title.setText(f"Heard at {clock_text(phrase.start)}, {more}")
        self.words.setFocus()
        self.hear()

    def _load(self, talk: Talk) -> None:
        project = self._studio.session.path

        def work(progress: object, stopped: object) -> FootageSound:
            assert project is not None
            place: Path = find_media(talk.path, talk.fingerprint, project, what="talk")
            return load_sound(place, talk.fingerprint)

        def loaded(sound: FootageSound) -> None:
            self._sound = sound
            self.hear()

        self._studio.workers.run_short(Job("The sound of the talk", work).then(loaded))
