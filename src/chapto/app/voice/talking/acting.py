"""The hands of the stand-in talker: does with the player what its session says, when it says it."""

from __future__ import annotations

from dataclasses import replace
from fractions import Fraction
from pathlib import Path
from typing import Protocol

from PyQt6.QtCore import QObject, QTimer

from chapto.app.playhead import View
from chapto.app.screen.player import Player
from chapto.document.talks import Act, Acted, Moved, Pointed
from chapto.voice.recording.stand_in_talker import Performance

TOGETHER = Fraction(1, 5)
"""Mat seconds within which player and session show the same place."""
LOOK_EVERY = 10
"""Milliseconds between two looks at what is due."""


class Booth(Protocol):
    """What a hand can do in the booth."""

    def seconds(self) -> float:
        """How long the take is by now."""

    def point(self, x: float, y: float, pressed: bool) -> None:
        """Point at the picture."""

    def act(self, act: Act) -> None:
        """Press a key that says something."""

    def say_again(self, since: float) -> None:
        """What was said since a second is said again."""

    def stop(self) -> None:
        """End the take."""


class Acting:
    """Acts from now on; what it does goes the way a person's hands do, through player and booth."""

    def __init__(self, performance: Performance, booth: Booth, player: Player, parent: QObject) -> None:
        self._performance, self._booth, self._player = performance, booth, player
        done = performance.done
        rows: list[Moved | Pointed | Acted] = [*done.picture, *done.pointer, *done.acts]
        self._rows = sorted(rows, key=lambda row: row.at)
        self._timer = QTimer(parent)
        self._timer.setInterval(LOOK_EVERY)
        self._timer.timeout.connect(self._look)
        self._timer.start()

    def end(self) -> None:
        """Do nothing more."""
        self._timer.stop()

    def write_captions(self, recording: Path) -> Path:
        """Its words as a caption file beside its recording."""
        place = recording.with_suffix(".vtt")
        place.write_text(self._performance.captions(), "utf-8")
        return place

    def _look(self) -> None:
        while self._rows and float(self._rows[0].at) <= self._booth.seconds():
            row = self._rows.pop(0)
            if isinstance(row, Moved):
                self._show(row)
            elif isinstance(row, Pointed):
                self._booth.point(row.x, row.y, row.pressed)
            elif row.since is not None:
                self._booth.say_again(float(row.since))
            else:
                self._booth.act(row.act)
        if self._booth.seconds() >= float(self._performance.seconds):
            self._booth.stop()

    def _show(self, row: Moved) -> None:
        player = self._player
        if row.fro is not None and row.playing:
            player.put(replace(player.head, speed=row.rate))
            player.go_to_and_fro(*row.fro)
            return
        if player.playing and not row.playing:
            player.pause()
        # Where the session only goes on, the picture is not moved by what the two clocks differ.
        mat = player.head.mat if abs(player.head.mat - row.mat) < TOGETHER else row.mat
        player.put(replace(player.head, view=View.MAT, mat=mat, speed=row.rate))
        if row.playing and not player.playing:
            player.play()
