"""The bar under the picture: play, step, which view, how fast."""

from __future__ import annotations

from collections.abc import Callable
from fractions import Fraction
from functools import partial

from PyQt6.QtCore import QSize
from PyQt6.QtWidgets import QPushButton, QWidget

from chapto.app import layouts
from chapto.app.playhead import View
from chapto.app.screen.player import Player
from chapto.app.theme import icon
from chapto.app.widgets import button, ground, label
from chapto.clock.timecode import clock_text
from chapto.paint.colours import ON_DARK

SPEEDS = (Fraction(1, 4), Fraction(1, 2), Fraction(1), Fraction(2))
_SPEED_TEXT = {Fraction(1, 4): "¼", Fraction(1, 2): "½", Fraction(1): "1", Fraction(2): "2"}


class Transport(QWidget):
    """Buttons for the player; it follows the player, whoever moved it."""

    def __init__(self, player: Player, length: Callable[[], Fraction]) -> None:
        super().__init__()
        self._player, self._length = player, length
        ground(self, "dark")
        row = layouts.row(self, margins=(10, 5, 10, 6))
        self._play = button("", player.toggle, tip="Play or stop", key="Space", sign="play", dark=True)
        self._play.setFixedWidth(46)
        row.addWidget(self._play)
        row.addWidget(button("", lambda: player.step(-1), tip="One picture back", key="Left", sign="back", dark=True))
        row.addWidget(button("", lambda: player.step(1), tip="One picture on", key="Right", sign="forward", dark=True))
        self._time = label("", size="time")
        row.addSpacing(8)
        row.addWidget(self._time)
        row.addStretch(1)
        self._speeds: dict[Fraction, QPushButton] = {}
        for speed in SPEEDS:
            made = button(
                _SPEED_TEXT[speed] + "×", partial(player.set_speed, speed), tip="Speed of the footage", dark=True
            )
            made.setCheckable(True)
            self._speeds[speed] = made
            row.addWidget(made)
        row.addSpacing(12)
        self._views: dict[View, QPushButton] = {}
        for view, text, tip in (
            (View.MAT, "Footage", "Show the footage"),
            (View.WATCH, "Programme", "Show the programme"),
        ):
            made = button(text, partial(player.switch, view), tip=tip, key="V", dark=True)
            made.setCheckable(True)
            self._views[view] = made
            row.addWidget(made)
        player.moved.connect(self._follow)
        player.playing_changed.connect(self._follow)
        self._follow()

    def _follow(self) -> None:
        head = self._player.head
        self._play.setIcon(icon("pause" if self._player.playing else "play", ON_DARK))
        self._play.setIconSize(QSize(18, 18))
        watching = head.view is View.WATCH
        seconds = Fraction(head.frame) / self._player.fps if watching else head.mat
        of = f" / {clock_text(self._length())}" if watching else ""
        self._time.setText(("watch " if watching else "mat ") + clock_text(seconds, tenths=True) + of)
        for view, made in self._views.items():
            made.setChecked(view is head.view)
        for speed, made in self._speeds.items():
            made.setVisible(not watching)
            made.setChecked(speed == head.speed)
