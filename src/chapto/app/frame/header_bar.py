"""The top edge: what is open, the two clocks, whether it is safe, undo."""

from __future__ import annotations

from fractions import Fraction

from PyQt6.QtCore import Qt
from PyQt6.QtGui import QKeySequence, QShortcut
from PyQt6.QtWidgets import QHBoxLayout, QLabel, QLineEdit, QWidget

from chapto.app import layouts
from chapto.app.frame.title_menu import TitleMenu
from chapto.app.playhead import View
from chapto.app.screen.player import Player
from chapto.app.studio import Studio
from chapto.app.theme import text_font
from chapto.app.widgets import button, ground, label, show_begin
from chapto.clock.timecode import clock_text
from chapto.document.edit_breakdown import set_title
from chapto.paint.colours import FIRST, ON_DARK, ON_DARK_SOFT, SPRUCE, SPRUCE_LINE, TIES
from chapto.programme.programme import TieState
from chapto.store.session import Session

BROKEN = TIES[TieState.BROKEN]


def saved_state(session: Session) -> tuple[str, str, bool]:
    """How safe the edits are: a few words, the whole sentence, and whether that is wrong."""
    if session.read_only:
        return "only to look at", f"Being edited elsewhere: {session.read_only}.", True
    if session.trouble:
        return "not kept safe", session.trouble, True
    if session.path is None and session.is_saved:
        return "", "", False
    if session.is_saved:
        return "saved", "Saved; press for earlier states and saving elsewhere", False
    if session.path is None:
        return "not saved yet", "Kept safe, but in no file of its own yet", False
    return "kept safe, saving soon", "Every edit is kept within a second; the file follows", False


class HeaderBar(QWidget):
    """Follows studio and player."""

    def __init__(self, studio: Studio, player: Player, menu: TitleMenu) -> None:
        super().__init__()
        self._studio, self._player = studio, player
        ground(self, "dark")
        self.setFixedHeight(58)
        row = layouts.row(self, margins=(10, 4, 12, 4), spacing=10)
        self.menu_button = button("", lambda: menu.show(self.menu_button), kind="quiet", sign="sheets", dark=True,
            tip="New, open, save, settings")  # fmt: skip
        row.addWidget(self.menu_button)
        names = layouts.column(spacing=0)
        self._title = QLineEdit()
        self._title.setFont(text_font(18, 600))
        self._title.setMinimumWidth(300)
        self._title.setAccessibleName("Title of the breakdown")
        self._title.setStyleSheet(
            f"QLineEdit {{ background: {SPRUCE}; color: {ON_DARK}; font-size: 18px; font-weight: 600; border: none;"
            f" border-bottom: 1px solid {SPRUCE}; padding: 0; }}"
            f"QLineEdit:hover {{ border-bottom: 1px solid {SPRUCE_LINE}; }}"
            f"QLineEdit:focus {{ border-bottom: 1px solid {FIRST}; }}"
        )
        self._title.editingFinished.connect(self._retitle)
        self._part = label("", soft=True)
        names.addStretch(1)
        names.addWidget(self._title)
        names.addWidget(self._part)
        names.addStretch(1)
        row.addLayout(names, 1)
        self._mat, self._mat_under = self._clock(row)
        row.addSpacing(16)
        self._watch, self._watch_under = self._clock(row)
        row.addStretch(1)
        self.saved_text = button("", lambda: menu.show(self.saved_text), kind="quiet", dark=True)
        row.addWidget(self.saved_text)
        self.undo_button = button("", studio.undo, tip="Undo", key="Ctrl+Z", sign="undo", kind="quiet", dark=True)
        self._redo = button("", studio.redo, tip="Redo", key="Ctrl+Shift+Z", sign="redo", kind="quiet", dark=True)
        row.addWidget(self.undo_button)
        row.addWidget(self._redo)
        QShortcut(QKeySequence("Ctrl+Z"), self, studio.undo)
        QShortcut(QKeySequence("Ctrl+Shift+Z"), self, studio.redo)
        studio.changed.connect(self._document)
        studio.compiled.connect(self._clocks)
        player.moved.connect(self._clocks)
        self._document()
        self._clocks()

    def _clock(self, row: QHBoxLayout) -> tuple[QLabel, QLabel]:
        column = layouts.column(spacing=0)
        big, under = label("", size="clock"), label("", soft=True)
        big.setMinimumWidth(110)
        column.addStretch(1)
        column.addWidget(big, alignment=Qt.AlignmentFlag.AlignLeft)
        column.addWidget(under, alignment=Qt.AlignmentFlag.AlignLeft)
        column.addStretch(1)
        row.addLayout(column)
        return big, under

    def _retitle(self) -> None:
        text = self._title.text()
        if text != self._studio.breakdown.title and not self._studio.edit("rename", lambda b: set_title(b, text)):
            self._title.setText(self._studio.breakdown.title)

    def _document(self) -> None:
        session, b = self._studio.session, self._studio.breakdown
        show_begin(self._title, b.title)
        self._part.setText(b.part)
        text, tip, wrong = saved_state(session)
        self.saved_text.setText(text)
        self.saved_text.setToolTip(tip)
        self.saved_text.setStyleSheet(
            f"color: {ON_DARK}; background: {BROKEN}; padding: 4px 9px;" if wrong else f"color: {ON_DARK_SOFT};"
        )
        self.undo_button.setEnabled(bool(session.would_undo))
        self._redo.setEnabled(bool(session.would_redo))
        self.undo_button.setToolTip(
            f"Undo: {session.would_undo}  (Ctrl+Z)" if session.would_undo else "Nothing to undo"
        )
        self._redo.setToolTip(
            f"Redo: {session.would_redo}  (Ctrl+Shift+Z)" if session.would_redo else "Nothing to redo"
        )

    def _clocks(self) -> None:
        b, p, head = self._studio.breakdown, self._studio.programme, self._player.head
        mat = head.seen_mat(p)
        inside = next((r for r in b.rounds if r.start <= mat < r.end), None)
        self._mat.setText(clock_text(mat, tenths=True))
        under = f"mat · {inside.name} {clock_text(mat - inside.start)}" if inside else "mat"
        self._mat_under.setText(under)
        at = Fraction(head.frame) / p.fps
        if head.view is View.MAT:
            showing = p.time_map.watched_at(mat) if p.frames else ()
            shown = clock_text(Fraction(showing[0].start) / p.fps, tenths=True) if showing else "not shown"
            self._watch.setText(shown if p.frames else "–")
        else:
            self._watch.setText(clock_text(at, tenths=True))
        target = f" of {clock_text(b.target)} wished" if b.target else ""
        self._watch_under.setText(f"watch · {clock_text(p.seconds)} long{target}")
