"""The Write stage."""

from __future__ import annotations

from functools import partial

from PyQt6.QtCore import Qt
from PyQt6.QtGui import QKeySequence, QShortcut
from PyQt6.QtWidgets import QHBoxLayout, QPushButton, QSplitter, QVBoxLayout, QWidget

from chapto.app.lacing.widget import Lacing
from chapto.app.playhead import View
from chapto.app.screen.player import Player
from chapto.app.studio import Studio
from chapto.app.widgets import button, ground, label
from chapto.app.write.script import Script
from chapto.document import edit_breakdown, edit_log, edit_script
from chapto.document.breakdown import Breakdown
from chapto.pacing.styles import house_styles

KEYS = (
    ("Ctrl+T", "tie the word at the caret to the picture"),
    ("Ctrl+Shift+T", "untie it"),
    ("Ctrl+G", "tie the next pointing word as offered"),
    ("Return", "split the beat, or begin the next"),
    ("Backspace", "at the start: join with the one before"),
    ("Ctrl+Return", "go to the word in the programme"),
    ("+  −  0", "lacing: closer, wider, whole"),
    ("PageUp  PageDown", "lacing: along"),
)


class WritePage(QWidget):
    """Screen on dark, script on paper, the lacing between and beneath."""

    def __init__(self, studio: Studio, player: Player, screen: QWidget) -> None:
        super().__init__()
        self._studio, self._player = studio, player
        self.script = Script(studio)
        self.lacing = Lacing(studio, player)
        above = QSplitter(Qt.Orientation.Horizontal)
        above.setHandleWidth(3)
        above.addWidget(screen)
        above.addWidget(self.script)
        above.setStretchFactor(0, 5)
        above.setStretchFactor(1, 4)
        above.setSizes([640, 540])
        above.setChildrenCollapsible(False)
        below = QWidget()
        column = QVBoxLayout(below)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        column.addWidget(self._bar())
        column.addWidget(self.lacing, 1)
        whole = QSplitter(Qt.Orientation.Vertical)
        whole.setHandleWidth(3)
        whole.addWidget(above)
        whole.addWidget(below)
        whole.setSizes([420, 270])
        whole.setChildrenCollapsible(False)
        outer = QVBoxLayout(self)
        outer.setContentsMargins(0, 0, 0, 0)
        outer.addWidget(whole)
        self.script.chosen.connect(self.lacing.choose)
        self.lacing.word_chosen.connect(self.script.choose)
        for keys, act in (
            ("Ctrl+T", self.tie),
            ("Ctrl+Shift+T", self.untie),
            ("Ctrl+G", self.script.tie_offered),
            ("Ctrl+Return", self.go_to_word),
        ):
            shortcut = QShortcut(QKeySequence(keys), self, act)
            shortcut.setContext(Qt.ShortcutContext.WidgetWithChildrenShortcut)
        studio.changed.connect(self._styles_follow)

    def _bar(self) -> QWidget:
        bar = ground(QWidget(), "dark")
        row = QHBoxLayout(bar)
        row.setContentsMargins(12, 5, 12, 5)
        row.setSpacing(6)
        row.addWidget(label("House style", soft=True))
        self._styles: dict[str, QPushButton] = {}
        for name, style in house_styles().items():
            made = button(style.title, partial(self._set_style, name), tip=style.about, dark=True)
            made.setCheckable(True)
            self._styles[name] = made
            row.addWidget(made)
        row.addStretch(1)
        tip = "Tie the word at the caret to the picture"
        row.addWidget(button("Tie to this frame", self.tie, tip=tip, key="Ctrl+T", sign="lace", dark=True))
        row.addSpacing(14)
        zoom = (("−", 1 / 1.6, "Wider"), ("+", 1.6, "Closer"))
        for text, factor, tip in zoom:
            row.addWidget(button(text, partial(self.lacing.zoom, factor), tip=tip, key=text, dark=True))
        row.addWidget(button("Whole", self.lacing.show_all, tip="The whole breakdown", key="0", dark=True))
        self._styles_follow()
        return bar

    def _styles_follow(self) -> None:
        for name, made in self._styles.items():
            made.setChecked(name == self._studio.breakdown.style)

    def _set_style(self, name: str) -> None:
        self._studio.edit("change the house style", lambda b: edit_breakdown.set_style(b, name))
        self._styles_follow()

    def tie(self) -> None:
        """Tie the word at the caret to what is on the screen; a moment is made there if none is near."""
        caret = self.script.caret()
        if caret is None:
            self._studio.said.emit("Put the caret on the word you want to tie first.")
            return
        beat, word = caret
        mat = self._player.head.seen_mat(self._studio.programme)

        def change(b: Breakdown) -> Breakdown:
            near = edit_log.moment_at(b, mat)
            if near is not None:
                return edit_script.tie_word(b, beat, word, near.id)
            made = edit_log.add_moment(b, mat)
            new = next(m.id for m in made.moments if m not in b.moments)
            return edit_script.tie_word(made, beat, word, new)

        self._studio.edit("tie the word", change)

    def untie(self) -> None:
        """Untie the word at the caret."""
        caret = self.script.caret()
        if caret is not None:
            self._studio.edit("untie the word", lambda b: edit_script.untie_word(b, *caret))

    def go_to_word(self) -> None:
        """Show the programme where the word at the caret is said."""
        caret = self.script.caret()
        p = self._studio.programme
        word = next((w for w in p.words if (w.beat, w.word) == caret), None)
        if word is not None:
            self._player.switch(View.WATCH)
            self._player.show_frame(int(word.start * p.fps))
