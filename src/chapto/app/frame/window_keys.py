"""Keys that work everywhere but where words are being written, and tooltips that show names as they are."""

from __future__ import annotations

import html
from collections.abc import Callable
from fractions import Fraction

from PyQt6.QtCore import QEvent, QObject, Qt
from PyQt6.QtGui import QHelpEvent, QKeyEvent
from PyQt6.QtWidgets import QApplication, QLineEdit, QPlainTextEdit, QToolTip, QWidget

from chapto.app.frame.keys import KeysPage
from chapto.app.playhead import View
from chapto.app.screen.nearer import STEP
from chapto.app.screen.player import Player
from chapto.app.screen.transport import next_speed

PAN, QUIETER = 0.1, 0.1
"""Shares of the frame and of full volume that one press changes."""


class WindowKeys(QObject):
    """Watches the whole application while `window` is the active one. `pressed` hears of every key in it."""

    def __init__(self, window: QWidget, player: Player, pressed: Callable[[], object]) -> None:
        super().__init__(window)
        self._window, self._player, self._pressed = window, player, pressed
        app = QApplication.instance()
        assert app is not None
        app.installEventFilter(self)

    def end(self) -> None:
        """Watch no more."""
        app = QApplication.instance()
        if app is not None:
            app.removeEventFilter(self)

    def eventFilter(self, watched: QObject | None, event: QEvent | None) -> bool:
        """Take what is for everybody."""
        # Asked of every event there is: telling the class is quicker than asking Qt for the type.
        if isinstance(event, QHelpEvent) and event.type() == QEvent.Type.ToolTip and isinstance(watched, QWidget):
            return _plain_tip(watched, event)
        if not isinstance(event, QKeyEvent) or event.type() != QEvent.Type.KeyPress:
            return False
        if not self._window.isActiveWindow():
            return False
        self._pressed()
        on_picture = Qt.KeyboardModifier.ControlModifier | Qt.KeyboardModifier.AltModifier
        if event.modifiers() & on_picture == on_picture and self._is_in_window():
            return _act_on_picture(self._player, event.key())
        return self._is_for_everybody() and self._act(event)

    def _is_in_window(self) -> bool:
        focus = QApplication.focusWidget()
        return focus is not None and focus.window() is self._window

    def _is_for_everybody(self) -> bool:
        focus = QApplication.focusWidget()
        if isinstance(focus, (QLineEdit, QPlainTextEdit, KeysPage)) or focus is None:
            return False
        return focus.window() is self._window and not focus.property("ownKeys")

    def _act(self, event: QKeyEvent) -> bool:
        shift = bool(event.modifiers() & Qt.KeyboardModifier.ShiftModifier)
        if event.modifiers() & (Qt.KeyboardModifier.ControlModifier | Qt.KeyboardModifier.AltModifier):
            return False
        player = self._player
        acts: dict[int, Callable[[], object]] = {
            Qt.Key.Key_Space: player.toggle,
            Qt.Key.Key_Left: lambda: player.jump(Fraction(-1)) if shift else player.step(-1),
            Qt.Key.Key_Right: lambda: player.jump(Fraction(1)) if shift else player.step(1),
            Qt.Key.Key_Home: lambda: player.go_to_end(begin=True),
            Qt.Key.Key_End: lambda: player.go_to_end(begin=False),
            Qt.Key.Key_B: lambda: player.jump(Fraction(-5)),
            Qt.Key.Key_V: lambda: player.switch(View.MAT if player.head.view is View.WATCH else View.WATCH),
        }
        act = acts.get(event.key())
        if act is None or (event.isAutoRepeat() and event.key() == Qt.Key.Key_Space):
            return False
        act()
        return True


def _act_on_picture(player: Player, key: int) -> bool:
    """What Ctrl+Alt does to the picture, also while words are being written."""
    speed = player.head.rate
    acts: dict[int, Callable[[], object]] = {
        Qt.Key.Key_Plus: lambda: player.look_nearer(STEP),
        Qt.Key.Key_Equal: lambda: player.look_nearer(STEP),
        Qt.Key.Key_Minus: lambda: player.look_nearer(1 / STEP),
        Qt.Key.Key_0: lambda: player.look_nearer(1 / player.nearer.zoom),
        Qt.Key.Key_A: lambda: player.pan(-PAN, 0),
        Qt.Key.Key_D: lambda: player.pan(PAN, 0),
        Qt.Key.Key_W: lambda: player.pan(0, -PAN),
        Qt.Key.Key_S: lambda: player.pan(0, PAN),
        Qt.Key.Key_Comma: lambda: player.set_speed(next_speed(speed, -1)),
        Qt.Key.Key_Period: lambda: player.set_speed(next_speed(speed, 1)),
        Qt.Key.Key_PageUp: lambda: player.set_volume(player.volume + QUIETER),
        Qt.Key.Key_PageDown: lambda: player.set_volume(player.volume - QUIETER),
        Qt.Key.Key_M: player.mute,
    }
    act = acts.get(key)
    if act is None:
        return False
    act()
    return True


def _plain_tip(widget: QWidget, event: QHelpEvent) -> bool:
    """Show a tooltip that Qt would take for HTML, since it holds a name with brackets, as the plain text it is."""
    text = widget.toolTip()
    if "<" not in text:
        return False
    QToolTip.showText(event.globalPos(), f"<span>{html.escape(text)}</span>", widget)
    return True
