"""What the creator sees beside the script while writing."""

from __future__ import annotations

from fractions import Fraction

from PyQt6.QtCore import QObject, pyqtSignal

from chapto.app.filmstrip import Filmstrip
from chapto.app.screen.player import Player
from chapto.app.studio import Studio
from chapto.pacing.offers import Peak


class ViewerContext(QObject):
    """The mat second on the screen, small pictures of others, and the way there: `gone` carries a beat and a word;
    `busiest` finds where most happens."""

    gone = pyqtSignal(str, int)

    def __init__(self, studio: Studio, player: Player, busiest: Peak | None) -> None:
        super().__init__()
        self._studio, self._player = studio, player
        self.busiest = busiest
        self.film = Filmstrip(studio, exact=True)

    def looked_at(self) -> Fraction:
        """The mat second on the screen."""
        return self._player.head.seen_mat(self._studio.programme)

    def go(self, beat: str, word: int, mat: Fraction) -> None:
        """Show a moment, with the caret on the word tied to it."""
        self._player.show_mat(mat)
        self.gone.emit(beat, word)
