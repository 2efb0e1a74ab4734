"""The marks of one programme at one picture size: what is laid on each frame, and what is done to the picture."""

from __future__ import annotations

from collections import OrderedDict
from dataclasses import dataclass, replace
from fractions import Fraction

import numpy as np
from PyQt6.QtCore import QPointF, QRectF
from PyQt6.QtGui import QImage, QPainter

from chapto.bodies.centre import centre_of
from chapto.bodies.track import Place
from chapto.document.breakdown import Breakdown
from chapto.document.footage import Footage
from chapto.document.joints import Joint
from chapto.document.mark_kinds import MarkKind
from chapto.document.marks import Anchor, Figure, Mark
from chapto.document.people import Side
from chapto.paint.box import Box
from chapto.paint.colours import PAPER
from chapto.paint.effects import Blur, Effect, Magnified, Veil
from chapto.paint.lens import Lens, Near
from chapto.paint.marks import window
from chapto.paint.marks.drawn import Drawn
from chapto.paint.marks.looks import LOOKS
from chapto.paint.marks.slip import Ground, Slip, lace, placed, slip_image
from chapto.paint.marks.spotlight import veil
from chapto.paint.places import SAFE, even, first_place, second_place
from chapto.paint.places import Place as Area
from chapto.paint.plates import blank, painter_on
from chapto.programme.figures_at import figure_scale, place_at, posture_at, shape_of
from chapto.programme.placed_marks import PlacedMark, covered
from chapto.programme.programme import Programme

COMES, CLOSER = 5, 14
"""Frames in which a mark comes and goes, and in which the picture comes closer."""
KEPT = 48
"""Painted marks kept at once."""
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


class MarkLayer:
    """Asked frame by frame; equal questions are answered once."""

    def __init__(self, b: Breakdown, programme: Programme, size: tuple[int, int]) -> None:
        self._b, self._programme, self.size = b, programme, size
        self._unit = size[1] / 720
        self._tracks = programme.readings.tracks
        self._anchors = {a.id: a for a in b.anchors}
        self._figures = {f.id: f for f in b.figures}
        self._slips: dict[int, QRectF] = {}
        self._windows: dict[int, QRectF] = {}
        self._painted: OrderedDict[str, tuple[int, int, QImage]] = OrderedDict()
        self._has_covers = any(m.kind is MarkKind.COVER for m in b.marks)
        self._is_idle = not programme.marks and not self._has_covers

    # ── what the picture does ────────────────────────────────────────────────────────────────────────────
    def near(self, frame: int) -> Near:
        """How near the first picture is seen at a frame."""
        for p in () if self._is_idle else self._programme.marks_at(frame):
            if p.mark.kind is not MarkKind.CLOSER or self._programme.inset_at(frame) is not None:
                continue
            passage = self._programme.time_map.passage_at(frame)
            if passage.footage != p.footage:
                continue
            share = _eased(min(frame - p.start + 1, p.end - frame) / CLOSER)
            zoom = 1 + (float(p.mark.zoom) - 1) * share
            centre = self._centre(p.mark, passage.footage, passage.mat_at(frame))
            if centre is not None:
                return Near(zoom, *centre)
        return Near()

    def effects(self, frame: int) -> tuple[Effect, ...]:
        """What is done to the picture of a frame, in this order."""
        if self._is_idle:
            return ()
        found: list[Effect] = []
        shown = self.pictures(frame)
        if self._has_covers:
            for one in shown:
                for spot in covered(self._b, self._tracks, one.footage, one.mat):
                    at = one.lens.point(spot.x, spot.y)
                    found.append(Blur(at.x(), at.y(), one.lens.length(spot.radius)))
        for p, drawn in self._drawn_at(frame, shown):
            strength = self._strength(p, frame)
            if p.mark.kind is MarkKind.SPOTLIGHT:
                key = f"veil/{p.mark.id}/{strength:.2f}/{_key_of(drawn)}"
                found.append(Veil(veil(drawn, self.size, strength), key))
        return tuple(found)

    def windows(self, frame: int) -> tuple[Magnified, ...]:
        """The spots that are shown magnified, before anything is laid over the picture."""
        if self._is_idle:
            return ()
        return tuple(
            Magnified(window.spot(drawn), drawn.box)
            for p, drawn in self._drawn_at(frame, self.pictures(frame))
            if p.mark.kind is MarkKind.WINDOW and drawn.box is not None and self._strength(p, frame) > 0.5
        )

    # ── what is laid over it ─────────────────────────────────────────────────────────────────────────────
    def boxes(self, frame: int) -> tuple[Box, ...]:
        """Marks and their slips, in the order in which they came."""
        if self._is_idle:
            return ()
        found: list[Box] = []
        drawn = self._drawn_at(frame, self.pictures(frame))
        for p, one in drawn:
            strength = self._strength(p, frame)
            if LOOKS[p.mark.kind].margin and (p.mark.kind is not MarkKind.WINDOW or strength > 0.5):
                found.append(self._mark_box(p, one, strength))
        slips = [self._slip_boxes(p, one, frame) for p, one in drawn if p.words or p.fact]
        # No lace lies over another mark's words.
        return (*found, *(lace for laces, _ in slips for lace in laces), *(slip for _, slip in slips))

    def drawn(self, frame: int) -> tuple[tuple[PlacedMark, Drawn], ...]:
        """The marks of a frame with where their points lie: for whoever wants to take hold of them."""
        return () if self._is_idle else tuple(self._drawn_at(frame, self.pictures(frame)))

    def _mark_box(self, p: PlacedMark, one: Drawn, strength: float) -> Box:
        key = f"mark/{p.mark.id}/{strength:.2f}/{_key_of(one)}"
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
        reach = look.margin * self._unit
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
        image = slip_image(slip, self.size)
        place = self._slip_place(p, image)
        at = LOOKS[p.mark.kind].hang(one)
        thread = self._lace(place, at, strength)
        key = f"slip/{p.mark.id}/{p.words}/{p.fact}/{strength:.2f}"
        return thread, Box(key, int(place.x()), int(place.y()), _faded(image, strength))

    def _lace(self, place: QRectF, at: QPointF, strength: float) -> list[Box]:
        if place.adjusted(-4, -4, 4, 4).contains(at):
            return []
        key = f"lace/{place.x():.0f}/{place.y():.0f}/{at.x():.1f}/{at.y():.1f}/{strength:.2f}"
        found = self._painted.get(key)
        if found is None:
            bounds = place.united(QRectF(at.x() - 1, at.y() - 1, 2, 2)).adjusted(-8, -8, 8, 24)
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

    def _slip_place(self, p: PlacedMark, image: QImage) -> QRectF:
        """Where a slip lies as long as it is shown: where the creator put it, else where it hides least."""
        known = self._slips.get(id(p))
        if known is not None:
            return known
        size = image.width(), image.height()
        if p.mark.slip is not None:
            x, y = p.mark.slip[0] * self.size[0] - size[0] / 2, p.mark.slip[1] * self.size[1] - size[1] / 2
            low, high = SAFE * self.size[0], (1 - SAFE) * self.size[0] - size[0]
            foot = (1 - SAFE) * self.size[1] - size[1]
            made = QRectF(even(min(max(x, low), max(high, low))), even(min(max(y, SAFE * self.size[1]), foot)), *size)
        else:
            hangs, ground = [], Ground(detail=self._programme.readings.details.get(p.footage))
            ground.solid += self._taken(p)
            for frame in _moments(p):
                for other, drawn in self._drawn_at(frame, self.pictures(frame)):
                    if other is p:
                        hangs.append(LOOKS[p.mark.kind].hang(drawn))
                    self._mind(ground, other, drawn)
                self._mind_figures(ground, frame)
            made = placed(size, hangs, self.size, ground, self._unit) if hangs else QRectF(0, 0, *size)
        self._slips[id(p)] = made
        return made

    def _taken(self, p: PlacedMark) -> list[QRectF]:
        """Where other slips and windows lie meanwhile, and where labels, names and the score come."""
        width, height = self.size
        found = [
            place
            for other in self._programme.marks
            if other is not p and other.start < p.end and other.end > p.start
            for place in (self._slips.get(id(other)), self._windows.get(id(other)))
            if place is not None
        ]
        found = [place.adjusted(-8, -8, 8, 8) for place in found]
        if any(label.start < p.end and label.end > p.start for label in self._programme.labels):
            found.append(QRectF(0, height * 0.86, width * 0.5, height * 0.14))
        if any(c.start < p.end and c.end > p.start for c in self._programme.cautions):
            found.append(QRectF(0, height * 0.84, width, height * 0.16))
        if any(n.start < p.end and n.end > p.start for n in self._programme.names):
            found.append(QRectF(0, height * 0.82, width, height * 0.18))
        if self._b.score_strip:
            found.append(QRectF(width * 0.3, 0, width * 0.4, height * 0.14))
        if self._b.control_strip:
            found.append(QRectF(0, 0, width * 0.5, height * 0.24))
        return found

    def _mind(self, ground: Ground, p: PlacedMark, drawn: Drawn) -> None:
        reach = 26 * self._unit
        for at in (*drawn.points, *(drawn.before or {}).values()):
            ground.bodies.append(QRectF(at.x() - reach, at.y() - reach, 2 * reach, 2 * reach))
        if drawn.box is not None:
            ground.solid.append(drawn.box.adjusted(-10, -10, 10, 10))

    def _mind_figures(self, ground: Ground, frame: int) -> None:
        """Heads and bodies of everybody who was put down."""
        for one in self.pictures(frame):
            for figure in self._b.figures:
                if figure.footage != one.footage.id:
                    continue
                for joint, at in self._joints(figure, one).items():
                    reach = (52 if joint is Joint.HEAD else 30) * self._unit
                    into = ground.heads if joint is Joint.HEAD else ground.bodies
                    into.append(QRectF(at.x() - reach, at.y() - reach, 2 * reach, 2 * reach))

    # ── where points are ─────────────────────────────────────────────────────────────────────────────────
    def pictures(self, frame: int) -> list[Shown]:
        """The one or two pictures on the screen."""
        passage = self._programme.time_map.passage_at(frame)
        inset = self._programme.inset_at(frame)
        found = []
        if passage.footage:
            near = self.near(frame) if inset is None else Near()
            found.append(self._picture(passage.footage, passage.mat_at(frame), first_place(self.size, inset), near))
        if inset is not None:
            found.append(self._picture(inset.footage, inset.mat_at(frame), second_place(self.size, inset), Near()))
        return found

    def _picture(self, footage: str, mat: Fraction, area: Area, near: Near) -> Shown:
        c = self._b.camera(footage)
        return Shown(c, mat, Lens(area, shape_of(self._b, c), c.mirrored, near))

    def _drawn_at(self, frame: int, shown: list[Shown]) -> list[tuple[PlacedMark, Drawn]]:
        found = []
        for p in self._programme.marks_at(frame):
            for one in shown:
                if one.footage.id == p.footage and (drawn := self._one(p, one)) is not None:
                    found.append((p, drawn))
                    break
        return found

    def _one(self, p: PlacedMark, one: Shown) -> Drawn | None:
        """A mark in one picture; None where its points are not known there."""
        mark = p.mark
        figure = self._figures.get(mark.figure)
        ids = mark.anchors
        if figure is not None and not ids:
            ids = self._supports(figure) if mark.kind is MarkKind.BASE else figure.anchors
        anchors = [self._anchors[a] for a in ids]
        places = [place_at(self._tracks, a.id, one.footage, one.mat) for a in anchors]
        if figure is not None and not mark.anchors:
            # Of a whole athlete those points count that are known.
            known = [(a, q) for a, q in zip(anchors, places, strict=True) if q is not None]
            anchors, places = [a for a, _ in known], [q for _, q in known]
        if not places or any(q is None for q in places):
            return None
        sure = [q for q in places if q is not None]
        points = tuple(one.lens.point(q.x, q.y) for q in sure)
        joints = self._joints(figure, one) if figure is not None else self._own_joints(anchors, points)
        colours = {side: self._b.athlete(side, one.mat).kit_colour for side in Side}
        of = mark.of or (figure.side if figure is not None else None)
        other = {Side.FIRST: Side.SECOND, Side.SECOND: Side.FIRST}.get(of) if of else None
        made = Drawn(
            points=points,
            sides=tuple(a.side for a in anchors),
            of=of,
            colour=colours[of] if of is not None else PAPER,
            other=colours[other] if other is not None else PAPER,
            colours=colours,
            unit=self._unit,
            state=mark.stands,
            figure=joints,
            before=self._before(mark, figure, anchors, one),
            trail=self._trail(mark, one),
            loose=self._is_guess(anchors, sure),
            radius=one.lens.length(mark.size),
            centre=self._weight(mark, figure, one),
        )
        return self._with_window(p, made)

    def _is_guess(self, anchors: list[Anchor], places: list[Place]) -> bool:
        tracks = self._tracks
        return any(q.hidden for q in places) or any(not tracks[a.id].measured for a in anchors if a.id in tracks)

    def _joints(self, figure: Figure, one: Shown, mat: Fraction | None = None) -> dict[Joint, QPointF]:
        found = {}
        for a in (self._anchors[i] for i in figure.anchors):
            place = place_at(self._tracks, a.id, one.footage, one.mat if mat is None else mat)
            if a.joint is not None and place is not None:
                found[a.joint] = one.lens.point(place.x, place.y)
        return found

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
            return self._joints(figure, one, then) or None
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
        x, y = centre.place / 720
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

    def _with_window(self, p: PlacedMark, drawn: Drawn) -> Drawn:
        if p.mark.kind is not MarkKind.WINDOW:
            return drawn
        if id(p) not in self._windows:
            self._windows[id(p)] = self._window_place(p, drawn)
        return replace(drawn, box=self._windows[id(p)])

    def _window_place(self, p: PlacedMark, drawn: Drawn) -> QRectF:
        """The corner of the picture that the window hides least in."""
        width, height = self.size
        spot = window.spot(drawn)
        zoom = min(float(p.mark.zoom), window.MOST * width / spot.width(), 0.5 * height / spot.height())
        w, h = even(spot.width() * zoom), even(spot.height() * zoom)
        edge = (SAFE * width + 8 * self._unit, SAFE * height + 8 * self._unit)
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

    @staticmethod
    def _strength(p: PlacedMark, frame: int) -> float:
        """A mark comes and goes within a few frames."""
        return min(min(frame - p.start + 1, p.end - frame) / COMES, 1.0)


def _moments(p: PlacedMark) -> tuple[int, ...]:
    """Frames at which a mark is looked at to find a place for its slip."""
    last = p.end - 1
    return tuple(sorted({p.start, (p.start + last) // 2, last}))


def _key_of(drawn: Drawn) -> str:
    places = [*drawn.points, *drawn.trail, *(drawn.before or {}).values(), *(drawn.figure or {}).values()]
    places += [drawn.centre] if drawn.centre is not None else []
    text = ",".join(f"{at.x():.1f}:{at.y():.1f}" for at in places)
    return f"{text}/{drawn.state}/{drawn.loose}/{drawn.radius:.1f}/{drawn.box}"


def _eased(share: float) -> float:
    x = min(max(share, 0.0), 1.0)
    return x * x * (3 - 2 * x)


def _faded(image: QImage, strength: float) -> QImage:
    if strength >= 1:
        return image
    made = blank(image.width(), image.height())
    p = QPainter(made)
    p.setOpacity(strength)
    p.drawImage(0, 0, image)
    p.end()
    return made
