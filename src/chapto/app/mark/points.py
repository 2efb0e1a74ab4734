"""The points that lie on the picture of a frame, and where a press on it falls on the footage."""

from __future__ import annotations

from dataclasses import dataclass
from fractions import Fraction

from PyQt6.QtCore import QPointF

from chapto.app.mark.run import Put
from chapto.app.studio import Studio
from chapto.bodies.track import Place
from chapto.document.marks import Anchor
from chapto.document.people import Side
from chapto.paint.mark_layer import MarkLayer
from chapto.paint.mark_places import Shown
from chapto.programme.figures_at import place_at


@dataclass(frozen=True)
class Handle:
    """A point that can be taken hold of: `at` is 0…1 of the programme's picture."""

    anchor: str
    at: QPointF
    side: Side | None
    name: str
    hidden: bool


NEAR = 40 / 720
"""Share of the picture's height from a point within which a press means its mark."""
WITHIN = Fraction(6)
"""Mat seconds from a key within which a point that was not followed so far can be put down again."""


class Points:
    """Answers for one frame of a programme. Mat times are those of the file's own pictures, so that a key lies on the
    picture it was put down in."""

    def __init__(self, studio: Studio) -> None:
        self._studio = studio
        self._layer: tuple[object, MarkLayer] | None = None

    @property
    def layer(self) -> MarkLayer:
        """The marks of the programme as it is."""
        made = self._studio.production
        if self._layer is None or self._layer[0] is not made:
            f = made.breakdown.format
            self._layer = made, MarkLayer(made.breakdown, made.programme, (f.width, f.height))
        return self._layer[1]

    def pictures(self, frame: int) -> list[Shown]:
        """The one or two pictures of a frame."""
        programme = self._studio.programme
        return self.layer.pictures(min(frame, programme.frames - 1)) if programme.frames else []

    def put(self, frame: int, at: QPointF) -> Put | None:
        """What a press on the picture means: the footage, its mat time and the place on it; None beside a picture."""
        size = self.layer.size
        place = QPointF(at.x() * size[0], at.y() * size[1])
        for one in reversed(self.pictures(frame)):
            x, y, w, h = one.lens.place
            if x <= place.x() <= x + w and y <= place.y() <= y + h:
                fx, fy = one.lens.back(place)
                return Put(one.footage.id, self._exact(one), min(max(fx, 0.0), 1.0), min(max(fy, 0.0), 1.0))
        return None

    def put_of(self, frame: int, anchor: str, at: QPointF) -> Put | None:
        """What a place means for a point that is there: it has to lie on the point's own footage."""
        put = self.put(frame, at)
        found = next((a for a in self._studio.breakdown.anchors if a.id == anchor), None)
        return put if put is not None and found is not None and put.footage == found.footage else None

    def mark_at(self, frame: int, at: QPointF) -> str | None:
        """The mark (by id) with a point near a place of the picture, the nearest one."""
        size, best, found = self.layer.size, NEAR * self.layer.size[1], None
        for placed, drawn in self.layer.drawn(frame) if self._studio.programme.frames else ():
            for p in drawn.points:
                apart = ((p.x() - at.x() * size[0]) ** 2 + (p.y() - at.y() * size[1]) ** 2) ** 0.5
                if apart < best:
                    best, found = apart, placed.mark.id
        return found

    def mat(self, frame: int, footage: str) -> Fraction | None:
        """The mat time at which the picture of a footage on show at a frame begins."""
        one = next((s for s in self.pictures(frame) if s.footage.id == footage), None)
        return self._exact(one) if one is not None else None

    def handles(self, frame: int, anchors: tuple[Anchor, ...], *, guess: bool = True) -> tuple[Handle, ...]:
        """Where points lie in a frame, as far as they do; with a `guess`, those too that were not followed so far."""
        found, size = [], self.layer.size
        tracks = self._studio.programme.readings.tracks
        for one in self.pictures(frame):
            for a in anchors:
                if a.footage != one.footage.id:
                    continue
                place = place_at(tracks, a.id, one.footage, one.mat)
                near = min(a.keys, key=lambda k: abs(k.mat - one.mat))
                if guess and place is None and abs(near.mat - one.mat) <= WITHIN:
                    # Not followed to here: it can still be taken hold of, and put right.
                    place = Place(near.x, near.y, hidden=True)
                if place is not None:
                    at = one.lens.point(place.x, place.y)
                    name = str(a.joint) if a.joint is not None else ""
                    unit = QPointF(at.x() / size[0], at.y() / size[1])
                    found.append(Handle(a.id, unit, a.side, name, place.hidden))
        return tuple(found)

    def _exact(self, one: Shown) -> Fraction:
        files = self._studio.files
        if one.footage.id not in files.places:
            return one.mat
        return files.pictures.step(one.footage, one.mat, 0)
