"""Where slips and windows have room: clear of heads, boards, captions and one another, as long as they are shown."""

from __future__ import annotations

from bisect import bisect_right
from collections.abc import Iterator

from PyQt6.QtCore import QPointF, QRectF

from chapto.document.breakdown import Breakdown
from chapto.document.joints import Joint
from chapto.paint.mark_places import MarkPlaces
from chapto.paint.marks import window
from chapto.paint.marks.drawn import Drawn
from chapto.paint.marks.looks import LOOKS
from chapto.paint.marks.slip import Ground, placed
from chapto.paint.places import SAFE, even
from chapto.programme.caption_places import caption_zone, raised_captions
from chapto.programme.placed_marks import PlacedMark
from chapto.programme.programme import Programme

LABEL, CARE, NAME = 0.08, 0.14, 0.13
"""Share of the picture's height that a label, a line of care and a name take, with room round them."""


class MarkRooms:
    """Every answer is given once and kept: nothing jumps while it is read."""

    def __init__(self, b: Breakdown, programme: Programme, places: MarkPlaces) -> None:
        self._b, self._programme, self._places = b, programme, places
        self.size = places.size
        self._slips: dict[int, QRectF] = {}
        self._windows: dict[int, QRectF] = {}
        self._begun = [c.start for c in programme.captions]
        # Painted captions all stand at the foot.
        painted, aspect = b.format.burnt_captions, self.size[0] / self.size[1]
        self._raised = {} if painted else raised_captions(programme, aspect, control=b.control_strip)

    def window(self, p: PlacedMark, drawn: Drawn) -> QRectF:
        """Where a window lies."""
        if id(p) not in self._windows:
            self._windows[id(p)] = self._window_place(p, drawn)
        return self._windows[id(p)]

    def slip(self, p: PlacedMark, size: tuple[int, int]) -> QRectF:
        """Where a slip lies as long as it is shown: where the creator put it, else where it hides least."""
        known = self._slips.get(id(p))
        if known is not None:
            return known
        if p.mark.slip is not None:
            x, y = p.mark.slip[0] * self.size[0] - size[0] / 2, p.mark.slip[1] * self.size[1] - size[1] / 2
            low, high = SAFE * self.size[0], (1 - SAFE) * self.size[0] - size[0]
            foot = (1 - SAFE) * self.size[1] - size[1]
            made = QRectF(even(min(max(x, low), max(high, low))), even(min(max(y, SAFE * self.size[1]), foot)), *size)
        else:
            hangs, ground = [], Ground(detail=self._programme.readings.details.get(p.footage))
            ground.solid += self._taken(p)
            if id(p) in self._windows:
                ground.solid.append(self._windows[id(p)].adjusted(-10, -10, 10, 10))
            for frame in _moments(p):
                for other, drawn in self._places.drawn(frame):
                    if other is p:
                        hangs.append(LOOKS[p.mark.kind].hang(drawn))
                    self._mind(ground, other, drawn)
                self._mind_figures(ground, frame)
            made = placed(size, hangs, self.size, ground, self._places.unit) if hangs else QRectF(0, 0, *size)
        self._slips[id(p)] = made
        return made

    def _window_place(self, p: PlacedMark, drawn: Drawn) -> QRectF:
        """The corner of the picture that the window hides least in."""
        width, height = self.size
        spot = window.spot(drawn)
        zoom = min(float(p.mark.zoom), window.MOST * width / spot.width(), 0.5 * height / spot.height())
        w, h = even(spot.width() * zoom), even(spot.height() * zoom)
        edge = (SAFE * width + 8 * self._places.unit, SAFE * height + 8 * self._places.unit)
        ground = Ground(detail=None)
        self._mind_figures(ground, p.start)
        best, where = float("inf"), QRectF()
        for x in (edge[0], width - edge[0] - w):
            for y in (edge[1], (height - h) / 2, height - edge[1] - h):
                box = QRectF(even(x), even(y), w, h)
                over = sum(1.0 for head in ground.heads if head.intersects(box)) * 3
                over += sum(1.0 for body in ground.bodies if body.intersects(box))
                over += 40 if box.adjusted(-20, -20, 20, 20).intersects(spot) else 0
                # Whoever was not put down lies in the lower half, as a rule.
                over += 1.5 if box.bottom() > height * 0.7 else 0
                over += sum(4.0 for other in self._taken(p) if other.intersects(box))
                apart = QPointF(box.center() - spot.center())
                cost = over + (abs(apart.x()) + abs(apart.y())) / width
                if cost < best:
                    best, where = cost, box
        return where

    def _taken(self, p: PlacedMark) -> list[QRectF]:
        """Where other slips and windows lie meanwhile, and where labels, names, the score and captions come."""
        width, height = self.size
        found = [
            place
            for other in self._programme.marks
            if other is not p and other.start < p.end and other.end > p.start
            for place in (self._slips.get(id(other)), self._windows.get(id(other)))
            if place is not None
        ]
        found = [place.adjusted(-8, -8, 8, 8) for place in found]
        programme = self._programme
        cared = any(c.start < p.end and c.end > p.start for c in programme.cautions)
        named = any(n.start < p.end and n.end > p.start for n in programme.names)
        rows = max((x.row + 1 for x in programme.labels if x.start < p.end and x.end > p.start), default=0)
        if rows:
            # Labels stand on what is at the foot meanwhile.
            high = SAFE + LABEL * rows + (CARE if cared else 0) + (NAME if named else 0)
            found.append(QRectF(0, height * (1 - high), width * 0.6, height * high))
        if cared:
            found.append(QRectF(0, height * (1 - SAFE - CARE), width, height * (SAFE + CARE)))
        if named:
            found.append(QRectF(0, height * (1 - SAFE - NAME), width, height * (SAFE + NAME)))
        if self._b.score_strip:
            found.append(QRectF(width * 0.3, 0, width * 0.4, height * 0.14))
        if self._b.control_strip:
            found.append(QRectF(0, 0, width * 0.5, height * 0.24))
        return [*found, *self._captions(p)]

    def _captions(self, p: PlacedMark) -> Iterator[QRectF]:
        """Where captions come meanwhile, painted or switched on."""
        width, height = self.size
        captions, fps = self._programme.captions, self._programme.fps
        for number in range(bisect_right(self._begun, p.start / fps) - 1, len(captions)):
            if number < 0 or captions[number].end * fps <= p.start:
                continue
            if captions[number].start * fps >= p.end:
                return
            left, top, right, foot = caption_zone(captions[number], width / height, self._raised.get(number))
            yield QRectF(left * width, top * height, (right - left) * width, (foot - top) * height)

    def _mind(self, ground: Ground, p: PlacedMark, drawn: Drawn) -> None:
        reach = 26 * self._places.unit
        for at in (*drawn.points, *(drawn.before or {}).values()):
            ground.bodies.append(QRectF(at.x() - reach, at.y() - reach, 2 * reach, 2 * reach))

    def _mind_figures(self, ground: Ground, frame: int) -> None:
        """Heads and bodies of everybody who was put down."""
        for one in self._places.pictures(frame):
            for figure in self._b.figures:
                if figure.footage != one.footage.id:
                    continue
                for joint, at in self._places.joints(figure, one).items():
                    reach = (52 if joint is Joint.HEAD else 30) * self._places.unit
                    into = ground.heads if joint is Joint.HEAD else ground.bodies
                    into.append(QRectF(at.x() - reach, at.y() - reach, 2 * reach, 2 * reach))


def _moments(p: PlacedMark) -> tuple[int, ...]:
    """Frames at which a mark is looked at to find a place for its slip."""
    last = p.end - 1
    return tuple(sorted({p.start, (p.start + last) // 2, last}))
