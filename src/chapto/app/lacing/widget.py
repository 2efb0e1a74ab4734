"""The lacing as a widget: zoom, scrub, choose, move a moment."""

from __future__ import annotations

from collections.abc import Callable
from fractions import Fraction

from PyQt6.QtCore import QLineF, QPointF, QRectF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QColor, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen, QResizeEvent, QWheelEvent
from PyQt6.QtWidgets import QSizePolicy, QWidget

from chapto.app.axis import Axis
from chapto.app.lacing.model import Lace, LacingModel, Pin, lacing_model
from chapto.app.lacing.paint import LacingPainter, rows_for
from chapto.app.playhead import View
from chapto.app.screen.player import Player
from chapto.app.still_layer import StillLayer
from chapto.app.studio import Studio
from chapto.app.theme import number_font
from chapto.clock.timecode import clock_text
from chapto.document import edit_log
from chapto.paint.colours import FIRST, INK, PAPER, PAPER_LINE

NEAR = 7.0
"""Pixels within which a press means a lace or a pin."""


class Lacing(QWidget):
    """Shows the compiled programme. `word_chosen` carries a beat and a word number."""

    word_chosen = pyqtSignal(str, int)

    def __init__(self, studio: Studio, player: Player) -> None:
        super().__init__()
        self._studio, self._player = studio, player
        self.axis = Axis()
        self.model: LacingModel = lacing_model(studio.production.breakdown, studio.programme)
        self.chosen = ""
        self._still = StillLayer()
        self._drag: Pin | None = None
        self._drag_mat = 0.0
        self._hover: tuple[QPointF, str] | None = None
        self.setMouseTracking(True)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setMinimumHeight(190)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Preferred)
        self.setAccessibleName("Lacing of mat time and watch time")
        studio.compiled.connect(self._recompiled)
        player.moved.connect(self._follow)

    def sizeHint(self) -> QSize:
        """Drawn for about 250 pixels of height."""
        return QSize(1000, 250)

    def refresh(self) -> None:
        """Paint everything anew."""
        self._still.forget()
        self.update()

    def choose(self, beat: str) -> None:
        """Bring out the words of a beat."""
        if beat != self.chosen:
            self.chosen = beat
            self.refresh()

    def zoom(self, factor: float, about: float | None = None) -> None:
        """Zoom about a pixel, or about the playhead."""
        x = self.axis.x(self._player.head.frame / self.model.fps)
        self.axis.zoom(factor, about if about is not None else min(max(x, 0), self.width()))
        self.refresh()

    def show_all(self) -> None:
        """The whole breakdown."""
        self.axis.show_all()
        self.refresh()

    # ── Qt ───────────────────────────────────────────────────────────────────────────────────────────────
    def paintEvent(self, event: QPaintEvent | None) -> None:
        """The lacing, the playhead, and the numbers beside the pointer."""
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        self._still.paint(
            painter, self, lambda p: LacingPainter(p, self.model, self.axis, self.height(), self.chosen).draw()
        )
        self._playhead(painter)
        if self._hover is not None:
            self._beside_pointer(painter, *self._hover)
        painter.end()

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        """The whole stays whole."""
        self.axis.resize(self.width(), self.model.seconds)

    def wheelEvent(self, event: QWheelEvent | None) -> None:
        """Wheel zooms about the pointer; with Shift, or sideways, it moves along."""
        assert event is not None
        across = event.angleDelta().x()
        turn = event.angleDelta().y()
        if across or event.modifiers() & Qt.KeyboardModifier.ShiftModifier:
            self.axis.pan(-(across or turn) / 2)
        else:
            self.axis.zoom(1.0016**turn, event.position().x())
        self.refresh()
        event.accept()

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        """Plus and minus zoom about the playhead, 0 shows all, PageUp and PageDown move along."""
        assert event is not None
        acts: dict[int, Callable[[], object]] = {
            Qt.Key.Key_Plus: lambda: self.zoom(1.4),
            Qt.Key.Key_Equal: lambda: self.zoom(1.4),
            Qt.Key.Key_Minus: lambda: self.zoom(1 / 1.4),
            Qt.Key.Key_0: self.show_all,
            Qt.Key.Key_PageUp: lambda: self.axis.pan(-self.width() * 0.8),
            Qt.Key.Key_PageDown: lambda: self.axis.pan(self.width() * 0.8),
        }
        act = acts.get(event.key())
        if act is None:
            super().keyPressEvent(event)
            return
        act()
        self.refresh()

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        """A lace or word chooses its beat, a pin can be dragged, anywhere else moves the playhead."""
        assert event is not None
        self.setFocus()
        place = event.position()
        pin, lace = self._pin_at(place), self._lace_at(place)
        if pin is not None:
            self._drag, self._drag_mat = pin, pin.mat
            self._player.show_mat(Fraction(pin.mat).limit_denominator(1000))
        elif lace is not None:
            self.word_chosen.emit(lace.beat, lace.word)
            self._player.show_frame(int(lace.said * self.model.fps))
        else:
            self._scrub(place)
            self._choose_word(place)

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        """Drag, scrub, or say what is under the pointer."""
        assert event is not None
        place = event.position()
        if self._drag is not None:
            stretch = self.model.stretches[self._drag.stretch]
            mat = stretch.mat_at(self.axis.at(place.x()))
            self._drag_mat = min(max(mat, stretch.mat_in), stretch.mat_out)
            self._player.show_mat(Fraction(self._drag_mat).limit_denominator(1000))
            moved = self._drag_mat - self._drag.mat
            self._hover = place, f"mat {clock_text(self._drag_mat, tenths=True)}  ({moved:+.2f} s)"
        elif event.buttons() & Qt.MouseButton.LeftButton:
            self._scrub(place)
        else:
            text = self._about(place)
            self._hover = (place, text) if text else None
        self.update()

    def mouseReleaseEvent(self, event: QMouseEvent | None) -> None:
        """A dragged moment is put down where it was let go."""
        if self._drag is not None:
            moment, mat = self._drag.moment, Fraction(round(self._drag_mat * 1000), 1000)
            if abs(self._drag_mat - self._drag.mat) > 0.005:
                self._studio.edit("move the moment", lambda b: edit_log.change_moment(b, moment, at=mat))
            self._drag, self._hover = None, None
            self.refresh()

    def leaveEvent(self, event: object) -> None:
        """Nothing is under the pointer any more."""
        self._hover = None
        self.update()

    # ── inside ───────────────────────────────────────────────────────────────────────────────────────────
    def _recompiled(self) -> None:
        self.model = lacing_model(self._studio.production.breakdown, self._studio.programme)
        self.axis.resize(self.width(), self.model.seconds)
        self.refresh()

    def _follow(self) -> None:
        left = self.axis.left
        if self._player.playing and not self.axis.whole:
            self.axis.reveal(self._player.head.frame / self.model.fps)
        if self.axis.left != left:
            self._still.forget()
        self.update()

    def _scrub(self, place: QPointF) -> None:
        rows = rows_for(self.height())
        seconds = self.axis.at(place.x())
        if place.y() <= rows.mat_foot:
            stretch = self.model.stretch_at(seconds)
            if stretch is not None:
                self._player.show_mat(Fraction(stretch.mat_at(seconds)).limit_denominator(1000))
                return
        self._player.show_frame(int(seconds * self.model.fps))

    def _choose_word(self, place: QPointF) -> None:
        if place.y() >= rows_for(self.height()).rail_foot:
            at = self.axis.at(place.x())
            near = [w for w in self.model.words if w.start <= at < w.end]
            if near:
                self.word_chosen.emit(near[0].beat, near[0].word)

    def _pin_at(self, place: QPointF) -> Pin | None:
        foot = rows_for(self.height()).mat_foot
        if not foot - 12 <= place.y() <= foot + 5:
            return None
        return min(
            (p for p in self.model.pins if abs(self.axis.x(p.place) - place.x()) <= NEAR),
            key=lambda p: abs(self.axis.x(p.place) - place.x()),
            default=None,
        )

    def _lace_at(self, place: QPointF) -> Lace | None:
        rows = rows_for(self.height())
        if not rows.rail_foot <= place.y() <= rows.words_top + 20:
            return None
        return next((x for x in self.model.laces if abs(self.axis.x(x.said) - place.x()) <= NEAR), None)

    def _about(self, place: QPointF) -> str:
        pin, lace = self._pin_at(place), self._lace_at(place)
        if pin is not None:
            return f"{pin.kind}: {pin.note or 'no note'}, mat {clock_text(pin.mat, tenths=True)}"
        if lace is not None:
            if lace.lag is None:
                return f"“{lace.text}”: its moment is never on the screen"
            return f"“{lace.text}” {'meets its moment' if abs(lace.lag) < 0.02 else f'lag {lace.lag:+.2f} s'}"
        rows = rows_for(self.height())
        if rows.mat_foot < place.y() <= rows.rail_foot:
            at = self.axis.at(place.x())
            band = next((b for b in self.model.bands if b.start <= at < b.end), None)
            if band is not None:
                speed = f" at {band.rate:g}×" if band.rate not in (0.0, 1.0) else ""
                mat = clock_text(band.mat_in, tenths=True)
                return f"{band.kind.value}{speed}, {band.end - band.start:.1f} s from mat {mat}"
        return ""

    def _playhead(self, painter: QPainter) -> None:
        rows, head = rows_for(self.height()), self._player.head
        painter.setPen(QPen(QColor(FIRST), 1.6))
        if head.view is View.WATCH:
            x = self.axis.x(head.frame / self.model.fps)
            painter.drawLine(QLineF(x, rows.rail_top - 6, x, rows.height))
            mat = float(head.seen_mat(self._studio.programme))
            at = head.frame / self.model.fps
            stretch = self.model.stretch_at(at)
        else:
            mat = float(head.mat)
            stretch = next((s for s in self.model.stretches if s.mat_in <= mat < s.mat_out), None)
        if stretch is not None and stretch.mat_in <= mat <= stretch.mat_out:
            x = self.axis.x(stretch.place(mat))
            painter.drawLine(QLineF(x, 2, x, rows.mat_foot))

    def _beside_pointer(self, painter: QPainter, place: QPointF, text: str) -> None:
        painter.setFont(number_font(15, 500))
        width = painter.fontMetrics().horizontalAdvance(text) + 16
        x = min(place.x() + 12, self.width() - width - 4)
        box = QRectF(x, max(place.y() - 32, 2), width, 24)
        painter.setPen(QPen(QColor(PAPER_LINE), 1))
        painter.setBrush(QColor(PAPER))
        painter.drawRoundedRect(box, 4, 4)
        painter.setPen(QColor(INK))
        painter.drawText(box, Qt.AlignmentFlag.AlignCenter, text)
