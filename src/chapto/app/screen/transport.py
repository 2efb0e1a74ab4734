"""The bar under the picture: play, step, what it does, how fast, how loud, which view."""

from __future__ import annotations

from collections.abc import Callable
from fractions import Fraction
from functools import partial

from PyQt6.QtCore import QPoint, QSize
from PyQt6.QtGui import QResizeEvent
from PyQt6.QtWidgets import QMenu, QPushButton, QWidget

from chapto.app import layouts
from chapto.app.menus import choice
from chapto.app.playhead import View
from chapto.app.screen.doing import Doing
from chapto.app.screen.player import Player
from chapto.app.screen.volume import Volume
from chapto.app.studio import Studio
from chapto.app.theme import icon
from chapto.app.widgets import button, ground, label
from chapto.clock.timecode import clock_text
from chapto.paint.colours import ON_DARK

LEAST, WITH_STEPS, WITH_ALL = 420, 530, 620
"""Pixels: the narrowest, with steps, with what the picture does."""
SPEEDS = (Fraction(1, 4), Fraction(1, 2), Fraction(1), Fraction(2))
_SPEED_TEXT = {Fraction(1, 4): "¼×", Fraction(1, 2): "½×", Fraction(1): "1×", Fraction(2): "2×"}


class Transport(QWidget):
    """Buttons for the player; it follows the player, whoever moved it. `full` shows the picture alone, or no longer."""

    def __init__(self, studio: Studio, player: Player, full: Callable[[], object]) -> None:
        super().__init__()
        self._player, self._studio = player, studio
        ground(self, "dark")
        row = layouts.row(self, margins=(10, 5, 10, 6))
        self._play = button("", player.toggle, tip="Play or stop", key="Space", sign="play", dark=True)
        self._play.setFixedWidth(46)
        row.addWidget(self._play)
        self._steps = [
            button("", lambda: player.step(-1), tip="One picture back", key="Left", sign="back", dark=True),
            button("", lambda: player.step(1), tip="One picture on", key="Right", sign="forward", dark=True),
        ]
        for made in self._steps:
            made.setFixedWidth(36)
            row.addWidget(made)
        self._time = label("", size="time")
        row.addWidget(self._time)
        self._doing = Doing(studio, player)
        row.addWidget(self._doing)
        row.addStretch(1)
        self.speed: QPushButton = button(
            "1×", self._choose_speed, tip="How fast it plays; at other speeds it is silent", key="Ctrl+Alt+, and .",
            dark=True,
        )  # fmt: skip
        self.speed.setFixedWidth(46)
        row.addWidget(self.speed)
        row.addWidget(Volume(player))
        self._whole = button("", full, tip="The picture on the whole screen", key="F11", sign="whole", dark=True)
        row.addWidget(self._whole)
        self._whole.setFixedWidth(40)
        self._views: dict[View, QPushButton] = {}
        for view, text, tip in (
            (View.MAT, "Footage", "Show the footage"),
            (View.WATCH, "Programme", "Show the programme"),
        ):
            made = button(text, partial(player.switch, view), tip=tip, key="V", dark=True)
            made.setCheckable(True)
            self._views[view] = made
            row.addWidget(made)
        self.setMinimumWidth(LEAST)
        player.moved.connect(self._follow)
        player.playing_changed.connect(self._follow)
        self._follow()

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        """In a narrow place what has a key goes first."""
        super().resizeEvent(event)
        wide = self.width()
        for made in self._steps:
            made.setVisible(wide >= WITH_STEPS)
        self._whole.setVisible(wide >= WITH_STEPS)
        self._doing.setVisible(wide >= WITH_ALL)

    def _choose_speed(self) -> None:
        menu = QMenu(self)
        for speed in SPEEDS:
            act = partial(self._player.set_speed, speed)
            choice(menu, _SPEED_TEXT[speed], act, checked=speed == self._player.head.rate)
        menu.exec(self.speed.mapToGlobal(QPoint(0, self.speed.height())))
        menu.deleteLater()

    def _follow(self) -> None:
        head = self._player.head
        self._play.setIcon(icon("pause" if self._player.playing else "play", ON_DARK))
        self._play.setIconSize(QSize(18, 18))
        watching = head.view is View.WATCH
        seconds = Fraction(head.frame) / self._player.fps if watching else head.mat
        of = f" / {clock_text(self._studio.programme.seconds)}" if watching else ""
        self._time.setText(clock_text(seconds, tenths=True) + of)
        for view, made in self._views.items():
            made.setChecked(view is head.view)
        self.speed.setText(_SPEED_TEXT.get(head.rate, f"{float(head.rate):g}×"))


def next_speed(now: Fraction, by: int) -> Fraction:
    """The speed `by` steps faster (or slower) than `now`."""
    near = min(range(len(SPEEDS)), key=lambda i: abs(SPEEDS[i] - now))
    return SPEEDS[min(max(near + by, 0), len(SPEEDS) - 1)]
