"""Two pictures side by side, their sound under each other; one slides until both show the same moment."""

from __future__ import annotations

from collections.abc import Callable
from fractions import Fraction
from functools import partial

import numpy as np
from PyQt6.QtCore import QLineF, QPointF, QRectF, Qt, pyqtSignal
from PyQt6.QtGui import QColor, QKeyEvent, QPainter, QPainterPath, QPaintEvent, QPen
from PyQt6.QtWidgets import QSizePolicy, QWidget

from chapto.app import layouts
from chapto.app.footage.line_up_model import LineUp
from chapto.app.own_keys import EscIsMine
from chapto.app.screen.feed import PictureFeed, Want
from chapto.app.screen.player import Player
from chapto.app.studio import Studio
from chapto.app.theme import number_font, text_font
from chapto.app.widgets import button, ground, label
from chapto.clock.passage import Kind
from chapto.clock.timecode import clock_text
from chapto.document.edit_footage import place_footage
from chapto.document.footage import Footage
from chapto.paint.colours import DEEP, FIRST, ON_DARK, ON_DARK_SOFT, PASSAGES, SPRUCE, SPRUCE_LINE

KEYS = (
    ("Left  Right", "slide by one picture"),
    ("Shift+Left  Right", "slide by 1 ms"),
    ("PageUp  PageDown", "both, a second back or on"),
    ("Return", "the same moment is here"),
    ("Esc", "done"),
)
WAVE = 50.0
HEARD = 1.2
"""Seconds of sound shown."""


class Pair(QWidget):
    """The two pictures and the two curves."""

    def __init__(self, studio: Studio) -> None:
        super().__init__()
        self._studio = studio
        self._files = studio.files
        self.feed = PictureFeed(self._files.pictures)
        self.state: LineUp | None = None
        self.reference: Footage | None = None
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)
        self.feed.arrived.connect(self.update)
        self._files.moved.connect(lambda: self.feed.use(self._files.pictures))

    def wants(self) -> tuple[Want | None, Want | None]:
        """The pictures of both sides."""
        if self.state is None:
            return None, None
        file = self.state.file
        size = (480, 270)
        left = Want(self.reference, self.state.mat, *size) if self.reference else None
        return left, Want(file, file.mat_at(self.state.seconds), *size)

    def show_state(self, state: LineUp | None, reference: Footage | None) -> None:
        """Show another moment."""
        self.state, self.reference = state, reference
        self.feed.ask([w for w in self.wants() if w is not None])
        self.update()

    def is_settled(self) -> bool:
        """Whether nothing more is to come of both pictures."""
        return all(w is None or self.feed.is_done(w) for w in self.wants())

    def paintEvent(self, event: QPaintEvent | None) -> None:
        """Pictures above, sound below, the moment in the middle of each."""
        p = QPainter(self)
        p.setRenderHints(QPainter.RenderHint.Antialiasing | QPainter.RenderHint.SmoothPixmapTransform)
        p.fillRect(self.rect(), QColor(DEEP))
        if self.state is None:
            p.end()
            return
        names = (
            (self.reference.name if self.reference else "nothing was filmed", f"mat {_exact(self.state.mat)}"),
            (self.state.file.name, f"its own {_exact(self.state.seconds)}"),
        )
        room = QRectF(8, 28, (self.width() - 24) / 2, self.height() - 2 * WAVE - 44)
        for i, (want, (name, when)) in enumerate(zip(self.wants(), names, strict=True)):
            side = room.translated(i * (room.width() + 8), 0)
            p.setFont(text_font(14, 600))
            p.setPen(QColor(ON_DARK))
            head = QRectF(side.left() + 2, 4, side.width() - 4, 22)
            p.drawText(head, Qt.AlignmentFlag.AlignVCenter, name)
            p.setFont(number_font(15))
            p.setPen(QColor(ON_DARK_SOFT))
            p.drawText(head, Qt.AlignmentFlag.AlignVCenter | Qt.AlignmentFlag.AlignRight, when)
            image = self.feed.image(want) if want else None
            box = QRectF(0, 0, min(side.width(), side.height() * 16 / 9), min(side.height(), side.width() * 9 / 16))
            box.moveCenter(side.center())
            p.fillRect(box, QColor(SPRUCE))
            if image is not None:
                p.drawImage(box, image)
        top = self.height() - 2 * WAVE - 10
        if self.reference is not None:
            self._wave(p, self.reference, self.reference.media_time(self.state.mat), top, QColor(PASSAGES[Kind.RUN]))
        self._wave(p, self.state.file, self.state.seconds, top + WAVE + 4, QColor(FIRST))
        p.setPen(QPen(QColor(ON_DARK), 1.2))
        p.drawLine(QLineF(self.width() / 2, top, self.width() / 2, self.height() - 4))
        p.end()

    def _wave(self, p: QPainter, c: Footage, seconds: Fraction, top: float, colour: QColor) -> None:
        box = QRectF(8, top, self.width() - 16, WAVE)
        p.fillRect(box, QColor(SPRUCE))
        sound = self._files.sounds.get(c.id)
        if sound is None or not len(sound):
            p.setPen(QColor(ON_DARK_SOFT))
            p.setFont(text_font(13))
            p.drawText(box.adjusted(10, 0, 0, 0), Qt.AlignmentFlag.AlignVCenter, f"{c.name}: no sound")
            return
        columns = int(box.width())
        count = round(HEARD * 48_000) // columns * columns
        heard = np.abs(sound.read(round(seconds * 48_000) - count // 2, count).mean(axis=1))
        peaks = heard.reshape(columns, -1).max(axis=1)
        peaks = peaks / max(float(peaks.max()), 1e-4)
        path = QPainterPath(QPointF(box.left(), box.center().y()))
        for sign in (-1, 1):
            steps = range(columns) if sign < 0 else range(columns - 1, -1, -1)
            for i in steps:
                path.lineTo(box.left() + i, box.center().y() + sign * float(peaks[i]) * (WAVE / 2 - 3))
        path.closeSubpath()
        p.fillPath(path, colour)
        p.setPen(QPen(QColor(SPRUCE_LINE), 1))
        p.drawRect(box)


class LineUpView(EscIsMine, QWidget):
    """Lines one file up with what else was filmed. `done` when the creator is finished."""

    done = pyqtSignal()

    def __init__(self, studio: Studio, player: Player) -> None:
        super().__init__()
        self._studio, self._player = studio, player
        self.setProperty("ownKeys", True)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        column = layouts.column(self, spacing=0)
        self.pair = Pair(studio)
        column.addWidget(self.pair, 1)
        bar = ground(QWidget(), "dark")
        row = layouts.row(bar, margins=(10, 5, 10, 6))
        for text, tip, key, by in (
            ("−1 ms", "Slide back by a thousandth", "Shift+Left", Fraction(-1, 1000)),
            ("+1 ms", "Slide on by a thousandth", "Shift+Right", Fraction(1, 1000)),
        ):
            row.addWidget(button(text, partial(self._slide, by), tip=tip, key=key, dark=True))
        row.addWidget(
            button("", lambda: self._step(-1), tip="Slide by one picture", key="Left", sign="back", dark=True)
        )
        row.addWidget(
            button("", lambda: self._step(1), tip="Slide by one picture", key="Right", sign="forward", dark=True)
        )
        row.addWidget(
            button(
                "Same moment here",
                self.same_moment,
                tip="Both show the same moment",
                key="Return",
                sign="lace",
                dark=True,
            )
        )
        self._says = label("", soft=True)
        row.addWidget(self._says, 1)
        row.addWidget(button("Done", self.done.emit, tip="Back to the picture", key="Esc", dark=True))
        column.addWidget(bar)
        player.moved.connect(self._along)
        studio.changed.connect(self._document)

    def begin(self, footage_id: str) -> None:
        """Line this file up."""
        c = self._studio.breakdown.camera(footage_id)
        mat = self._player.head.mat
        if not c.covers(mat):
            mat = c.mat_in + (c.mat_out - c.mat_in) / 4
        mat = mat.limit_denominator(1000)
        seconds = min(max(c.media_time(mat), Fraction(0)), c.duration)
        self._show(LineUp(c, mat, seconds))
        self.setFocus()

    def same_moment(self) -> None:
        """Put the file where both pictures show one moment."""
        state = self.pair.state
        if state is None:
            return
        state = state.same_moment()
        placement = state.placement()
        assert placement is not None
        name = state.file.name
        if self._studio.edit(f"line up {name}", lambda b: place_footage(b, {state.file.id: placement})):
            self._show(replace_file(state, self._studio.breakdown.camera(state.file.id)))

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        """Slide, agree, end."""
        assert event is not None
        shift = bool(event.modifiers() & Qt.KeyboardModifier.ShiftModifier)
        acts: dict[int, Callable[[], object]] = {
            Qt.Key.Key_Left: lambda: self._slide(Fraction(-1, 1000)) if shift else self._step(-1),
            Qt.Key.Key_Right: lambda: self._slide(Fraction(1, 1000)) if shift else self._step(1),
            Qt.Key.Key_PageUp: lambda: self._player.jump(Fraction(-1)),
            Qt.Key.Key_PageDown: lambda: self._player.jump(Fraction(1)),
            Qt.Key.Key_Return: self.same_moment,
            Qt.Key.Key_Enter: self.same_moment,
            Qt.Key.Key_Escape: self.done.emit,
        }
        if event.key() in acts:
            acts[event.key()]()
        else:
            super().keyPressEvent(event)

    def _slide(self, by: Fraction) -> None:
        if self.pair.state is not None:
            self._show(self.pair.state.slid(by))

    def _step(self, by: int) -> None:
        state = self.pair.state
        if state is not None:
            self._slide(by / state.file.fps)

    def _along(self) -> None:
        state = self.pair.state
        if state is not None and self.isVisible() and self._player.head.mat != state.mat:
            self._show(state.at(self._player.head.mat))

    def _document(self) -> None:
        """Undo may have moved the file, or taken it away."""
        state = self.pair.state
        if state is None:
            return
        now = next((c for c in self._studio.breakdown.footage if c.id == state.file.id), None)
        if now is None:
            self.pair.show_state(None, None)
            self.done.emit()
        elif now != state.file:
            self._show(replace_file(state, now))

    def close_feed(self) -> None:
        """End the thread that fetches pictures."""
        self.pair.feed.close()

    def _show(self, state: LineUp) -> None:
        others = [c for c in self._studio.breakdown.footage if c.id != state.file.id and c.covers(state.mat)]
        shown = self._studio.angles.at(state.mat)
        reference = shown if shown in others else (others[0] if others else None)
        self.pair.show_state(state, reference)
        apart = state.file.mat_at(state.seconds) - state.mat
        count = {
            0: "Find the same moment on both sides.",
            1: "One pair: the file lies there. A second, far from it, sets its clock.",
        }
        text = f"{float(apart) * 1000:+.0f} ms from where it lies   "
        self._says.setText(text + count.get(len(state.pairs), "Two pairs: place and clock are set."))


def replace_file(state: LineUp, file: Footage) -> LineUp:
    """The same moment on both sides, with the file as it lies now."""
    return LineUp(file, state.mat, state.seconds, state.pairs)


def _exact(seconds: Fraction) -> str:
    return f"{clock_text(seconds)}.{int(seconds % 1 * 1000):03d}"
