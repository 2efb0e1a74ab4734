"""The programme as viewers will see it: small, with its captions, once through, with one key for what bothers."""

from __future__ import annotations

from bisect import bisect_right
from collections.abc import Callable
from fractions import Fraction

from PyQt6.QtCore import Qt, QTimer
from PyQt6.QtGui import QKeyEvent
from PyQt6.QtWidgets import QWidget

from chapto.app import layouts
from chapto.app.over_window import OverWindow
from chapto.app.own_keys import EscIsMine
from chapto.app.playhead import View
from chapto.app.screen.player import Player
from chapto.app.screen.screen import Screen
from chapto.app.studio import Studio
from chapto.app.widgets import button, ground, label
from chapto.clock.timecode import clock_text

WIDE = 480
"""Pixels of the picture's width: about what a phone has."""
SAID_FOR = 1_600
"""Milliseconds for which it is said that something was noted."""
HINT = "N  note what bothers you      Space  stop or go on      Esc  back to the list"


class WatchThrough(EscIsMine, OverWindow):
    """Lies over `window`; `note` is called with the watch second at which something bothers, `left` at the end."""

    def __init__(
        self,
        window: QWidget,
        studio: Studio,
        player: Player,
        screen: Screen,
        note: Callable[[Fraction], object],
        left: Callable[[], object],
    ) -> None:
        super().__init__(window, "The programme as viewers see it")
        self._studio, self._player, self._note, self._left = studio, player, note, left
        self.noted = 0
        ground(self, "dark")
        f = studio.breakdown.format
        screen.setParent(self)
        screen.setMinimumSize(1, 1)
        screen.setFixedSize(WIDE, round(WIDE * f.height / f.width))
        screen.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        self._caption = label("", size="head", wrap=True)
        self._caption.setAlignment(Qt.AlignmentFlag.AlignHCenter | Qt.AlignmentFlag.AlignTop)
        self._caption.setFixedSize(WIDE, 46)
        self._time, self._said = label("", size="time"), label("", soft=True)
        for words in (self._time, self._said):
            words.setAlignment(Qt.AlignmentFlag.AlignHCenter)
        keys = layouts.row(
            None,
            button("It bothers me here", self.note_now, tip="Note what bothers you", key="N", kind="main", dark=True),
            button("Back to the list", self.leave, tip="Back to the list", key="Esc", dark=True),
        )
        column = layouts.column(self, spacing=10)
        column.addStretch(1)
        column.addWidget(label("As viewers see it", size="title"), 0, Qt.AlignmentFlag.AlignHCenter)
        for part in (screen, self._caption, self._time, self._said):
            column.addWidget(part, 0, Qt.AlignmentFlag.AlignHCenter)
        middle = layouts.row()
        middle.addStretch(1)
        middle.addLayout(keys)
        middle.addStretch(1)
        column.addLayout(middle)
        column.addStretch(1)
        self._starts = [c.start for c in studio.programme.captions]
        self._quiet = QTimer(self)
        self._quiet.setSingleShot(True)
        self._quiet.setInterval(SAID_FOR)
        self._quiet.timeout.connect(lambda: self._said.setText(HINT))
        self._said.setText(HINT)
        player.moved.connect(self._follow)
        player.playing_changed.connect(self._follow)
        self.show_over()
        player.switch(View.WATCH)
        player.show_frame(0)
        player.play()
        self._follow()

    @property
    def seconds(self) -> Fraction:
        """The watch second on the screen."""
        return self._player.head.frame / self._studio.programme.fps

    def note_now(self) -> None:
        """Something bothers here; it goes on playing."""
        self._note(self.seconds)
        self.noted += 1
        self._said.setText(f"Noted at {clock_text(self.seconds)}.")
        self._quiet.start()

    def leave(self) -> None:
        """Back to the list."""
        self._player.moved.disconnect(self._follow)
        self._player.playing_changed.disconnect(self._follow)
        self._player.pause()
        super().leave()
        self._left()

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        """N notes, Space stops and goes on, Esc leaves."""
        assert event is not None
        if event.key() == Qt.Key.Key_N and not event.isAutoRepeat():
            self.note_now()
        elif event.key() == Qt.Key.Key_Space:
            self._player.toggle()
        else:
            super().keyPressEvent(event)

    def _follow(self) -> None:
        programme, at = self._studio.programme, self.seconds
        i = bisect_right(self._starts, at) - 1
        shown = programme.captions[i] if i >= 0 and at < programme.captions[i].end else None
        self._caption.setText(shown.text if shown is not None else "")
        self._time.setText(f"{clock_text(at)} of {clock_text(programme.seconds)}")
        if self._player.head.frame >= programme.frames - 1 and not self._player.playing:
            notes = "nothing noted" if not self.noted else "1 note" if self.noted == 1 else f"{self.noted} notes"
            self._said.setText(f"Seen to the end, {notes}. Esc leads back to the list.")
