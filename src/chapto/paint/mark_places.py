"""Where the points of marks lie in the programme's picture, frame by frame."""

from __future__ import annotations

from dataclasses import dataclass
from fractions import Fraction
from functools import cached_property

import numpy as np
from PyQt6.QtCore import QPointF

from chapto.bodies.centre import centre_of
from chapto.bodies.track import Place
from chapto.document.breakdown import Breakdown
from chapto.document.footage import Footage
from chapto.document.joints import Joint
from chapto.document.mark_kinds import MarkKind
from chapto.document.marks import Anchor, Figure, Mark
from chapto.document.people import Side
from chapto.paint.colours import PAPER
from chapto.paint.crops import Crops
from chapto.paint.lens import Lens, Near
from chapto.paint.marks.drawn import Drawn
from chapto.paint.places import Place as Area
from chapto.paint.places import first_place, lettered, second_place
from chapto.programme.figures_at import HIGH, figure_scale, place_at, posture_at, shape_of
from chapto.programme.placed_marks import PlacedMark
from chapto.programme.programme import Programme

CLOSER = 14
"""Frames in which the picture comes closer."""
TRAIL = 10
"""Places of a trail a second."""
STEADY = Fraction(1, 5)
"""Mat seconds to both sides over which the middle of a picture that comes closer is taken."""


@dataclass(frozen=True)
class Shown:
    """A picture on the screen: its footage, the mat time it shows, and where it lies."""

    footage: Footage
    mat: Fraction
    lens: Lens

    @cached_property
    def seconds(self) -> float:
        """The second of the file it shows."""
        return float(self.footage.media_time(self.mat))


class MarkPlaces:
    """Asked frame by frame; the frame asked for last is remembered."""

    def __init__(self, b: Breakdown, programme: Programme, size: tuple[int, int]) -> None:
        self._b, self._programme, self.size = b, programme, size
        self._tracks = programme.readings.tracks
        self._anchors = {a.id: a for a in b.anchors}
        self._figures = {f.id: f for f in b.figures}
        self._crops = Crops(b, programme)
        self._seen: tuple[int, list[Shown]] | None = None
        self._looked: tuple[int, list[tuple[PlacedMark, Drawn]]] | None = None

    @property
    def unit(self) -> float:
        """A pixel of a picture 720 high."""
        return lettered(self.size)[1] / HIGH

    def near(self, frame: int) -> Near:
        """How near the first picture is seen at a frame."""
        inset = self._programme.inset_at(frame)
        _, _, width, height = first_place(self.size, inset)
        whole = self._crops.near(frame, width / height, second=False)
        if inset is not None:
            return whole
        for p in self._programme.marks_at(frame):
            if p.mark.kind is not MarkKind.CLOSER:
                continue
            passage = self._programme.time_map.passage_at(frame)
            if passage.footage != p.footage:
                continue
            come = max(float(p.mark.ease * self._programme.fps), 1.0)
            leave = min(come, CLOSER)
            share = _eased(min((frame - p.start + 1) / come, (p.end - frame) / leave))
            centre = self._centre(p.mark, passage.footage, passage.mat_at(frame))
            if centre is not None:
                return whole.towards(Near(max(float(p.mark.zoom), whole.zoom), *centre), share)
        return whole

    def pictures(self, frame: int) -> list[Shown]:
        """The one or two pictures on the screen; asked several times for each frame."""
        if self._seen is not None and self._seen[0] == frame:
            return self._seen[1]
        passage = self._programme.time_map.passage_at(frame)
        inset = self._programme.inset_at(frame)
        found = []
        if passage.footage:
            place = first_place(self.size, inset)
            found.append(self._picture(passage.footage, passage.mat_at(frame), place, self.near(frame)))
        if inset is not None:
            place = second_place(self.size, inset)
            near = self._crops.near(frame, place[2] / place[3], second=True)
            found.append(self._picture(inset.footage, inset.mat_at(frame), place, near))
        self._seen = frame, found
        return found

    def drawn(self, frame: int) -> list[tuple[PlacedMark, Drawn]]:
        """The marks of a frame where their points lie; asked several times for each."""
        if self._looked is not None and self._looked[0] == frame:
            return self._looked[1]
        shown = self.pictures(frame)
        found = []
        for p in self._programme.marks_at(frame):
            for one in shown:
                if one.footage.id == p.footage and (drawn := self._one(p, one)) is not None:
                    found.append((p, drawn))
                    break
        self._looked = frame, found
        return found

    def joints(self, figure: Figure, one: Shown, mat: Fraction | None = None) -> dict[Joint, QPointF]:
        """Where the joints of a figure lie in a picture, or would at another mat time."""
        found = {}
        for a in (self._anchors[i] for i in figure.anchors):
            place = self._place(a.id, one, mat)
            if a.joint is not None and place is not None:
                found[a.joint] = one.lens.point(place.x, place.y)
        return found

    def _picture(self, footage: str, mat: Fraction, area: Area, near: Near) -> Shown:
        c = self._b.camera(footage)
        known = self._programme.readings.steady.get(c.id) if c.steady else None
        steady = known.matrix(float(c.media_time(mat))) if known is not None else None
        return Shown(c, mat, Lens(area, shape_of(self._b, c), c.mirrored, near, steady))

    def _one(self, p: PlacedMark, one: Shown) -> Drawn | None:
        """A mark in one picture; None where its points are not known there."""
        mark = p.mark
        figure = self._figures.get(mark.figure)
        ids = mark.anchors
        if figure is not None and not ids:
            ids = self._supports(figure) if mark.kind is MarkKind.BASE else figure.anchors
        anchors = [self._anchors[a] for a in ids]
        places = [self._place(a.id, one) for a in anchors]
        if figure is not None and not mark.anchors:
            # Of a whole athlete those points count that are known.
            known = [(a, q) for a, q in zip(anchors, places, strict=True) if q is not None]
            anchors, places = [a for a, _ in known], [q for _, q in known]
        if not places or any(q is None for q in places):
            return None
        sure = [q for q in places if q is not None]
        points = tuple(one.lens.point(q.x, q.y) for q in sure)
        joints = self.joints(figure, one) if figure is not None else self._own_joints(anchors, points)
        colours = {side: self._b.athlete(side, one.mat).kit_colour for side in Side}
        of = mark.of or (figure.side if figure is not None else None)
        other = {Side.FIRST: Side.SECOND, Side.SECOND: Side.FIRST}.get(of) if of else None
        return Drawn(
            points=points,
            sides=tuple(a.side for a in anchors),
            of=of,
            colour=colours[of] if of is not None else PAPER,
            other=colours[other] if other is not None else PAPER,
            colours=colours,
            unit=self.unit,
            state=mark.stands,
            figure=joints,
            before=self._before(mark, figure, anchors, one),
            trail=self._trail(mark, one),
            loose=self._is_guess(anchors, sure),
            radius=one.lens.length(mark.size),
            centre=self._weight(mark, figure, one),
        )

    def _place(self, anchor: str, one: Shown, mat: Fraction | None = None) -> Place | None:
        """Where a point is in a picture, or would be at another mat time."""
        if mat is not None:
            return place_at(self._tracks, anchor, one.footage, mat)
        track = self._tracks.get(anchor)
        return track.place(one.seconds) if track is not None else None

    def _is_guess(self, anchors: list[Anchor], places: list[Place]) -> bool:
        tracks = self._tracks
        return any(q.hidden for q in places) or any(not tracks[a.id].measured for a in anchors if a.id in tracks)

    def _own_joints(self, anchors: list[Anchor], points: tuple[QPointF, ...]) -> dict[Joint, QPointF]:
        return {a.joint: at for a, at in zip(anchors, points, strict=True) if a.joint is not None}

    def _supports(self, figure: Figure) -> tuple[str, ...]:
        return tuple(a for a in figure.anchors if self._anchors[a].joint in figure.rests) or figure.anchors[:2]

    def _before(
        self, mark: Mark, figure: Figure | None, anchors: list[Anchor], one: Shown
    ) -> dict[Joint, QPointF] | None:
        if mark.kind is not MarkKind.GHOST:
            return None
        then = one.mat - mark.before
        if figure is not None:
            return self.joints(figure, one, then) or None
        places = [(a.joint, place_at(self._tracks, a.id, one.footage, then)) for a in anchors]
        return {j: one.lens.point(q.x, q.y) for j, q in places if j is not None and q is not None} or None

    def _trail(self, mark: Mark, one: Shown) -> tuple[QPointF, ...]:
        if mark.kind is not MarkKind.PATH:
            return ()
        count = max(int(mark.before * TRAIL), 1)
        times = [one.mat - mark.before * (count - i) / count for i in range(count + 1)]
        places = [place_at(self._tracks, mark.anchors[0], one.footage, t) for t in times]
        return tuple(one.lens.point(q.x, q.y) for q in places if q is not None)

    def _weight(self, mark: Mark, figure: Figure | None, one: Shown) -> QPointF | None:
        """The centre of the weight over a base, where every joint of the figure is there."""
        if mark.kind is not MarkKind.BASE:
            return None
        mine = figure or next((f for f in self._b.figures if set(mark.anchors) & set(f.anchors)), None)
        scale = figure_scale(self._b, self._tracks, mine) if mine is not None else None
        if mine is None or scale is None:
            return None
        centre = centre_of(posture_at(self._b, self._tracks, mine, one.mat), scale)
        if centre is None:
            return None
        x, y = centre.place / HIGH
        return one.lens.point(float(x) / shape_of(self._b, one.footage), float(y))

    def _centre(self, mark: Mark, footage: str, mat: Fraction) -> tuple[float, float] | None:
        """The middle of what the picture comes closer to, 0…1 of the place it fills."""
        c = self._b.camera(footage)
        lens = Lens((0, 0, *self.size), shape_of(self._b, c), c.mirrored)
        found = []
        for off in (-STEADY, Fraction(0), STEADY):
            places = [place_at(self._tracks, a, c, mat + off) for a in mark.anchors]
            found += [lens.point(q.x, q.y) for q in places if q is not None]
        if not found:
            return None
        middle = np.array([(at.x(), at.y()) for at in found]).mean(0) / self.size
        return float(middle[0]), float(middle[1])


def _eased(share: float) -> float:
    x = min(max(share, 0.0), 1.0)
    return x * x * (3 - 2 * x)
