"""What lies under the pointer in the coverage chart."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

from PyQt6.QtCore import QPointF

from chapto.app.footage.chart_look import LOOK
from chapto.app.footage.chart_model import ChartModel, Stretch
from chapto.document.footage import Angle, Footage

NEAR = 6.0
"""Pixels within which a press takes hold of an edge."""


@dataclass(frozen=True)
class ChartHits:
    """`x` gives the pixel of a mat time, `mat` the mat time of a pixel."""

    model: ChartModel
    x: Callable[[float], float]
    mat: Callable[[float], float]

    def lane_at(self, place: QPointF) -> int | None:
        """Number of the lane, from 0."""
        for i in range(len(self.model.lanes)):
            if LOOK.lane_top(i) <= place.y() <= LOOK.lane_top(i) + LOOK.lane:
                return i
        return None

    def file_at(self, place: QPointF, mat: float) -> Footage | None:
        """The file; in the gutter the first of its lane."""
        i = self.lane_at(place)
        if i is None:
            return None
        files = self.model.lanes[i].files
        if place.x() < LOOK.gutter:
            return files[0]
        return next((c for c in files if c.mat_in <= mat < c.mat_out), None)

    def stretch_at(self, place: QPointF, mat: float) -> Stretch | None:
        """The shortest stretch there."""
        i = self.lane_at(place)
        slack = abs(self.mat(place.x() + 3) - mat)
        if i is None or place.x() < LOOK.gutter or place.y() > sum(LOOK.film_box(i)):
            return None
        hits = [s for s in self.model.lanes[i].stretches if s.start - slack <= mat <= s.end + slack]
        return min(hits, key=lambda s: s.end - s.start, default=None)

    def edge_at(self, place: QPointF, s: Stretch) -> str:
        """ "start" or "end" of a stretch in whose lane the pointer is; empty when neither is near."""
        i = self.lane_at(place)
        if i is None or s.footage not in [c.id for c in self.model.lanes[i].files]:
            return ""
        apart = {"start": abs(self.x(s.start) - place.x()), "end": abs(self.x(s.end) - place.x())}
        edge = min(apart, key=lambda e: apart[e])
        return edge if apart[edge] <= NEAR else ""

    def angle_at(self, place: QPointF, angles: tuple[Angle, ...]) -> tuple[Angle, str] | None:
        """A choice of the creator whose end lies under the pointer."""
        if not LOOK.ruler + LOOK.log <= place.y() <= LOOK.ruler + LOOK.log + LOOK.angles:
            return None
        for a in angles:
            for edge, mat in (("start", a.start), ("end", a.end)):
                if abs(self.x(float(mat)) - place.x()) <= NEAR:
                    return a, edge
        return None
