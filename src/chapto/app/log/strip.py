"""The mat clock from end to end: what was filmed, rounds, exchanges, moments, and where the picture is."""

from __future__ import annotations

from fractions import Fraction

from PyQt6.QtCore import QLineF, QPoint, QPointF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QColor, QContextMenuEvent, QMouseEvent, QPainter, QPaintEvent, QPen, QResizeEvent, QWheelEvent
from PyQt6.QtWidgets import QSizePolicy, QWidget

from chapto.app.axis import Axis
from chapto.app.filmstrip import Filmstrip
from chapto.app.log.strip_look import LOOK
from chapto.app.log.strip_paint import StripPainter
from chapto.app.screen.player import Player
from chapto.app.still_layer import StillLayer
from chapto.app.studio import Studio
from chapto.document import edit_log, edit_positions
from chapto.matlog.jumps import unlikely_jumps
from chapto.paint.colours import FIRST, ON_DARK
from chapto.paint.control import control_blocks

NEAR = 5.0
"""Pixels within which a press takes hold of the edge between two positions."""
APART = 120
"""Seconds without footage that part one run of the mat clock from the next."""


class BoutStrip(QWidget):
    """Shows the run of footage around the playhead, whole or closer; a press goes there."""

    exchange_chosen = pyqtSignal(str)
    menu_asked = pyqtSignal(str, QPoint)

    def __init__(self, studio: Studio, player: Player) -> None:
        super().__init__()
        self._studio, self._player = studio, player
        self._edge: Fraction | None = None
        self._handle: tuple[str, str] | None = None
        self._to: Fraction | None = None
        self._blocks = control_blocks(studio.breakdown, studio.known.lexicon)
        self._jumps = unlikely_jumps(studio.breakdown, studio.known.lexicon)
        self._still = StillLayer()
        self._runs = self._runs_of_footage()
        self._span = self._runs[0]
        self.axis = Axis()
        self.setMouseTracking(True)
        self.film = Filmstrip(studio)
        self.film.arrived.connect(self.refresh)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        self.setFixedHeight(int(LOOK.height))
        self.setAccessibleName("Mat clock")
        studio.changed.connect(self._document)
        player.moved.connect(self._moved)
        self.chosen = ""

    def sizeHint(self) -> QSize:
        """Full width."""
        return QSize(1000, self.height())

    def span(self) -> tuple[float, float]:
        """The mat seconds of the run that is shown."""
        return self._span

    def refresh(self) -> None:
        """Paint everything anew."""
        self._still.forget()
        self.update()

    def zoom(self, factor: float, about: float | None = None) -> None:
        """Closer or wider about a pixel, by default about the playhead."""
        self.axis.zoom(factor, self.pixel(self._mat_seen()) if about is None else about)
        self.refresh()

    def show_all(self) -> None:
        """The whole run."""
        self.axis.show_all()
        self.refresh()

    def pixel(self, mat: float) -> float:
        """Pixel of a mat time."""
        return self.axis.x(mat - self._span[0])

    def mat_at(self, x: float) -> float:
        """Mat time of a pixel, inside the run."""
        low, high = self._span
        return min(max(low + self.axis.at(x), low), high)

    def _runs_of_footage(self) -> tuple[tuple[float, float], ...]:
        runs: list[list[float]] = []
        for c in sorted(self._studio.breakdown.footage, key=lambda c: c.mat_in):
            if runs and float(c.mat_in) - runs[-1][1] < APART:
                runs[-1][1] = max(runs[-1][1], float(c.mat_out))
            else:
                runs.append([float(c.mat_in), float(c.mat_out)])
        return tuple((start, end) for start, end in runs) or ((0.0, 60.0),)

    def _mat_seen(self) -> float:
        return float(self._player.head.seen_mat(self._studio.programme))

    def _moved(self) -> None:
        """Another run of footage is shown when the playhead is in another one; it stays in view."""
        mat = self._mat_seen()
        near = min(self._runs, key=lambda r: 0.0 if r[0] <= mat <= r[1] else min(abs(mat - r[0]), abs(mat - r[1])))
        if near != self._span:
            self._span = near
            self.axis.show_all()
            self._fit()
        left = self.axis.left
        if not self._to and near[0] <= mat <= near[1]:
            self.axis.reveal(mat - near[0])
        if self.axis.left != left:
            self._still.forget()
        self.update()

    def _document(self) -> None:
        self._blocks = control_blocks(self._studio.breakdown, self._studio.known.lexicon)
        self._jumps = unlikely_jumps(self._studio.breakdown, self._studio.known.lexicon)
        self._runs = self._runs_of_footage()
        self._moved()
        self._fit()

    def _fit(self) -> None:
        self.axis.resize(self.width(), self._span[1] - self._span[0])
        self.refresh()

    # ── Qt ───────────────────────────────────────────────────────────────────────────────────────────────
    def paintEvent(self, event: QPaintEvent | None) -> None:
        """Film, control, rounds, exchanges, moments, and over them what moves."""
        p = QPainter(self)
        p.setRenderHint(QPainter.RenderHint.Antialiasing)
        self._still.paint(p, self, self._everything)
        if self._to is not None:
            p.setPen(QPen(QColor(ON_DARK), 1.6))
            p.drawLine(QLineF(self.pixel(float(self._to)), LOOK.ruler, self.pixel(float(self._to)), self.height()))
        x = self.pixel(self._mat_seen())
        p.setPen(QPen(QColor(FIRST), 2))
        p.drawLine(QLineF(x, 4, x, self.height()))
        p.end()

    def _everything(self, p: QPainter) -> None:
        StripPainter(
            p, self.axis, *self._span, self._studio.breakdown, self.film, self._blocks, self._jumps, self.chosen
        ).draw(self.width())

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        """The whole stays whole."""
        self._fit()

    def wheelEvent(self, event: QWheelEvent | None) -> None:
        """Wheel zooms about the pointer; with Shift, or sideways, it moves along."""
        assert event is not None
        across, turn = event.angleDelta().x(), event.angleDelta().y()
        if across or event.modifiers() & Qt.KeyboardModifier.ShiftModifier:
            self.axis.pan(-(across or turn) / 2)
            self.refresh()
        else:
            self.zoom(1.0016**turn, event.position().x())
        event.accept()

    def contextMenuEvent(self, event: QContextMenuEvent | None) -> None:
        """The menu of the exchange under the pointer, as its row has it."""
        assert event is not None
        mat, y = self.mat_at(event.pos().x()), event.pos().y()
        if LOOK.exchanges_top <= y <= LOOK.moments_top:
            hit = next((x for x in self._studio.breakdown.exchanges if x.start <= mat < x.end), None)
            if hit is not None:
                self.exchange_chosen.emit(hit.id)
                self.menu_asked.emit(hit.id, event.globalPos())

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        """Go to that mat time; an exchange there is chosen."""
        assert event is not None
        self._edge = self._edge_at(event.position())
        self._handle = self._handle_at(event.position())
        if self._edge is not None or self._handle is not None:
            return
        mat = self.mat_at(event.position().x())
        self._player.show_mat(Fraction(mat).limit_denominator(1000))
        if LOOK.exchanges_top <= event.position().y() <= LOOK.moments_top:
            hit = next((x for x in self._studio.breakdown.exchanges if x.start <= mat < x.end), None)
            if hit is not None:
                self.exchange_chosen.emit(hit.id)

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        """Drag an edge between positions, or along the clock; say what is odd."""
        assert event is not None
        place = event.position()
        if self._edge is not None or self._handle is not None:
            self._to = Fraction(round(self.mat_at(place.x()) * 100), 100)
            self._player.show_mat(self._to)
        elif event.buttons() & Qt.MouseButton.LeftButton:
            self._player.show_mat(Fraction(self.mat_at(place.x())).limit_denominator(1000))
        else:
            edge = self._edge_at(place)
            over = edge is not None or self._handle_at(place) is not None
            self.setCursor(Qt.CursorShape.SplitHCursor if over else Qt.CursorShape.ArrowCursor)
            self.setToolTip(next((j.sentence for j in self._jumps if j.at == edge), ""))

    def mouseReleaseEvent(self, event: QMouseEvent | None) -> None:
        """An edge is put down; what lies on both sides of it follows."""
        edge, handle, to = self._edge, self._handle, self._to
        self._edge = self._handle = self._to = None
        if edge is not None and to is not None and to != edge:
            self._studio.edit("move the change of position", lambda b: edit_positions.move_edge(b, edge, to))
        elif handle is not None and to is not None:
            self._put_down(*handle, to)
        self.update()

    # ── under the pointer ────────────────────────────────────────────────────────────────────────────────
    def _edge_at(self, place: QPointF) -> Fraction | None:
        """The edge of a position."""
        if not LOOK.control_top <= place.y() <= LOOK.rounds_top:
            return None
        edges = {e for x in self._studio.breakdown.positions for e in (x.start, x.end)}
        near = min(edges, key=lambda e: abs(self.pixel(float(e)) - place.x()), default=None)
        return near if near is not None and abs(self.pixel(float(near)) - place.x()) <= NEAR else None

    def _handle_at(self, place: QPointF) -> tuple[str, str] | None:
        """What can be dragged: (id, field) of a round, exchange or moment."""
        b, y = self._studio.breakdown, place.y()
        handles: list[tuple[str, str, Fraction]] = []
        if LOOK.rounds_top <= y < LOOK.exchanges_top:
            handles = [(r.id, side, getattr(r, side)) for r in b.rounds for side in ("start", "end")]
        elif LOOK.exchanges_top <= y < LOOK.moments_top:
            handles = [(x.id, side, getattr(x, side)) for x in b.exchanges for side in ("start", "end")]
        elif y >= LOOK.moments_top:
            handles = [(m.id, "at", m.at) for m in b.moments]
        near = min(handles, key=lambda h: abs(self.pixel(float(h[2])) - place.x()), default=None)
        return near[:2] if near is not None and abs(self.pixel(float(near[2])) - place.x()) <= NEAR - 1 else None

    def _put_down(self, item: str, field: str, to: Fraction) -> None:
        b = self._studio.breakdown
        if any(r.id == item for r in b.rounds):
            self._studio.edit(f"move the {field} of a round", lambda b: edit_log.change_round(b, item, **{field: to}))
        elif any(x.id == item for x in b.exchanges):
            what = f"move the {field} of an exchange"
            self._studio.edit(what, lambda b: edit_log.change_exchange(b, item, **{field: to}))
        else:
            self._studio.edit("move the moment", lambda b: edit_log.change_moment(b, item, at=to))
