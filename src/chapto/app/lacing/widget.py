"""The lacing as a widget: zoom, scrub, choose, and pull at what it shows, by pointer and by keys."""

from __future__ import annotations

from fractions import Fraction

from PyQt6.QtCore import QLineF, QPointF, QRectF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import (
    QColor,
    QContextMenuEvent,
    QKeyEvent,
    QMouseEvent,
    QPainter,
    QPaintEvent,
    QPen,
    QResizeEvent,
    QWheelEvent,
)
from PyQt6.QtWidgets import QSizePolicy, QWidget

from chapto.app.axis import Axis
from chapto.app.lacing.build import LacingBuilder
from chapto.app.lacing.canvas import Canvas
from chapto.app.lacing.drags import Drag, EdgeDrag, Edit, LaceDrag, PinDrag, SectionDrag, SkipDrag, WordDrag
from chapto.app.lacing.hits import Hits
from chapto.app.lacing.keys import LacingKeys
from chapto.app.lacing.lace_menu import lace_menu
from chapto.app.lacing.log_model import log_line, on_rail
from chapto.app.lacing.model import LacingModel
from chapto.app.lacing.paint import beside_pointer, draw_lacing
from chapto.app.lacing.rows import rows_for
from chapto.app.playhead import View
from chapto.app.screen.player import Player
from chapto.app.still_layer import StillLayer
from chapto.app.studio import Studio
from chapto.document.breakdown import Breakdown
from chapto.document.edit_script import untie_word
from chapto.paint.colours import FIRST

DRAGGED = 4
"""Pixels a press has to move before it drags."""


class Lacing(QWidget):
    """Shows the compiled programme. `word_chosen` carries a beat and a word number."""

    word_chosen = pyqtSignal(str, int)

    def __init__(self, studio: Studio, player: Player) -> None:
        super().__init__()
        self._studio, self._player = studio, player
        self.axis = Axis()
        self._builder = LacingBuilder()
        self.model: LacingModel = self._builder.model(studio.production.breakdown, studio.programme)
        self.chosen = ""
        self.selected: tuple[str, int] | None = None
        self.grabbed: Drag | None = None
        self._still = StillLayer()
        self._logged = _logged(studio.production.breakdown)
        self._log = log_line(studio.production.breakdown, studio.known)
        self._rail = on_rail(self._log, self.model)
        self._pressed: QPointF | None = None
        self._dragging = False
        self._at = 0.0
        self._hover: tuple[QPointF, str] | None = None
        self._keys = LacingKeys(self)
        self.setMouseTracking(True)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setMinimumHeight(200)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Preferred)
        self.setAccessibleName("Lacing of mat time and watch time")
        studio.compiled.connect(self._recompiled)
        player.moved.connect(self._follow)

    def sizeHint(self) -> QSize:
        """Drawn for about 260 pixels of height."""
        return QSize(1000, 260)

    def refresh(self) -> None:
        """Paint everything anew."""
        self._still.forget()
        self.update()

    def choose(self, beat: str) -> None:
        """Bring out the words of a beat."""
        if beat != self.chosen:
            self.chosen = beat
            self.refresh()

    def choose_word(self, beat: str, word: int) -> None:
        """Bring out the lace of a word, if it has one."""
        tied = (beat, word) if any((x.beat, x.word) == (beat, word) for x in self.model.laces) else None
        if tied != self.selected:
            self.selected = tied
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

    def hits(self) -> Hits:
        """What can be taken hold of as it is drawn now."""
        return Hits(self._studio.production.breakdown, self.model, self.axis, rows_for(self.height()))

    def grab_for_keys(self, drag: Drag | None) -> None:
        """Take hold of something for the keys; it is brought into view and named beside itself."""
        self.grabbed = drag
        if isinstance(drag, LaceDrag):
            self.selected = drag.lace.beat, drag.lace.word
            self.word_chosen.emit(*self.selected)
            self._player.show_frame(int(drag.lace.said * self.model.fps))
        if drag is not None:
            self.axis.reveal(drag.place)
            rows = rows_for(self.height())
            self._hover = QPointF(self.axis.x(drag.place), rows.rail_top), drag.said(drag.place)
        else:
            self._hover = None
        self.refresh()

    def place_of_playhead(self) -> float:
        """Where the playhead is on the axis."""
        return self._player.head.switched(View.WATCH, self._studio.programme).frame / self.model.fps

    def make(self, edit: Edit | None, *, merge: str = "") -> bool:
        """Make an edit that a drag or a key means; whether there was one."""
        return edit is not None and self._studio.edit(*edit, merge=merge)

    def untie(self, beat: str, word: int) -> None:
        """Take a tie away."""
        self._studio.edit("untie the word", lambda b: untie_word(b, beat, word))

    # ── Qt ───────────────────────────────────────────────────────────────────────────────────────────────
    def paintEvent(self, event: QPaintEvent | None) -> None:
        """The lacing, what is grabbed, the playhead, and the numbers beside the pointer."""
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        self._still.paint(painter, self, self.draw)
        if self.grabbed is not None:
            self._ghost(painter)
        self._playhead(painter)
        if self._hover is not None:
            beside_pointer(painter, self.width(), *self._hover)
        painter.end()

    def draw(self, painter: QPainter) -> None:
        """Everything that stands still."""
        canvas = Canvas(painter, self.model, self.axis, self.height(), self.chosen)
        draw_lacing(canvas, *self._rail, self.selected)

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
        """See `LacingKeys`."""
        assert event is not None
        if not self._keys.pressed(event):
            super().keyPressEvent(event)

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        """Take hold of what is under the pointer, or move the playhead."""
        assert event is not None
        self.setFocus()
        place = event.position()
        shift = bool(event.modifiers() & Qt.KeyboardModifier.ShiftModifier)
        self.grabbed = self.hits().drag_at(place.x(), place.y(), skipping=shift)
        self._pressed, self._dragging = place, isinstance(self.grabbed, PinDrag)
        match self.grabbed:
            case PinDrag(_, pin):
                self._at = pin.place
                self._player.show_mat(Fraction(pin.mat).limit_denominator(1000))
            case LaceDrag(_, lace):
                self._at = lace.said
                self.selected = lace.beat, lace.word
                self.word_chosen.emit(lace.beat, lace.word)
                self._go_to(lace.said)
                self.refresh()
            case WordDrag():
                self._scrub(place)
                self._choose_word(place)
            case None:
                self._scrub(place)
            case other:
                self._at = other.place

    def contextMenuEvent(self, event: QContextMenuEvent | None) -> None:
        """What can be done with the lace under the pointer."""
        assert event is not None
        found = self.hits().drag_at(event.pos().x(), event.pos().y())
        if not isinstance(found, LaceDrag):
            return
        beat, word = found.lace.beat, found.lace.word
        menu = lace_menu(
            self, lambda: self.word_chosen.emit(beat, word), self._go_to, lambda: self.untie(beat, word), found.lace
        )
        menu.exec(event.globalPos())

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        """Drag, scrub, or say what is under the pointer."""
        assert event is not None
        place = event.position()
        pressed = bool(event.buttons() & Qt.MouseButton.LeftButton)
        if self.grabbed is not None and self._pressed is not None:
            far = abs(place.x() - self._pressed.x()) >= DRAGGED
            self._dragging = self._dragging or far
            if self._dragging:
                self._at = self.axis.at(place.x())
                if isinstance(self.grabbed, PinDrag):
                    self._player.show_mat(Fraction(self.grabbed.mat_at(self._at)).limit_denominator(1000))
                pulled = self._pulled(place)
                self._hover = (place, pulled.said(self._at)) if pulled is not None else None
        elif pressed:
            self._scrub(place)
        else:
            text = self.hits().about(place.x(), place.y())
            self._hover = (place, text) if text else None
            self._show_what_it_is(place)
        self.update()

    def mouseReleaseEvent(self, event: QMouseEvent | None) -> None:
        """What was dragged is put down where it is let go; what was only pressed is gone to."""
        grabbed = self.grabbed
        if grabbed is not None and self._pressed is not None:
            pulled = self._pulled(event.position()) if event is not None else grabbed
            if self._dragging and pulled is not None:
                self.make(pulled.edit(self._at))
            elif isinstance(grabbed, SectionDrag | EdgeDrag | SkipDrag):
                self._scrub(self._pressed)
        self.grabbed, self._pressed, self._dragging, self._hover = None, None, False, None
        self.refresh()

    def leaveEvent(self, event: object) -> None:
        """Nothing is under the pointer any more."""
        self._hover = None
        self.update()

    # ── inside ───────────────────────────────────────────────────────────────────────────────────────────
    def _recompiled(self) -> None:
        b = self._studio.production.breakdown
        self.model = self._builder.model(b, self._studio.programme)
        logged = _logged(b)
        if logged != self._logged:
            self._logged, self._log = logged, log_line(b, self._studio.known)
        self._rail = on_rail(self._log, self.model)
        self.axis.resize(self.width(), self.model.seconds)
        if self._pressed is None:
            self._keys.take_up_again()
        self.refresh()

    def _follow(self) -> None:
        left = self.axis.left
        if self._player.playing and not self.axis.whole:
            self.axis.reveal(self._player.head.frame / self.model.fps)
        if self.axis.left != left:
            self._still.forget()
        self.update()

    def _pulled(self, place: QPointF) -> Drag | None:
        """What is pulled at by now: a word or a lace means another thing above the watch rail than beside it."""
        up = place.y() < rows_for(self.height()).rail_top
        if isinstance(self.grabbed, WordDrag) and not up:
            return None
        return self.grabbed.up if isinstance(self.grabbed, LaceDrag) and up else self.grabbed

    def _scrub(self, place: QPointF) -> None:
        rows = rows_for(self.height())
        seconds = self.axis.at(place.x())
        if place.y() <= rows.mat_foot:
            stretch = self.model.stretch_at(seconds)
            if stretch is not None:
                self._player.show_mat(Fraction(stretch.mat_at(seconds)).limit_denominator(1000))
                return
        self._go_to(seconds)

    def _go_to(self, seconds: float) -> None:
        self._player.show_frame(int(seconds * self.model.fps))

    def _choose_word(self, place: QPointF) -> None:
        rows = rows_for(self.height())
        if rows.rail_foot <= place.y() < rows.words_foot:
            at = self.axis.at(place.x())
            near = [w for w in self.model.words_in(at, at + 1e-6) if w.start <= at < w.end]
            if near:
                self.word_chosen.emit(near[0].beat, near[0].word)

    def _show_what_it_is(self, place: QPointF) -> None:
        drag = self.hits().drag_at(place.x(), place.y())
        shapes = {EdgeDrag: Qt.CursorShape.SplitHCursor, SectionDrag: Qt.CursorShape.OpenHandCursor}
        shape = Qt.CursorShape.ArrowCursor if drag is None else Qt.CursorShape.PointingHandCursor
        self.setCursor(shapes.get(type(drag), shape))

    def _ghost(self, painter: QPainter) -> None:
        """Where what is grabbed would go."""
        assert self.grabbed is not None
        rows = rows_for(self.height())
        at = self._at if self._dragging else self.grabbed.place
        x = self.axis.x(self.grabbed.marker(at) if isinstance(self.grabbed, SectionDrag) else at)
        painter.setPen(QPen(QColor(FIRST), 2, Qt.PenStyle.DashLine))
        if isinstance(self.grabbed, SkipDrag):
            x0 = self.axis.x(self.grabbed.start)
            box = QRectF(min(x0, x), rows.mat_top, abs(x - x0), rows.mat_foot - rows.mat_top)
            painter.drawRect(box)
        else:
            top = rows.mat_top if isinstance(self.grabbed, SectionDrag | PinDrag) else rows.rail_top - 6
            painter.drawLine(QLineF(x, top, x, rows.chapters_foot))

    def _playhead(self, painter: QPainter) -> None:
        rows, head = rows_for(self.height()), self._player.head
        painter.setPen(QPen(QColor(FIRST), 1.6))
        if head.view is View.WATCH:
            x = self.axis.x(head.frame / self.model.fps)
            painter.drawLine(QLineF(x, rows.rail_top - 6, x, rows.height))
            mat = float(head.seen_mat(self._studio.programme))
            stretch = self.model.stretch_at(head.frame / self.model.fps)
        else:
            mat = float(head.mat)
            stretch = next((s for s in self.model.stretches if s.mat_in <= mat < s.mat_out), None)
        if stretch is not None and stretch.mat_in <= mat <= stretch.mat_out:
            x = self.axis.x(stretch.place(mat))
            painter.drawLine(QLineF(x, 2, x, rows.mat_foot))


def _logged(b: Breakdown) -> tuple[object, ...]:
    """What the line of the log is worked out from; after most edits the very same objects."""
    return b.positions, b.rounds, b.ruling, b.exchanges, b.first, b.second
