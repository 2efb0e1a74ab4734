"""The marks of one programme at one picture size: what is laid on each frame, and what is done to the picture."""

from __future__ import annotations

from collections import OrderedDict
from dataclasses import replace

from PyQt6.QtCore import QPointF, QRectF
from PyQt6.QtGui import QImage, QPainter

from chapto.document.breakdown import Breakdown
from chapto.document.joints import Joint
from chapto.document.mark_kinds import MarkKind
from chapto.document.marks import Figure
from chapto.paint.box import Box
from chapto.paint.effects import Blur, Effect, Magnified, Veil
from chapto.paint.mark_places import MarkPlaces, Shown
from chapto.paint.mark_rooms import MarkRooms
from chapto.paint.marks import window
from chapto.paint.marks.drawn import Drawn
from chapto.paint.marks.looks import LOOKS, reach_of
from chapto.paint.marks.slip import Slip, lace, lace_start, slip_image
from chapto.paint.marks.spotlight import veil
from chapto.paint.plates import blank, painter_on
from chapto.programme.placed_marks import PlacedMark, covered
from chapto.programme.programme import Programme

COMES = 5
"""Frames in which a mark comes and goes."""
KEPT = 48
"""Painted marks kept at once."""


class MarkLayer:
    """Asked frame by frame; equal questions are answered once."""

    def __init__(self, b: Breakdown, programme: Programme, size: tuple[int, int]) -> None:
        self._b, self._programme, self.size = b, programme, size
        self._places = MarkPlaces(b, programme, size)
        self._rooms = MarkRooms(b, programme, self._places)
        self._unit = self._places.unit
        self._slip_images: dict[Slip, QImage] = {}
        self._painted: OrderedDict[str, tuple[int, int, QImage]] = OrderedDict()
        self._has_covers = any(m.kind is MarkKind.COVER for m in b.marks)
        self._is_idle = not programme.marks and not self._has_covers

    def pictures(self, frame: int) -> list[Shown]:
        """The one or two pictures on the screen at a frame."""
        return self._places.pictures(frame)

    def joints(self, figure: Figure, shown: Shown) -> dict[Joint, QPointF]:
        """Where the joints of a figure are in a picture on the screen."""
        return self._places.joints(figure, shown)

    def drawn(self, frame: int) -> tuple[tuple[PlacedMark, Drawn], ...]:
        """The marks of a frame with where their points lie."""
        if self._is_idle:
            return ()
        return tuple(
            (p, replace(m, box=self._rooms.window(p, m)) if p.mark.kind is MarkKind.WINDOW else m)
            for p, m in self._places.drawn(frame)
        )

    # ── what is done to the picture ──────────────────────────────────────────────────────────────────────
    def effects(self, frame: int) -> tuple[Effect, ...]:
        """What is done to the picture of a frame, in this order."""
        if self._is_idle:
            return ()
        found: list[Effect] = []
        if self._has_covers:
            for one in self.pictures(frame):
                for spot in covered(self._b, self._programme.readings.tracks, one.footage, one.mat):
                    at = one.lens.point(spot.x, spot.y)
                    found.append(Blur(at.x(), at.y(), one.lens.length(spot.radius)))
        for p, drawn in self.drawn(frame):
            strength = self._strength(p, frame)
            if p.mark.kind is MarkKind.SPOTLIGHT:
                found.append(Veil(veil(drawn, self.size, strength)))
        return tuple(found)

    def windows(self, frame: int) -> tuple[Magnified, ...]:
        """The spots that are shown magnified, before anything is laid over the picture."""
        if self._is_idle:
            return ()
        return tuple(
            Magnified(window.spot(drawn), drawn.box)
            for p, drawn in self.drawn(frame)
            if p.mark.kind is MarkKind.WINDOW and drawn.box is not None and self._strength(p, frame) > 0.5
        )

    # ── what is laid over it ─────────────────────────────────────────────────────────────────────────────
    def boxes(self, frame: int) -> tuple[Box, ...]:
        """Marks and their slips, in the order in which they came."""
        if self._is_idle:
            return ()
        found: list[Box] = []
        drawn = self.drawn(frame)
        for p, one in drawn:
            strength = self._strength(p, frame)
            if LOOKS[p.mark.kind].margin and (p.mark.kind is not MarkKind.WINDOW or strength > 0.5):
                found.append(self._mark_box(p, one, strength))
        slips = [self._slip_boxes(p, one, frame) for p, one in drawn if p.words or p.fact]
        # No lace lies over another mark's words.
        return (*found, *(lace for laces, _ in slips for lace in laces), *(slip for _, slip in slips))

    def _mark_box(self, p: PlacedMark, one: Drawn, strength: float) -> Box:
        key = f"mark/{p.mark.id}/{strength}/{_key_of(one)}"
        found = self._painted.get(key)
        if found is None:
            found = self._paint(p.mark.kind, one, strength)
            self._painted[key] = found
            while len(self._painted) > KEPT:
                self._painted.popitem(last=False)
        self._painted.move_to_end(key)
        return Box(key, *found)

    def _paint(self, kind: MarkKind, one: Drawn, strength: float) -> tuple[int, int, QImage]:
        """A tight picture of a mark, with its corner."""
        look = LOOKS[kind]
        places = [*one.points, *one.trail, *(one.before or {}).values()]
        places += [one.centre] if one.centre is not None else []
        bounds = QRectF(
            QPointF(min(at.x() for at in places), min(at.y() for at in places)),
            QPointF(max(at.x() for at in places), max(at.y() for at in places)),
        )
        if one.box is not None:
            bounds = bounds.united(one.box).united(window.spot(one))
        reach = reach_of(kind, one)
        whole = QRectF(0, 0, *self.size)
        bounds = bounds.adjusted(-reach, -reach, reach, reach).intersected(whole)
        if bounds.isEmpty():
            return 0, 0, blank(2, 2)
        x, y = int(bounds.left()) // 2 * 2, int(bounds.top()) // 2 * 2
        width = min(-(-(int(bounds.right()) + 1 - x) // 2) * 2, self.size[0] - x)
        height = min(-(-(int(bounds.bottom()) + 1 - y) // 2) * 2, self.size[1] - y)
        image = blank(width, height)
        p = painter_on(image)
        p.translate(-x, -y)
        p.setOpacity(strength)
        look.paint(p, one)
        p.end()
        return x, y, image

    def _slip_boxes(self, p: PlacedMark, one: Drawn, frame: int) -> tuple[list[Box], Box]:
        """A slip's lace, and the slip."""
        strength = self._strength(p, frame)
        slip = Slip(p.words, p.fact, p.mark.of, one.colour if p.mark.of is not None else "")
        image = self._slip_image(slip)
        place = self._rooms.slip(p, (image.width(), image.height()))
        at = LOOKS[p.mark.kind].hang(one)
        thread = self._lace(place, at, strength)
        key = f"slip/{p.mark.id}/{p.words}/{p.fact}/{strength}"
        return thread, Box(key, int(place.x()), int(place.y()), _faded(image, strength))

    def _slip_image(self, slip: Slip) -> QImage:
        if slip not in self._slip_images:
            self._slip_images[slip] = slip_image(slip, self.size)
        return self._slip_images[slip]

    def _lace(self, place: QRectF, at: QPointF, strength: float) -> list[Box]:
        if place.adjusted(-4, -4, 4, 4).contains(at):
            return []
        key = f"lace/{place.x()}/{place.y()}/{place.width()}/{place.height()}/{at.x()}/{at.y()}/{strength}"
        found = self._painted.get(key)
        if found is None:
            start = lace_start(place, at)
            bounds = QRectF(start.x() - 1, start.y() - 1, 2, 2).united(QRectF(at.x() - 1, at.y() - 1, 2, 2))
            bounds = bounds.adjusted(-8, -8, 8, 8 + 0.06 * (bounds.width() + bounds.height()))
            bounds = bounds.intersected(QRectF(0, 0, *self.size))
            x, y = int(bounds.left()) // 2 * 2, int(bounds.top()) // 2 * 2
            width = min(int(bounds.right() - x) // 2 * 2 + 2, self.size[0] - x)
            height = min(int(bounds.bottom() - y) // 2 * 2 + 2, self.size[1] - y)
            image = blank(max(width, 2), max(height, 2))
            painter = painter_on(image)
            painter.translate(-x, -y)
            painter.setOpacity(strength)
            lace(painter, place, at, self._unit)
            painter.end()
            found = x, y, image
            self._painted[key] = found
        return [Box(key, *found)]

    @staticmethod
    def _strength(p: PlacedMark, frame: int) -> float:
        """A mark comes and goes within a few frames."""
        return min(min(frame - p.start + 1, p.end - frame) / COMES, 1.0)


def _key_of(drawn: Drawn) -> str:
    places = [*drawn.points, *drawn.trail, *(drawn.before or {}).values(), *(drawn.figure or {}).values()]
    places += [drawn.centre] if drawn.centre is not None else []
    # As exact as what is painted: otherwise a frame would depend on which one was painted first.
    text = ",".join(f"{at.x()}:{at.y()}" for at in places)
    return f"{text}/{drawn.state}/{drawn.loose}/{drawn.radius}/{drawn.box}"


def _faded(image: QImage, strength: float) -> QImage:
    if strength >= 1:
        return image
    made = blank(image.width(), image.height())
    p = QPainter(made)
    p.setOpacity(strength)
    p.drawImage(0, 0, image)
    p.end()
    return made
