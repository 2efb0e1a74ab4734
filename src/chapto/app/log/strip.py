"""The mat clock from end to end: what was filmed, rounds, exchanges, moments, and where the picture is."""

from __future__ import annotations

from fractions import Fraction
from itertools import groupby

from PyQt6.QtCore import QLineF, QPointF, QRectF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QBrush, QColor, QFontMetricsF, QMouseEvent, QPainter, QPainterPath, QPaintEvent, QPen
from PyQt6.QtWidgets import QSizePolicy, QWidget

from chapto.app.filmstrip import Filmstrip
from chapto.app.screen.player import Player
from chapto.app.still_layer import StillLayer
from chapto.app.studio import Studio
from chapto.app.theme import number_font, text_font
from chapto.clock.timecode import clock_text
from chapto.document import edit_log, edit_positions
from chapto.document.bout import Exchange, Outcome
from chapto.document.people import Side
from chapto.lexicon.lexicon import Lexicon
from chapto.matlog.jumps import unlikely_jumps
from chapto.paint.colours import DEEP, FIRST, INK, ON_DARK, ON_DARK_SOFT, PAPER, SPRUCE, SPRUCE_LINE, readable_on
from chapto.paint.control import control_blocks, paint_control, paint_unsure

RULER, FILM, CONTROL, ROUNDS, EXCHANGES, MOMENTS = 20.0, 42.0, 92.0, 17.0, 28.0, 14.0
SLIP = 14.0
"""Room above and below the control strip for the slips with points."""
NEAR = 5.0
"""Pixels within which a press takes hold of the edge between two positions."""


class BoutStrip(QWidget):
    """Shows the stretch of mat time around the playhead's footage; a press goes there."""

    exchange_chosen = pyqtSignal(str)

    def __init__(self, studio: Studio, player: Player, lexicon: Lexicon) -> None:
        super().__init__()
        self._studio, self._player, self._lexicon = studio, player, lexicon
        self._files = studio.files
        self._edge: Fraction | None = None
        self._handle: tuple[str, str] | None = None
        self._to: Fraction | None = None
        self._blocks = control_blocks(studio.breakdown, lexicon)
        self._jumps = unlikely_jumps(studio.breakdown, lexicon)
        self._still = StillLayer()
        self._runs = self._runs_of_footage()
        self._span = self._runs[0]
        self.setMouseTracking(True)
        self.film = Filmstrip(studio)
        self.film.arrived.connect(self.refresh)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        self.setFixedHeight(int(RULER + FILM + CONTROL + ROUNDS + EXCHANGES + MOMENTS + 6))
        self.setAccessibleName("Mat clock")
        studio.changed.connect(self._document)
        self._files.ready.connect(self.refresh)
        player.moved.connect(self._moved)
        self.chosen = ""

    def sizeHint(self) -> QSize:
        """Full width."""
        return QSize(1000, self.height())

    def span(self) -> tuple[float, float]:
        """The mat seconds shown: one run of footage without long gaps, the one under the playhead."""
        return self._span

    def refresh(self) -> None:
        """Paint everything anew."""
        self._still.forget()
        self.update()

    def _runs_of_footage(self) -> tuple[tuple[float, float], ...]:
        runs: list[list[float]] = []
        for c in sorted(self._studio.breakdown.footage, key=lambda c: c.mat_in):
            if runs and float(c.mat_in) - runs[-1][1] < 120:
                runs[-1][1] = max(runs[-1][1], float(c.mat_out))
            else:
                runs.append([float(c.mat_in), float(c.mat_out)])
        return tuple((a, z) for a, z in runs) or ((0.0, 60.0),)

    def _moved(self) -> None:
        """Another run of footage is shown when the playhead is in another one."""
        mat = float(self._player.head.seen_mat(self._studio.programme))
        near = min(self._runs, key=lambda r: 0.0 if r[0] <= mat <= r[1] else min(abs(mat - r[0]), abs(mat - r[1])))
        if near != self._span:
            self._span = near
            self._still.forget()
        self.update()

    def _x(self, mat: float) -> float:
        low, high = self.span()
        return 12 + (mat - low) / (high - low) * (self.width() - 24)

    def _mat(self, x: float) -> float:
        low, high = self.span()
        return min(max(low + (x - 12) / (self.width() - 24) * (high - low), low), high)

    def paintEvent(self, event: QPaintEvent | None) -> None:
        """Film, control, rounds, exchanges, moments, and over them what moves."""
        p = QPainter(self)
        p.setRenderHint(QPainter.RenderHint.Antialiasing)
        self._still.paint(p, self, self._everything)
        if self._to is not None:
            p.setPen(QPen(QColor(ON_DARK), 1.6))
            p.drawLine(QLineF(self._x(float(self._to)), RULER, self._x(float(self._to)), self.height()))
        mat = float(self._player.head.seen_mat(self._studio.programme))
        p.setPen(QPen(QColor(FIRST), 2))
        p.drawLine(QLineF(self._x(mat), 4, self._x(mat), self.height()))
        p.end()

    def _everything(self, p: QPainter) -> None:
        p.fillRect(self.rect(), QColor(SPRUCE))
        low, high = self.span()
        self._ruler(p, low, high)
        self._filmed(p, low, high)
        self._control(p, low, high)
        b = self._studio.breakdown
        for r in b.rounds:
            self._round(p, float(r.start), float(r.end), r.name)
        for x in b.exchanges:
            self._exchange(p, x)
        for m in b.moments:
            self._moment(p, float(m.at))

    def _ruler(self, p: QPainter, low: float, high: float) -> None:
        step = next(
            (s for s in (1, 2, 5, 10, 15, 30, 60, 120, 300) if s * (self.width() - 24) / (high - low) > 62), 600
        )
        p.setFont(number_font(13))
        k = int(-(-low // step))
        while k * step <= high:
            x = self._x(k * step)
            p.setPen(QColor(SPRUCE_LINE))
            p.drawLine(QLineF(x, RULER - 5, x, RULER))
            p.setPen(QColor(ON_DARK_SOFT))
            if x + 40 > self.width():
                break
            p.drawText(QRectF(x + 4, 1, 60, RULER - 2), Qt.AlignmentFlag.AlignVCenter, clock_text(k * step))
            k += 1

    def _filmed(self, p: QPainter, low: float, high: float) -> None:
        top = QRectF(self._x(low), RULER, self._x(high) - self._x(low), FILM - 4)
        p.fillRect(top, QColor(DEEP))
        p.fillRect(top, QBrush(QColor(SPRUCE_LINE), Qt.BrushStyle.BDiagPattern))
        width = (FILM - 4) * 16 / 9
        count = max(int(top.width() / width), 1)
        each = top.width() / count
        for i in range(count):
            image = self.film.at(Fraction(low + (i + 0.5) * (high - low) / count).limit_denominator(100))
            if image is not None:
                box = QRectF(top.left() + i * each, top.top(), each, top.height())
                shown = min(image.width(), image.height() * each / top.height())
                source = QRectF((image.width() - shown) / 2, 0, shown, image.height())
                p.drawImage(box, image, source)
        p.setPen(QPen(QColor(DEEP), 1))
        for i in range(1, count):
            p.drawLine(QLineF(top.left() + i * each, top.top(), top.left() + i * each, top.bottom()))

    def _document(self) -> None:
        self._blocks = control_blocks(self._studio.breakdown, self._lexicon)
        self._jumps = unlikely_jumps(self._studio.breakdown, self._lexicon)
        self._runs = self._runs_of_footage()
        self._moved()
        self.refresh()

    def _control(self, p: QPainter, low: float, high: float) -> None:
        """Control of the first above the line, of the second below; unsure stretches hatched, odd changes asked."""
        b = self._studio.breakdown
        box = QRectF(self._x(low), RULER + FILM, self._x(high) - self._x(low), CONTROL - 4)
        p.fillRect(box, QColor(DEEP))
        known = sorted((float(x.start), float(x.end)) for x in b.positions)
        for r in b.rounds:
            at = float(r.start)
            for start, end in [*known, (float(r.end), float(r.end))]:
                if min(start, float(r.end)) - at > 0.05 and low <= at <= high:
                    paint_unsure(p, box, self._x(at), self._x(min(start, float(r.end))))
                at = max(at, end)
        p.save()
        p.setClipRect(box)
        for kits, blocks in groupby(self._blocks, key=lambda block: self._kits(Fraction(block.start))):
            paint_control(p, list(blocks), box.adjusted(0, SLIP, 0, -SLIP), self._x, kits)
        p.restore()
        for stop in b.ruling.stops:
            a, z = self._x(float(stop.start)), self._x(float(stop.end))
            p.fillRect(
                QRectF(a, box.top(), z - a, box.height()), QBrush(QColor(ON_DARK_SOFT), Qt.BrushStyle.Dense6Pattern)
            )
        for x in b.exchanges:
            if x.by is not None and low <= x.start <= high:
                y = box.top() + SLIP - 2 if x.by is Side.FIRST else box.bottom() - SLIP + 2
                p.setPen(QPen(QColor(ON_DARK_SOFT), 2))
                p.drawLine(QLineF(self._x(float(x.start)), y, self._x(float(x.end)), y))
        for g in b.ruling.points:
            if low <= float(g.at) <= high:
                top = g.side is Side.FIRST
                self._flag(p, box, self._x(float(g.at)), f"{g.points:+d}".replace("-", "−"), top=top)
        for jump in self._jumps:
            if low <= float(jump.at) <= high:
                self._flag(p, box, self._x(float(jump.at)), "?", top=True)

    @staticmethod
    def _flag(p: QPainter, box: QRectF, x: float, text: str, *, top: bool) -> None:
        """A small slip of paper at the edge of the strip."""
        slip = QRectF(x - 11, box.top() if top else box.bottom() - SLIP, 22, SLIP)
        p.setPen(Qt.PenStyle.NoPen)
        p.setBrush(QColor(PAPER))
        p.drawRoundedRect(slip, 3, 3)
        p.setPen(QColor(INK))
        p.setFont(number_font(13, 600))
        p.drawText(slip, Qt.AlignmentFlag.AlignCenter, text)

    def _edge_at(self, place: QPointF) -> Fraction | None:
        """The edge of a position under the pointer."""
        if not RULER + FILM <= place.y() <= RULER + FILM + CONTROL:
            return None
        edges = {e for x in self._studio.breakdown.positions for e in (x.start, x.end)}
        near = min(edges, key=lambda e: abs(self._x(float(e)) - place.x()), default=None)
        return near if near is not None and abs(self._x(float(near)) - place.x()) <= NEAR else None

    def _handle_at(self, place: QPointF) -> tuple[str, str] | None:
        """What can be dragged under the pointer: (id, field) of a round, exchange or moment."""
        b, y = self._studio.breakdown, place.y() - RULER - FILM - CONTROL
        handles: list[tuple[str, str, Fraction]] = []
        if 0 <= y < ROUNDS:
            handles = [(r.id, side, getattr(r, side)) for r in b.rounds for side in ("start", "end")]
        elif 0 <= y - ROUNDS < EXCHANGES:
            handles = [(x.id, side, getattr(x, side)) for x in b.exchanges for side in ("start", "end")]
        elif y - ROUNDS - EXCHANGES >= 0:
            handles = [(m.id, "at", m.at) for m in b.moments]
        near = min(handles, key=lambda h: abs(self._x(float(h[2])) - place.x()), default=None)
        return near[:2] if near is not None and abs(self._x(float(near[2])) - place.x()) <= NEAR - 1 else None

    def _put_down(self, item: str, field: str, to: Fraction) -> None:
        b = self._studio.breakdown
        if any(r.id == item for r in b.rounds):
            self._studio.edit(f"move the {field} of a round", lambda b: edit_log.change_round(b, item, **{field: to}))
        elif any(x.id == item for x in b.exchanges):
            what = f"move the {field} of an exchange"
            self._studio.edit(what, lambda b: edit_log.change_exchange(b, item, **{field: to}))
        else:
            self._studio.edit("move the moment", lambda b: edit_log.change_moment(b, item, at=to))

    def _round(self, p: QPainter, start: float, end: float, name: str) -> None:
        low, high = self.span()
        if end < low or start > high:
            return
        y = RULER + FILM + CONTROL
        box = QRectF(self._x(max(start, low)), y, self._x(min(end, high)) - self._x(max(start, low)), ROUNDS - 5)
        p.setPen(Qt.PenStyle.NoPen)
        p.setBrush(QColor(SPRUCE_LINE))
        p.drawRoundedRect(box, 3, 3)
        p.setPen(QColor(ON_DARK))
        p.setFont(text_font(12, 500))
        p.drawText(box.adjusted(7, 0, 0, 0), Qt.AlignmentFlag.AlignVCenter, name)

    def _kits(self, mat: Fraction) -> tuple[str, str]:
        b = self._studio.breakdown
        return b.athlete(Side.FIRST, mat).kit_colour, b.athlete(Side.SECOND, mat).kit_colour

    def _exchange(self, p: QPainter, x: Exchange) -> None:
        low, high = self.span()
        if x.end < low or x.start > high:
            return
        b = self._studio.breakdown
        kit = b.athlete(x.by, x.start).kit_colour if x.by else "#9A958A"
        y = RULER + FILM + CONTROL + ROUNDS
        box = QRectF(self._x(float(x.start)), y, max(self._x(float(x.end)) - self._x(float(x.start)), 4), EXCHANGES - 6)
        p.setPen(QPen(QColor(ON_DARK), 2) if x.id == self.chosen else Qt.PenStyle.NoPen)
        p.setBrush(
            QColor(kit) if x.outcome is not Outcome.STOPPED else QBrush(QColor(kit), Qt.BrushStyle.Dense4Pattern)
        )
        p.drawRoundedRect(box, 4, 4)
        ink = readable_on(kit) if x.outcome is not Outcome.STOPPED else ON_DARK
        p.setFont(text_font(12, 600))
        metrics = QFontMetricsF(p.font())
        text = metrics.elidedText(x.technique or "exchange", Qt.TextElideMode.ElideRight, box.width() - 22)
        sign = QPointF(box.left() + 10, box.center().y())
        if box.width() > 18:
            p.setPen(Qt.PenStyle.NoPen)
            p.setBrush(QColor(INK if ink == INK else ON_DARK))
            if x.by is Side.SECOND:
                p.drawRect(QRectF(sign.x() - 3.5, sign.y() - 3.5, 7, 7))
            elif x.by is Side.FIRST:
                p.drawEllipse(sign, 4, 4)
        if len(text) > 3:
            p.setPen(QColor(ink))
            p.drawText(box.adjusted(19, 0, 0, 0), Qt.AlignmentFlag.AlignVCenter, text)

    def _moment(self, p: QPainter, at: float) -> None:
        low, high = self.span()
        if low <= at <= high:
            x, y = self._x(at), RULER + FILM + CONTROL + ROUNDS + EXCHANGES
            pin = QPainterPath(QPointF(x, y))
            pin.lineTo(x + 5, y + 11)
            pin.lineTo(x - 5, y + 11)
            pin.closeSubpath()
            p.setPen(Qt.PenStyle.NoPen)
            p.setBrush(QColor(ON_DARK))
            p.drawPath(pin)

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        """Go to that mat time; an exchange there is chosen."""
        assert event is not None
        self._edge = self._edge_at(event.position())
        self._handle = self._handle_at(event.position())
        if self._edge is not None or self._handle is not None:
            return
        mat = self._mat(event.position().x())
        self._player.show_mat(Fraction(mat).limit_denominator(1000))
        y = RULER + FILM + CONTROL + ROUNDS
        if y <= event.position().y() <= y + EXCHANGES:
            hit = next((x for x in self._studio.breakdown.exchanges if x.start <= mat < x.end), None)
            if hit is not None:
                self.exchange_chosen.emit(hit.id)

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        """Drag an edge between positions, or along the clock; say what is odd."""
        assert event is not None
        place = event.position()
        if self._edge is not None or self._handle is not None:
            self._to = Fraction(round(self._mat(place.x()) * 100), 100)
            self._player.show_mat(self._to)
        elif event.buttons() & Qt.MouseButton.LeftButton:
            self._player.show_mat(Fraction(self._mat(place.x())).limit_denominator(1000))
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
