"""The map of what is covered: positions as rounds, ways between them as bows; what was never explained stands out."""

from __future__ import annotations

from PyQt6.QtCore import QPointF, QRectF, Qt, pyqtSignal
from PyQt6.QtGui import QColor, QKeyEvent, QMouseEvent, QPainter, QPainterPath, QPainterPathStroker, QPaintEvent, QPen
from PyQt6.QtWidgets import QWidget

from chapto.app.shelf.map_model import Map, Road, Spot
from chapto.app.theme import number_font, text_font
from chapto.paint.colours import AMBER, DEEP, FIRST, ON_DARK, ON_DARK_SOFT, SPRUCE, SPRUCE_LIGHT, SPRUCE_LINE, TIES
from chapto.paint.lettering import write
from chapto.programme.programme import TieState

HEAD, EDGE, FOOT = 40.0, 22.0, 30.0
TOLD = TIES[TieState.MET]


class MapView(QWidget):
    """`chosen` carries the spot or road that was pressed."""

    chosen = pyqtSignal(object)

    def __init__(self) -> None:
        super().__init__()
        self.map = Map((), (), ())
        self.picked: Spot | Road | None = None
        self.setMouseTracking(True)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setProperty("ownKeys", True)
        self.setAccessibleName("Map of positions")

    def show_map(self, found: Map) -> None:
        """Show a map."""
        self.map = found
        self.update()

    def place(self, spot: Spot) -> QPointF:
        """The middle of a position."""
        wide, high = self.width() - 2 * EDGE, self.height() - HEAD - FOOT - 12
        return QPointF(EDGE + spot.x * wide, HEAD + 6 + spot.y * high)

    def pick(self, what: Spot | Road | None) -> None:
        """Choose something on it."""
        self.picked = what
        self.update()
        if what is not None:
            self.chosen.emit(what)

    def pick_again(self, before: Spot | Road | None) -> None:
        """Choose on a new map what was chosen on the one before, if it is still there."""
        self.picked = None
        if isinstance(before, Spot):
            self.pick(next((s for s in self.map.spots if s.node.id == before.node.id), None))
        elif isinstance(before, Road):
            ends = before.way.start, before.way.end
            self.pick(next((r for r in self.map.roads if (r.way.start, r.way.end) == ends), None))

    # ── painting ─────────────────────────────────────────────────────────────────────────────────────────────
    def paintEvent(self, event: QPaintEvent | None) -> None:
        """Columns, bows, rounds with their names."""
        p = QPainter(self)
        p.setRenderHint(QPainter.RenderHint.Antialiasing)
        p.fillRect(self.rect(), QColor(DEEP))
        step = (self.width() - 2 * EDGE) / max(len(self.map.heads), 1)
        for i, (name, x) in enumerate(self.map.heads):
            middle = EDGE + x * (self.width() - 2 * EDGE)
            if i % 2 == 0:
                p.fillRect(QRectF(middle - step / 2, 0, step, self.height()), QColor(SPRUCE))
            p.setFont(text_font(13, 600))
            write(p, QRectF(middle - step / 2, 8, step, 24), name, ON_DARK_SOFT, Qt.AlignmentFlag.AlignCenter)
        for road in sorted(self.map.roads, key=lambda r: r is self.picked):
            self._road(p, road)
        for spot in self.map.spots:
            self._spot(p, spot, step)
        self._legend(p)
        p.end()

    def _road(self, p: QPainter, road: Road) -> None:
        colour = TOLD if road.way.explained else AMBER if road.way.is_gap else SPRUCE_LINE
        ink = QColor(FIRST if road is self.picked else colour)
        ink.setAlphaF(1.0 if road is self.picked or road.way.is_gap else 0.75)
        p.setPen(QPen(ink, road.wide, Qt.PenStyle.DashLine if road.way.is_gap else Qt.PenStyle.SolidLine))
        p.setBrush(Qt.BrushStyle.NoBrush)
        p.drawPath(self.bow(road))

    def bow(self, road: Road) -> QPainterPath:
        """A way as a bow: what goes up lies to the left of what comes back."""
        a, z = self.place(road.start), self.place(road.end)
        path = QPainterPath(a)
        across, down = z.x() - a.x(), z.y() - a.y()
        bend = 0.18
        middle = QPointF((a.x() + z.x()) / 2 + down * bend, (a.y() + z.y()) / 2 - across * bend)
        if abs(across) < 1:
            middle = QPointF(a.x() + (34 if down > 0 else -34), (a.y() + z.y()) / 2)
        path.quadTo(middle, z)
        return path

    def _spot(self, p: QPainter, spot: Spot, step: float) -> None:
        n, at = spot.node, self.place(spot)
        gap = n.is_gap
        p.setPen(
            QPen(
                QColor(AMBER if gap else FIRST if spot is self.picked else ON_DARK_SOFT),
                2 if gap or spot is self.picked else 1,
            )
        )
        p.setBrush(QColor(SPRUCE_LIGHT))
        p.drawEllipse(at, spot.radius, spot.radius)
        if n.explained and n.seen:
            p.setPen(Qt.PenStyle.NoPen)
            p.setBrush(QColor(TOLD))
            box = QRectF(at.x() - spot.radius, at.y() - spot.radius, 2 * spot.radius, 2 * spot.radius).adjusted(
                2, 2, -2, -2
            )
            p.drawPie(box, 90 * 16, -round(360 * 16 * min(n.explained / n.seen, 1)))
        if n.seen and spot.radius > 11:
            p.setFont(number_font(14, 600))
            box = QRectF(at.x() - 20, at.y() - 10, 40, 20)
            write(p, box, str(n.seen), ON_DARK, Qt.AlignmentFlag.AlignCenter)
        p.setFont(text_font(12, 600 if spot is self.picked else 400))
        under = QRectF(at.x() - step / 2 + 3, at.y() + spot.radius + 2, step - 6, 32)
        p.setPen(QColor(ON_DARK if n.seen else ON_DARK_SOFT))
        p.drawText(under, Qt.TextFlag.TextWordWrap | Qt.AlignmentFlag.AlignHCenter | Qt.AlignmentFlag.AlignTop, n.name)

    def _legend(self, p: QPainter) -> None:
        """What the signs say, in a line."""
        y, x = self.height() - FOOT, EDGE
        p.fillRect(QRectF(0, y, self.width(), FOOT), QColor(SPRUCE))
        p.setFont(text_font(12))
        for colour, dashed, text in (
            (TOLD, False, "explained"), (SPRUCE_LINE, False, "seen"), (AMBER, True, "seen often, never explained"),
        ):  # fmt: skip
            p.setPen(QPen(QColor(colour), 4, Qt.PenStyle.DashLine if dashed else Qt.PenStyle.SolidLine))
            p.drawLine(QPointF(x, y + FOOT / 2), QPointF(x + 26, y + FOOT / 2))
            x += 34 + write(p, QRectF(x + 34, y, 240, FOOT), text, ON_DARK_SOFT) + 22
        p.setPen(QPen(QColor(AMBER), 2))
        p.setBrush(QColor(SPRUCE_LIGHT))
        p.drawEllipse(QPointF(x + 6, y + FOOT / 2), 5, 5)
        write(p, QRectF(x + 18, y, 400, FOOT), "never seen, though something begins there", ON_DARK_SOFT)

    # ── pressing ─────────────────────────────────────────────────────────────────────────────────────────────
    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        """A position, else a way near the pointer."""
        assert event is not None
        self.setFocus()
        self.pick(self._at(event.position()))

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        """What is under the pointer is told."""
        assert event is not None
        what = self._at(event.position())
        self.setCursor(Qt.CursorShape.PointingHandCursor if what is not None else Qt.CursorShape.ArrowCursor)
        if isinstance(what, Spot):
            n = what.node
            self.setToolTip(f"{n.name}: seen {n.seen} times, {n.seconds:.0f} s; explained {n.explained}")
        elif isinstance(what, Road):
            w = what.way
            self.setToolTip(f"{what.name}: seen {w.seen} times, explained {w.explained}")
        else:
            self.setToolTip("")

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        """Arrows go from one position to the next that was seen."""
        assert event is not None
        by = {Qt.Key.Key_Right: 1, Qt.Key.Key_Down: 1, Qt.Key.Key_Left: -1, Qt.Key.Key_Up: -1}.get(Qt.Key(event.key()))
        spots = [s for s in self.map.spots if s.node.seen] or list(self.map.spots)
        if by is None or not spots:
            super().keyPressEvent(event)
            return
        here = spots.index(self.picked) if isinstance(self.picked, Spot) and self.picked in spots else -1
        self.pick(spots[(here + by) % len(spots)])

    def _at(self, point: QPointF) -> Spot | Road | None:
        for spot in self.map.spots:
            off = point - self.place(spot)
            if off.x() ** 2 + off.y() ** 2 <= (spot.radius + 5) ** 2:
                return spot
        for road in self.map.roads:
            stroke = QPainterPathStroker()
            stroke.setWidth(road.wide + 7)
            if stroke.createStroke(self.bow(road)).contains(point):
                return road
        return None
