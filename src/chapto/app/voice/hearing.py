"""Hearing the take that is looked at, with its noise or without."""

from __future__ import annotations

from chapto.app.voice.acts import TakeActs
from chapto.app.voice.line_takes import LineTakes
from chapto.app.voice.listening import Listening


class Hearing:
    """Plays what `takes` looks at through `listening`."""

    def __init__(self, listening: Listening, takes: LineTakes, acts: TakeActs) -> None:
        self._listening, self._takes, self._acts = listening, takes, acts
        self._soon = False

    def toggle(self) -> None:
        """Hear it, or fall silent."""
        looked = self._takes.looked
        if self._listening.is_on:
            self._listening.stop()
        elif looked.line is not None and looked.heard is not None:
            self._listening.hear(looked.line, looked.heard)

    def cleaned_or_not(self) -> None:
        """Hear it the other way: cleaned, or as it was recorded."""
        self._acts.clean_or_not()
        self._soon = True

    def follow(self) -> None:
        """What was asked for may be there now."""
        if self._soon and self._takes.is_settled:
            self._soon = False
            self._listening.stop()
            self.toggle()
