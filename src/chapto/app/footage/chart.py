"""The coverage chart as a widget: look, choose, decide, move edges, choose cameras."""

from __future__ import annotations

from collections.abc import Callable
from fractions import Fraction

from PyQt6.QtCore import QLineF, QPointF, QSize, Qt, pyqtSignal
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
from chapto.app.filmstrip import Filmstrip
from chapto.app.footage.chart_hits import ChartHits
from chapto.app.footage.chart_look import LOOK
from chapto.app.footage.chart_model import ChartModel, Stretch, chart_model
from chapto.app.footage.chart_paint import ChartPainter
from chapto.app.footage.file_menu import file_menu
from chapto.app.footage_analysis import FootageAnalysis
from chapto.app.screen.player import Player
from chapto.app.still_layer import StillLayer
from chapto.app.studio import Studio
from chapto.document import edit_angles, edit_conditions
from chapto.document.condition import ConditionKind
from chapto.document.footage import Angle, Footage
from chapto.paint.colours import FIRST


class CoverageChart(QWidget):
    """All cameras on the mat clock. `file_chosen` carries a footage id, `lining_up` asks to line it up by hand."""

    file_chosen = pyqtSignal(str)
    lining_up = pyqtSignal()

    def __init__(self, studio: Studio, player: Player, desk: FootageAnalysis) -> None:
        super().__init__()
        self._studio, self._player, self._desk = studio, player, desk
        self._files = studio.files
        self.film = Filmstrip(studio)
        self.axis = Axis()
        self.model: ChartModel = chart_model(studio.breakdown, studio.angles, desk.proposals)
        self.chosen_file = ""
        self.chosen: tuple[str, str, float] | None = None
        self._still = StillLayer()
        self._edge: str = ""
        self._moved: tuple[float, float] | None = None
        self._angle: tuple[Angle, str] | None = None
        self.setMouseTracking(True)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.MinimumExpanding)
        self.setAccessibleName("Which camera filmed when")
        self.film.arrived.connect(self.refresh)
        studio.changed.connect(self.follow)
        desk.changed.connect(self.follow)
        player.moved.connect(self.update)
        self.follow()

    def sizeHint(self) -> QSize:
        """As high as its lanes."""
        return QSize(860, int(LOOK.height(len(self.model.lanes))))

    def minimumSizeHint(self) -> QSize:
        """Never cuts a lane."""
        return QSize(500, int(LOOK.height(len(self.model.lanes))))

    def refresh(self) -> None:
        """Paint everything anew."""
        self._still.forget()
        self.update()

    def follow(self) -> None:
        """Take document and findings as they are now."""
        self.model = chart_model(self._studio.breakdown, self._studio.angles, self._desk.proposals)
        self.axis.resize(self.width() - LOOK.gutter, self.model.axis.length)
        if self.chosen is not None and self.stretch() is None:
            self.chosen = None
        self.updateGeometry()
        self.refresh()

    # ── choosing ─────────────────────────────────────────────────────────────────────────────────────────
    def stretch(self) -> Stretch | None:
        """The chosen stretch."""
        every = (s for lane in self.model.lanes for s in lane.stretches)
        return next((s for s in every if s.key == self.chosen), None)

    def choose(self, s: Stretch | None) -> None:
        """Choose a stretch and look at its middle through its own camera."""
        self.chosen = s.key if s else None
        if s is not None:
            self.choose_file(s.footage)
            self._player.show_mat(Fraction(round((s.start + min(s.end, s.start + 4)) * 500), 1000))
        self.refresh()

    def choose_file(self, footage_id: str) -> None:
        """Look through a file."""
        self._player.look_through(footage_id)
        if footage_id != self.chosen_file:
            self.chosen_file = footage_id
            self.file_chosen.emit(footage_id)
        self.refresh()

    def next_open(self, by: int = 1) -> None:
        """Choose the next stretch that waits for a decision."""
        waiting = self.model.open_stretches
        if not waiting:
            self._studio.message.emit("Nothing waits for a decision.")
            return
        keys = [s.key for s in waiting]
        here = keys.index(self.chosen) + by if self.chosen in keys else (0 if by > 0 else -1)
        self.choose(waiting[here % len(waiting)])

    # ── deciding ─────────────────────────────────────────────────────────────────────────────────────────
    def decide(self, accepted: bool, which: Stretch | None = None) -> None:
        """Take or throw away a stretch (the chosen one); a decision that was taken can be opened again."""
        s = which or self.stretch()
        if s is None:
            self._studio.message.emit("Choose a stretch first: press it, or go to the next with N.")
            return
        # With a press on the file's own sheet the hand stays at that file.
        following = self._after(s, s.footage if which is not None else "")
        if s.decision is not None:
            if not accepted:
                found = s.decision.id
                self._studio.edit("open the decision again", lambda b: edit_conditions.reopen(b, found))
            return
        self.put(s, s.start, s.end, accepted=accepted)
        if following is not None:
            self.choose(following)

    def put(self, s: Stretch, start: float, end: float, *, accepted: bool = True) -> None:
        """Decide a stretch with these edges, in mat seconds."""
        c = self._studio.breakdown.camera(s.footage)
        a, z = self._in_file(c, start), self._in_file(c, end)
        if s.decision is not None:
            found = s.decision.id
            self._studio.edit(f"move “{s.kind}”", lambda b: edit_conditions.move_condition(b, found, a, z))
        else:
            what = f"{'take' if accepted else 'throw away'} “{s.kind}”"
            self._studio.edit(what, lambda b: edit_conditions.decide(b, c.id, s.kind, a, z, accepted=accepted))
        if accepted:
            self.chosen = next(
                (x.key for lane in self.model.lanes for x in lane.stretches
                 if x.footage == s.footage and x.kind is s.kind and abs(x.start - start) < 0.2),
                None,
            )  # fmt: skip

    def mark(self, kind: ConditionKind, seconds: float = 3.0) -> None:
        """Mark a stretch by hand, from the playhead on."""
        c = next((x for x in self._studio.breakdown.footage if x.id == self.chosen_file), None)
        if c is None:
            return
        at = self._in_file(c, float(self._player.head.mat))
        end = at + Fraction(seconds)
        self._studio.edit(
            f"mark “{kind}”", lambda b: edit_conditions.decide(b, c.id, kind, at, end, accepted=True)
        )  # fmt: skip

    def edge_here(self, which: str) -> None:
        """Move the start or end of the chosen stretch to the picture."""
        s = self.stretch()
        if s is None:
            self._studio.message.emit("Choose a stretch first: press it, or go to the next with N.")
            return
        mat = float(self._player.head.mat)
        self.put(s, *((mat, s.end) if which == "start" else (s.start, mat)))

    def camera(self, number: int) -> None:
        """Use camera `number` from the picture on; 0 leaves the choice to Chapto."""
        mat = self._player.head.seen_mat(self._studio.programme).limit_denominator(1000)
        if number == 0:
            self._studio.edit("leave the camera to Chapto", lambda b: edit_angles.leave_camera(b, mat))
        elif number <= len(self.model.lanes):
            name = self.model.lanes[number - 1].camera
            self._studio.edit(f"use {name}", lambda b: edit_angles.choose_camera(b, mat, name))
            self._player.look_through("")

    # ── Qt ───────────────────────────────────────────────────────────────────────────────────────────────
    def paintEvent(self, event: QPaintEvent | None) -> None:
        """The chart and the playhead."""
        p = QPainter(self)
        p.setRenderHint(QPainter.RenderHint.Antialiasing)
        self._still.paint(p, self, self._everything)
        x = self.pixel(float(self._player.head.seen_mat(self._studio.programme)))
        if x >= LOOK.gutter:
            p.setPen(QPen(QColor(FIRST), 1.8))
            p.drawLine(QLineF(x, 3, x, LOOK.height(len(self.model.lanes)) - 4))
        p.end()

    def _everything(self, p: QPainter) -> None:
        missing = frozenset(c.id for c in self._studio.breakdown.footage if c.id not in self._files.places)
        ChartPainter(
            p, self.model, self.axis, self.width(), self._studio.breakdown, self.film, self._desk, missing,
            self.chosen_file, self.chosen, self._moved,
        ).draw()  # fmt: skip

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        """The whole stays whole."""
        self.axis.resize(self.width() - LOOK.gutter, self.model.axis.length)

    def wheelEvent(self, event: QWheelEvent | None) -> None:
        """Wheel zooms about the pointer; with Shift, or sideways, it moves along."""
        assert event is not None
        across, turn = event.angleDelta().x(), event.angleDelta().y()
        if across or event.modifiers() & Qt.KeyboardModifier.ShiftModifier:
            self.axis.pan(-(across or turn) / 2)
        else:
            self.axis.zoom(1.0016**turn, event.position().x() - LOOK.gutter)
        self.refresh()
        event.accept()

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        """The stage's keys."""
        assert event is not None
        if event.modifiers() & (Qt.KeyboardModifier.ControlModifier | Qt.KeyboardModifier.AltModifier):
            super().keyPressEvent(event)
            return
        acts: dict[int, Callable[[], object]] = {
            Qt.Key.Key_N: self.next_open,
            Qt.Key.Key_P: lambda: self.next_open(-1),
            Qt.Key.Key_Return: lambda: self.decide(True),
            Qt.Key.Key_Enter: lambda: self.decide(True),
            Qt.Key.Key_Delete: lambda: self.decide(False),
            Qt.Key.Key_Comma: lambda: self.edge_here("start"),
            Qt.Key.Key_Period: lambda: self.edge_here("end"),
            Qt.Key.Key_Plus: lambda: self._zoom(1.4),
            Qt.Key.Key_Equal: lambda: self._zoom(1.4),
            Qt.Key.Key_Minus: lambda: self._zoom(1 / 1.4),
            Qt.Key.Key_Asterisk: self._whole,
            Qt.Key.Key_Down: lambda: self._other_file(1),
            Qt.Key.Key_Up: lambda: self._other_file(-1),
        }
        key = event.text()
        if key.isdigit():
            self.camera(int(key))
        elif event.key() in acts:
            acts[event.key()]()
        else:
            super().keyPressEvent(event)
        self.refresh()

    def contextMenuEvent(self, event: QContextMenuEvent | None) -> None:
        """What can be done with the file under the pointer."""
        assert event is not None
        place = QPointF(event.pos())
        c = self._hits().file_at(place, self._mat(place.x()))
        if c is not None:
            self.choose_file(c.id)
            file_menu(self, self._studio, c, self.lining_up.emit).exec(event.globalPos())

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        """An edge is taken hold of, a stretch or file is chosen, and the picture goes there."""
        assert event is not None
        self.setFocus()
        place = event.position()
        self._angle = self._hits().angle_at(place, self._studio.breakdown.angles)
        if self._angle is not None:
            return
        s = self.stretch()
        self._edge = self._hits().edge_at(place, s) if s else ""
        if self._edge and s is not None:
            self._moved = (s.start, s.end)
            return
        mat = self._mat(place.x())
        if place.x() >= LOOK.gutter:
            self._player.show_mat(Fraction(mat).limit_denominator(1000))
        c = self._hits().file_at(place, mat)
        hit = self._hits().stretch_at(place, mat)
        if c is not None:
            self.choose_file(c.id)
        if place.y() < LOOK.ruler + LOOK.log + LOOK.angles:
            self._player.look_through("")
        self.chosen = hit.key if hit else None
        self.refresh()

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        """Drag an edge, or along the clock."""
        assert event is not None
        place = event.position()
        if self._angle is not None or self._edge:
            mat = self._mat(place.x())
            if self._moved is not None:
                a, z = self._moved
                self._moved = (min(mat, z - 0.1), z) if self._edge == "start" else (a, max(mat, a + 0.1))
            self._player.show_mat(Fraction(mat).limit_denominator(1000))
            self.refresh()
        elif event.buttons() & Qt.MouseButton.LeftButton and place.x() >= LOOK.gutter:
            self._player.show_mat(Fraction(self._mat(place.x())).limit_denominator(1000))
        else:
            s = self.stretch()
            hits = self._hits()
            on_angle = hits.angle_at(place, self._studio.breakdown.angles) is not None
            over = on_angle or (s is not None and bool(hits.edge_at(place, s)))
            self.setCursor(Qt.CursorShape.SplitHCursor if over else Qt.CursorShape.ArrowCursor)

    def mouseReleaseEvent(self, event: QMouseEvent | None) -> None:
        """An edge is put down."""
        assert event is not None
        s = self.stretch()
        if self._angle is not None:
            (angle, edge), mat = self._angle, Fraction(round(self._mat(event.position().x()) * 1000), 1000)
            where = {edge: mat}
            self._studio.edit("move the end of a camera", lambda b: edit_angles.move_angle_edge(b, angle, **where))
        elif self._moved is not None and s is not None and self._moved != (s.start, s.end):
            self.put(s, *self._moved)
        self._edge, self._moved, self._angle = "", None, None
        self.refresh()

    # ── inside ───────────────────────────────────────────────────────────────────────────────────────────
    def pixel(self, mat: float) -> float:
        """Pixel of a mat time."""
        return LOOK.gutter + self.axis.x(self.model.axis.place(mat))

    def _mat(self, x: float) -> float:
        return self.model.axis.mat(self.axis.at(x - LOOK.gutter))

    def _hits(self) -> ChartHits:
        return ChartHits(self.model, self.pixel, self._mat)

    def _zoom(self, factor: float) -> None:
        x = self.pixel(float(self._player.head.mat)) - LOOK.gutter
        self.axis.zoom(factor, min(max(x, 0), self.width() - LOOK.gutter))

    def _whole(self) -> None:
        self.axis.show_all()

    def _other_file(self, by: int) -> None:
        files = [c.id for lane in self.model.lanes for c in lane.files]
        if files:
            here = files.index(self.chosen_file) if self.chosen_file in files else -by
            self.choose_file(files[(here + by) % len(files)])

    def _after(self, s: Stretch, within: str = "") -> Stretch | None:
        """The next open stretch, the one a decision moves on to; `within` a file (by id) only of that one."""
        waiting = [x for x in self.model.open_stretches if x.key != s.key and within in ("", x.footage)]
        return next((x for x in waiting if x.start >= s.start), waiting[0] if waiting else None)

    @staticmethod
    def _in_file(c: Footage, mat: float) -> Fraction:
        seconds = c.media_time(Fraction(round(mat * 1000), 1000)).limit_denominator(1000)
        return min(max(seconds, Fraction(0)), c.duration)
