"""How near a picture is seen in a place of another shape: as near as what happens in it allows."""

from __future__ import annotations

import numpy as np

from chapto.document.breakdown import Breakdown
from chapto.document.mark_kinds import MarkKind
from chapto.paint.follow_way import Boxes, FollowWay
from chapto.paint.lens import Near
from chapto.programme.figures_at import shape_of
from chapto.programme.other_shape import OtherShapes
from chapto.programme.programme import Programme
from chapto.programme.readings import EVERYWHERE, Action, Stretch

ROOM, LEAST = 0.04, 0.012
"""Shares of the picture that stay free on both sides of what happens: usually, and where the place is filled by it."""
WORTH = 1.1
"""A picture that would come nearer by less than this stays whole."""
BESIDE = 0.3
"""Seconds before and after a mark for which its points are held too."""
LOOKED = 4
"""Times at which the points of a mark are looked up in the frames it stands."""


class Crops:
    """Asked frame by frame; each stretch is worked out once."""

    def __init__(self, b: Breakdown, programme: Programme) -> None:
        self._b, self._programme = b, programme
        self._shapes = OtherShapes(b, programme)
        self._known: dict[Stretch, Action] = {}
        self._ways: dict[str, FollowWay] = {}

    def near(self, frame: int, aspect: float, *, second: bool) -> Near:
        """How near the first or `second` picture of a frame is seen in a place whose width by its height is
        `aspect`."""
        if not second and (followed := self._followed(frame, aspect)) is not None:
            return followed
        stretch = self._shapes.at(frame, second=second)
        if stretch is None:
            return Near()
        if stretch not in self._known:
            self._known[stretch] = self._box(stretch)
        c = self._b.camera(stretch.footage)
        return near_to(self._known[stretch], shape_of(self._b, c), aspect, mirrored=c.mirrored)

    def _followed(self, frame: int, aspect: float) -> Near | None:
        """How near it is seen where the picture follows the two."""
        passage = self._programme.time_map.passage_at(frame)
        two = self._programme.readings.two.get(passage.footage)
        if two is None or not passage.footage:
            return None
        if passage.footage not in self._ways:
            self._ways[passage.footage] = FollowWay(self._with_marks(passage.footage, two))
        c = self._b.camera(passage.footage)
        box = self._ways[passage.footage].at(float(c.media_time(passage.mat_at(frame))))
        return near_to(box, shape_of(self._b, c), aspect, mirrored=c.mirrored)

    def _with_marks(self, footage: str, two: Boxes) -> Boxes:
        """The boxes with what is marked while it is shown: no marked point is ever cut off."""
        found, c = two.copy(), self._b.camera(footage)
        figures = {f.id: f.anchors for f in self._b.figures}
        for p in self._programme.marks:
            if p.footage != footage or p.mark.kind is MarkKind.CLOSER:
                continue
            shown = [self._programme.time_map.passage_at(i) for i in (p.start, p.end - 1)]
            mats = [x.mat_at(i) for x, i in zip(shown, (p.start, p.end - 1), strict=True) if x.footage == footage]
            if not mats:
                continue
            low, high = (float(c.media_time(m)) for m in (min(mats), max(mats)))
            inside = (found[:, 0] >= low - BESIDE) & (found[:, 0] <= high + BESIDE)
            for anchor in (*p.mark.anchors, *figures.get(p.mark.figure, ())):
                track = self._programme.readings.tracks.get(anchor)
                for second in (low, high):
                    place = track.place(second) if track is not None else None
                    if place is not None:
                        found[inside, 1:3] = np.minimum(found[inside, 1:3], (place.x, place.y))
                        found[inside, 3:5] = np.maximum(found[inside, 3:5], (place.x, place.y))
        return found

    def _box(self, stretch: Stretch) -> Action:
        """Where it moves, and where marks stand: none of them is ever cut off."""
        box = self._programme.readings.action.get(stretch, EVERYWHERE)
        spots = [] if box == EVERYWHERE else self._marked(stretch)
        return Action(
            min([box.left, *(x for x, _ in spots)]),
            min([box.top, *(y for _, y in spots)]),
            max([box.right, *(x for x, _ in spots)]),
            max([box.bottom, *(y for _, y in spots)]),
        )

    def _marked(self, stretch: Stretch) -> list[tuple[float, float]]:
        c, tracks = self._b.camera(stretch.footage), self._programme.readings.tracks
        figures = {f.id: f.anchors for f in self._b.figures}
        found = []
        for p in self._programme.marks:
            together = (max(s, p.start) < min(e, p.end) for s, e in self._shapes.frames_of(stretch))
            if p.footage != c.id or p.mark.kind is MarkKind.CLOSER or not any(together):
                continue
            for anchor in (*p.mark.anchors, *figures.get(p.mark.figure, ())):
                track = tracks.get(anchor)
                times = (stretch.start + (stretch.end - stretch.start) * k / (LOOKED - 1) for k in range(LOOKED))
                places = [track.place(float(c.media_time(t))) for t in times] if track is not None else []
                found += [(q.x, q.y) for q in places if q is not None]
        return found


def near_to(box: Action, shape: float, aspect: float, *, mirrored: bool = False) -> Near:
    """How near a picture is seen whose width by its height is `shape`, in a place of shape `aspect`: until it fills the
    place, or `box` with some room round it fills the place's shorter way."""
    wide = shape > aspect
    low, high = (box.left, box.right) if wide else (box.top, box.bottom)
    full = max(shape / aspect, aspect / shape)
    room = LEAST if high - low + 2 * LEAST <= 1 / full else ROOM
    low, high = max(low - room, 0.0), min(high + room, 1.0)
    zoom = min(full, 1 / max(high - low, 0.05))
    if zoom < WORTH:
        return Near()
    middle = (low + high) / 2
    if wide:
        return Near(zoom, 1 - middle if mirrored else middle, 0.5)
    return Near(zoom, 0.5, middle)
