"""The layer over the picture on which points are put down and taken hold of."""

from __future__ import annotations

from collections.abc import Callable

from PyQt6.QtCore import QEvent, QObject, QPointF, QRect, QRectF, Qt, pyqtSignal
from PyQt6.QtGui import (
    QColor,
    QFontMetricsF,
    QImage,
    QKeyEvent,
    QMouseEvent,
    QPainter,
    QPainterPath,
    QPaintEvent,
    QPen,
    QRegion,
)
from PyQt6.QtWidgets import QWidget

from chapto.app.mark.points import Handle
from chapto.app.screen.screen import Screen
from chapto.app.theme import text_font
from chapto.document.people import Side
from chapto.paint.colours import CHOSEN, DEEP, INK, ON_DARK, PAPER, SPRUCE_LINE, see_through
from chapto.paint.marks.strokes import bead
from chapto.paint.plates import plate

TAKE = 14.0
"""Pixels from a point within which it is taken hold of."""
GLASS, ZOOM = 58.0, 3.0
"""Radius of the magnifier in pixels, and how much it magnifies."""


class Canvas(QWidget):
    """Lies over a screen. `pressed`, `dragged` and `dropped` carry a place of the programme's picture, 0…1; `keys` is
    asked first for every key, and says whether it took it."""

    pressed = pyqtSignal(QPointF)
    dragged = pyqtSignal(QPointF)
    dropped = pyqtSignal(QPointF)
    moved = pyqtSignal(QPointF)

    def __init__(self, screen: Screen, keys: Callable[[QKeyEvent], bool]) -> None:
        super().__init__(screen)
        self._screen, self._keys = screen, keys
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setMouseTracking(True)
        self.setAccessibleName("Points on the picture")
        self.handles: tuple[Handle, ...] = ()
        self.chosen = ""
        self.hint = ""
        self.cross: QPointF | None = None
        self.colours: dict[Side, str] = {}
        self._is_placing = False
        self._held = False
        screen.installEventFilter(self)
        self._fill()

    def eventFilter(self, watched: QObject | None, event: QEvent | None) -> bool:
        """Keep lying over the whole screen."""
        if event is not None and event.type() in (QEvent.Type.Resize, QEvent.Type.Show):
            self._fill()
        return False

    def _fill(self) -> None:
        self.setGeometry(self._screen.rect())
        self.raise_()

    # ── what is shown ────────────────────────────────────────────────────────────────────────────────────
    def show_points(self, handles: tuple[Handle, ...], chosen: str, hint: str, *, placing: bool) -> None:
        """Show the points that can be taken hold of, and what is to be put down."""
        self.handles, self.chosen, self.hint, self._is_placing = handles, chosen, hint, placing
        self.setProperty("ownKeys", placing or bool(chosen))
        self.setCursor(Qt.CursorShape.CrossCursor if placing else Qt.CursorShape.ArrowCursor)
        if placing and self.cross is None:
            self.cross = QPointF(0.5, 0.5)
        if not placing and not self._held:
            self.cross = None
        self.update()

    def place_cross(self, at: QPointF | None) -> None:
        """Where the next point would be put down."""
        self.cross = at
        self.update()

    def on_widget(self, at: QPointF) -> QPointF:
        """A place of the programme's picture, 0…1, on this widget."""
        area = self._screen.area()
        return QPointF(area.x() + at.x() * area.width(), area.y() + at.y() * area.height())

    def on_picture(self, at: QPointF) -> QPointF:
        """A place of this widget on the programme's picture, 0…1."""
        area = self._screen.area()
        x, y = (at.x() - area.x()) / area.width(), (at.y() - area.y()) / area.height()
        return QPointF(min(max(x, 0.0), 1.0), min(max(y, 0.0), 1.0))

    def handle_at(self, at: QPointF) -> Handle | None:
        """The point that lies under a place of the picture, the nearest one."""
        here = self.on_widget(at)
        near = min(self.handles, key=lambda h: _apart(self.on_widget(h.at), here), default=None)
        return near if near is not None and _apart(self.on_widget(near.at), here) < TAKE else None

    # ── hands ────────────────────────────────────────────────────────────────────────────────────────────
    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        """Put a point down, or take hold of one."""
        if event is not None and event.button() == Qt.MouseButton.LeftButton:
            self.setFocus()
            self._held = True
            self.pressed.emit(self.on_picture(event.position()))

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        """Follow the pointer."""
        if event is None:
            return
        at = self.on_picture(event.position())
        if self._held and not self._is_placing:
            self.cross = at
            self.dragged.emit(at)
        elif self._is_placing:
            self.cross = at
        self.moved.emit(at)
        self.update()

    def mouseReleaseEvent(self, event: QMouseEvent | None) -> None:
        """Let go."""
        if event is not None and self._held:
            self._held = False
            self.dropped.emit(self.on_picture(event.position()))
            if not self._is_placing:
                self.cross = None
            self.update()

    def event(self, event: QEvent | None) -> bool:
        """Tab goes from point to point, and not to another widget."""
        if isinstance(event, QKeyEvent) and event.type() == QEvent.Type.KeyPress and self._keys(event):
            return True
        return super().event(event)

    # ── painting ─────────────────────────────────────────────────────────────────────────────────────────
    def paintEvent(self, event: QPaintEvent | None) -> None:
        """The points, the hint, and the magnifier."""
        p = QPainter(self)
        p.setRenderHint(QPainter.RenderHint.Antialiasing)
        for handle in self.handles:
            self._handle(p, handle)
        if self.cross is not None:
            self._magnify(p, self.cross)
        if self.hint:
            self._hint(p)
        p.end()

    def _handle(self, p: QPainter, handle: Handle) -> None:
        at, chosen = self.on_widget(handle.at), handle.anchor == self.chosen
        p.setOpacity(0.55 if handle.hidden else 1.0)
        if chosen:
            p.setPen(QPen(see_through(DEEP, 230), 5))
            p.setBrush(Qt.BrushStyle.NoBrush)
            box = QRectF(at.x() - 11, at.y() - 11, 22, 22)
            p.drawRoundedRect(box, 5, 5)
            p.setPen(QPen(QColor(CHOSEN), 2.2))
            p.drawRoundedRect(box, 5, 5)
        bead(p, at, handle.side, self.colours.get(handle.side, PAPER) if handle.side else PAPER, 0.72, radius=7)
        p.setOpacity(1.0)
        if chosen and handle.name:
            self._tag(p, handle.name + ("  ·  hidden" if handle.hidden else ""), at + QPointF(16, -26))

    def _tag(self, p: QPainter, text: str, at: QPointF) -> None:
        font = text_font(12, 500)
        p.setFont(font)
        wide = QFontMetricsF(font).horizontalAdvance(text)
        box = QRectF(at.x(), at.y(), wide + 14, 20)
        if box.right() > self.width() - 4:
            box.moveRight(at.x() - 32)
        plate(p, box, 3)
        p.setPen(QColor(INK))
        p.drawText(box, Qt.AlignmentFlag.AlignCenter, text)

    def _hint(self, p: QPainter) -> None:
        """Below the picture where there is room, else at its foot."""
        font = text_font(14, 500)
        p.setFont(font)
        area = self._screen.area()
        wide = min(QFontMetricsF(font).horizontalAdvance(self.hint) + 28, area.width() - 20)
        top = area.bottom() + 6 if self.height() - area.bottom() >= 38 else area.bottom() - 42
        box = QRectF(area.center().x() - wide / 2, top, wide, 30)
        plate(p, box, 5, DEEP, SPRUCE_LINE)
        p.setPen(QColor(ON_DARK))
        text = QFontMetricsF(font).elidedText(self.hint, Qt.TextElideMode.ElideRight, wide - 20)
        p.drawText(box, Qt.AlignmentFlag.AlignCenter, text)

    def _magnify(self, p: QPainter, at: QPointF) -> None:
        """What is under the cross, larger, beside it."""
        here = self.on_widget(at)
        reach = GLASS / ZOOM
        source = QRect(round(here.x() - reach), round(here.y() - reach), round(2 * reach), round(2 * reach))
        image = QImage(source.size(), QImage.Format.Format_RGB32)
        image.fill(QColor(DEEP))
        self._screen.render(image, QPointF(0, 0).toPoint(), QRegion(source), QWidget.RenderFlag(0))
        left = here.x() + 26 if here.x() + 26 + 2 * GLASS < self.width() else here.x() - 26 - 2 * GLASS
        top = min(max(here.y() - GLASS, 4.0), self.height() - 2 * GLASS - 4)
        glass = QRectF(left, top, 2 * GLASS, 2 * GLASS)
        path = QPainterPath()
        path.addRoundedRect(glass, 10, 10)
        p.save()
        p.setClipPath(path)
        p.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
        p.drawImage(glass, image)
        p.setClipping(False)
        p.setPen(QPen(see_through(DEEP, 240), 4))
        p.setBrush(Qt.BrushStyle.NoBrush)
        p.drawPath(path)
        p.setPen(QPen(QColor(PAPER), 2, Qt.PenStyle.CustomDashLine))
        pen = p.pen()
        pen.setDashPattern([3, 2])
        p.setPen(pen)
        p.drawPath(path)
        c = glass.center()
        for colour, wide in ((see_through(DEEP, 220), 3.0), (QColor(PAPER), 1.2)):
            p.setPen(QPen(colour, wide))
            for dx, dy in ((1, 0), (-1, 0), (0, 1), (0, -1)):
                p.drawLine(c + QPointF(dx * 5, dy * 5), c + QPointF(dx * 18, dy * 18))
                p.drawLine(here + QPointF(dx * 4, dy * 4), here + QPointF(dx * 13, dy * 13))
        p.restore()


def _apart(one: QPointF, other: QPointF) -> float:
    return float(((one.x() - other.x()) ** 2 + (one.y() - other.y()) ** 2) ** 0.5)
