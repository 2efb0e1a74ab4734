"""The picture itself."""

from __future__ import annotations

from collections.abc import Callable

from PyQt6.QtCore import QPointF, QRect, QRectF, QSize, Qt
from PyQt6.QtGui import (
    QColor,
    QImage,
    QMouseEvent,
    QPainter,
    QPainterPath,
    QPaintEvent,
    QResizeEvent,
    QWheelEvent,
)
from PyQt6.QtWidgets import QSizePolicy, QWidget

from chapto.app.playhead import Playhead, View
from chapto.app.screen.ahead import Ahead, Shown
from chapto.app.screen.feed import AHEAD, READY, PictureFeed, Want, wanted
from chapto.app.screen.laid import lay_picture
from chapto.app.screen.picture_effects import carry_out
from chapto.app.screen.player import Player
from chapto.app.studio import Studio
from chapto.app.theme import text_font
from chapto.media.frame_converter import fitted_size
from chapto.paint.colours import DEEP, INK, ON_DARK_SOFT, PAPER
from chapto.paint.lens import Lens
from chapto.paint.overlay import Overlay, paint_boxes
from chapto.paint.places import Place, first_place, second_place
from chapto.paint.signs import dot
from chapto.programme.programme import PlacedInset

LARGEST, LARGEST_NEARER = 960, 1920
"""Pixels of a picture at most: as a whole, and when it is looked at nearer."""
HALVES = 2
"""A picture in a half of the frame is taken so many times as large."""
SLACK = 4
"""Pixels that a hand may move in a press."""
ROUND = 4
"""Pixels by which the corners of the picture are rounded."""


class Screen(QWidget):
    """Shows what the player's head is on, with everything painted into the programme in the watch view."""

    def __init__(self, studio: Studio, player: Player, feed: PictureFeed) -> None:
        super().__init__()
        self._studio, self._player, self._feed = studio, player, feed
        self._files = studio.files
        self._shown: QImage | None = None
        self._shown_key: object = None
        self._overlay: Overlay | None = None
        self._ahead = Ahead(self._look_at, self._later)
        self._pressed: QPointF | None = None
        self._dragged = False
        self.setMinimumSize(320, 180)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)
        self.setAccessibleName("Picture")
        player.moved.connect(self.look)
        player.playing_changed.connect(self.update)
        feed.arrived.connect(self._arrived)
        feed.lost.connect(self._lost)
        studio.compiled.connect(self._recompiled)
        self._files.ready.connect(self.look)

    def sizeHint(self) -> QSize:
        """Half of 720p."""
        return QSize(640, 360)

    @property
    def shown_key(self) -> object:
        """Which picture is on the screen: footage, mat time and size."""
        return self._shown_key

    def is_settled(self) -> bool:
        """Whether the picture under the playhead is the one on the screen."""
        now = self._now()
        there = self._trouble(now.first) != "" or self._shown_key == now.first.key
        return there and (now.second is None or self._feed.is_done(now.second))

    def look(self) -> None:
        """Ask for the picture under the playhead, and for those to come."""
        if not self.isVisible():
            return
        want = self._now().first
        image = self._feed.image(want)
        if image is not None:
            self._shown, self._shown_key = image, want.key
        self._feed.ask(self._ahead.row(self._player.head, AHEAD if self._player.playing else READY))
        self.update()

    def frame(self) -> QRect:
        """Where the picture is seen in the widget."""
        f = self._studio.breakdown.format
        w, h = fitted_size(f.width, f.height, max(self.width(), 2), max(self.height(), 2))
        return QRect((self.width() - w) // 2, (self.height() - h) // 2, w, h)

    def area(self) -> QRect:
        """Where the whole picture lies: larger than its frame when it is looked at nearer."""
        frame = self.frame()
        if self._player.nearer.is_whole:
            return frame
        x, y, w, h = self._player.nearer.area(frame.x(), frame.y(), frame.width(), frame.height())
        return QRect(round(x), round(y), round(w), round(h))

    def paintEvent(self, event: QPaintEvent | None) -> None:
        """Picture, overlay, and what the picture is doing."""
        painter = QPainter(self)
        painter.setRenderHints(QPainter.RenderHint.Antialiasing | QPainter.RenderHint.SmoothPixmapTransform)
        painter.fillRect(self.rect(), QColor(DEEP))
        area, frame_box = self.area(), self.frame()
        if area != frame_box:
            painter.setClipRect(frame_box)
        programme, head = self._studio.programme, self._player.head
        card, trouble = None, self._trouble(self._now().first)
        if head.view is View.WATCH and programme.frames:
            frame = min(head.frame, programme.frames - 1)
            card = self._painted().card(frame)
            if card:
                painter.drawImage(area, card[1])
            elif trouble:
                self._say_instead(painter, area, trouble)
            else:
                self._pictures(painter, area, frame)
            paint_boxes(painter, self._painted().boxes(frame), area, self._painted().size)
        elif trouble:
            self._say_instead(painter, area, trouble)
        elif self._shown is not None:
            painter.drawImage(area, self._shown)
        painter.setClipping(False)
        _round_off(painter, frame_box)
        self._invite(painter, frame_box)
        painter.end()

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        """Another size needs other pictures."""
        super().resizeEvent(event)
        self.look()

    def showEvent(self, event: object) -> None:
        """Catch up with the playhead when a stage comes into view."""
        self.look()

    # ── hands ────────────────────────────────────────────────────────────────────────────────────────────
    def wheelEvent(self, event: QWheelEvent | None) -> None:
        """The wheel goes nearer to what is under the pointer, or back."""
        assert event is not None
        self._player.look_nearer(1.0016 ** event.angleDelta().y(), self._at(event.position()))

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        """The beginning of a press, or of moving the picture about."""
        if event is not None and event.button() == Qt.MouseButton.LeftButton:
            self._pressed, self._dragged = event.position(), False

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        """A picture that is looked at nearer is moved about."""
        if event is None or self._pressed is None or self._player.nearer.is_whole:
            return
        moved = event.position() - self._pressed
        if self._dragged or moved.manhattanLength() > SLACK:
            self._dragged, self._pressed = True, event.position()
            frame = self.frame()
            self._player.pan(-moved.x() / frame.width(), -moved.y() / frame.height())

    def mouseReleaseEvent(self, event: QMouseEvent | None) -> None:
        """A press on the picture plays or stops."""
        if self._pressed is not None and not self._dragged:
            self._player.toggle()
        self._pressed = None

    def mouseDoubleClickEvent(self, event: QMouseEvent | None) -> None:
        """Twice as near, or whole again."""
        if event is not None:
            # The first press of the two has started or stopped it.
            self._player.toggle()
            nearer = self._player.nearer
            self._player.look_nearer(2.0 if nearer.is_whole else 1 / nearer.zoom, self._at(event.position()))

    def _at(self, place: QPointF) -> tuple[float, float]:
        """A place of the widget as a place of the picture's frame."""
        frame = self.frame()
        return (place.x() - frame.x()) / frame.width(), (place.y() - frame.y()) / frame.height()

    def _now(self) -> Shown:
        """The pictures under the playhead."""
        studio, area = self._studio, self.area()
        place = area.width(), area.height(), self._player.nearer.is_whole, frozenset(self._files.places)
        self._ahead.of(studio.breakdown, studio.programme, place)
        return self._ahead.at(self._player.head)

    def _later(self, head: Playhead) -> Playhead:
        """One picture later."""
        if head.view is View.MAT:
            return head.on_picture(self._studio.breakdown.footage, self._studio.angles, 1)
        return head.moved(1 / self._studio.programme.fps, self._studio.programme)

    def _look_at(self, head: Playhead) -> Shown:
        """The pictures of a playhead, and the second one where there are two."""
        studio = self._studio
        footage, programme = studio.breakdown.footage, studio.programme
        watches = head.view is View.WATCH and programme.frames
        inset = programme.inset_at(min(head.frame, programme.frames - 1)) if watches else None
        first = wanted(head, footage, studio.angles, programme, self._size(first_place, inset))
        other = next((c for c in footage if inset is not None and c.id == inset.footage), None)
        if inset is None or other is None or other.id not in self._files.places:
            return Shown(first, None)
        return Shown(first, Want(other, inset.mat_at(head.frame), *self._size(second_place, inset)))

    def _size(self, place: Callable[..., Place], inset: PlacedInset | None) -> tuple[int, int]:
        """Pixels of a picture as it lies on the screen, no more than is useful."""
        area, ratio = self.area(), self.devicePixelRatioF()
        f = self._studio.breakdown.format
        largest = LARGEST if self._player.nearer.is_whole else LARGEST_NEARER
        limit = min(area.width() * ratio, largest), min(area.height() * ratio, largest)
        whole = fitted_size(f.width, f.height, max(round(limit[0]), 2), max(round(limit[1]), 2))
        _, _, width, height = place((f.width, f.height), inset)
        if inset is not None and inset.beside:
            # Halves are seen nearer, and only a part of each.
            width, height = width * HALVES, height * HALVES
        return max(whole[0] * width // f.width // 2 * 2, 2), max(whole[1] * height // f.height // 2 * 2, 2)

    def _pictures(self, painter: QPainter, area: QRect, frame: int) -> None:
        """The picture, and the second one where there are two."""
        f = self._studio.breakdown.format
        size, marks = (f.width, f.height), self._painted().marks
        lenses = [one.lens for one in marks.pictures(frame)]
        effects, windows = marks.effects(frame), marks.windows(frame)
        if not effects and not windows:
            self._lay(painter, area, size, lenses)
            return
        whole = QImage(area.width(), area.height(), QImage.Format.Format_RGB32)
        whole.fill(QColor(DEEP))
        on = QPainter(whole)
        on.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
        here = QRect(0, 0, area.width(), area.height())
        self._lay(on, here, size, lenses)
        on.end()
        carry_out(whole, size, effects, windows)
        painter.drawImage(area, whole)

    def _lay(self, painter: QPainter, area: QRect, size: tuple[int, int], lenses: list[Lens]) -> None:
        """The pictures, each as its lens says."""
        want = self._now().second
        images = [self._shown, self._feed.image(want) if want is not None else None]
        for image, lens in zip(images, lenses, strict=False):
            if image is not None:
                lay_picture(painter, area, size, lens, image)

    def _painted(self) -> Overlay:
        if self._overlay is None:
            f = self._studio.production.breakdown.format
            b, p = self._studio.production.breakdown, self._studio.programme
            self._overlay = Overlay(b, p, (f.width, f.height), self._files.photos)
        return self._overlay

    def _arrived(self, key: object) -> None:
        now = self._now()
        if now.first.key == key:
            self._shown, self._shown_key = self._feed.image(now.first), key
            self.update()
        elif now.second is not None and now.second.key == key:
            self.update()

    def _lost(self, key: object) -> None:
        self.update()

    def _recompiled(self) -> None:
        self._overlay = None
        self.look()

    def _trouble(self, want: Want) -> str:
        """Why there is no picture to show; empty where there is one, or one is on its way. Never another picture."""
        if want.footage is None:
            return (
                "Nothing was filmed here." if self._studio.breakdown.footage else "No footage yet. Drop a video here."
            )
        if want.footage.id not in self._files.places:
            return f"The file of “{want.footage.name}” is missing."
        return f"This picture of “{want.footage.name}” can't be read." if self._feed.is_lost(want) else ""

    def _say_instead(self, painter: QPainter, area: QRect, sentence: str) -> None:
        painter.setPen(QColor(ON_DARK_SOFT))
        painter.setFont(text_font(15))
        painter.drawText(area, Qt.AlignmentFlag.AlignCenter, sentence)

    def _invite(self, painter: QPainter, area: QRect) -> None:
        """At the very beginning of the programme, a stopped picture shows that it can be played."""
        head = self._player.head
        if self._player.playing or head.view is View.MAT or head.frame or not self._studio.programme.frames:
            return
        spot = QPointF(area.center())
        dot(painter, spot, 30, INK)
        sign = QPainterPath(spot + QPointF(-9, -14))
        sign.lineTo(spot + QPointF(16, 0))
        sign.lineTo(spot + QPointF(-9, 14))
        sign.closeSubpath()
        painter.setBrush(QColor(PAPER))
        painter.drawPath(sign)


def _round_off(painter: QPainter, area: QRect) -> None:
    """Cut the corners of the picture: much quicker than painting it through a clip."""
    corners = QPainterPath()
    corners.addRect(QRectF(area))
    inside = QPainterPath()
    inside.addRoundedRect(QRectF(area), ROUND, ROUND)
    painter.fillPath(corners.subtracted(inside), QColor(DEEP))
