"""The athletes as they stand on the picture at one moment: postures and sizes from the points that follow them."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from fractions import Fraction

import numpy as np

from chapto.bodies.posture import Posture
from chapto.bodies.scale import Scale, scale_of
from chapto.bodies.track import Place, Track
from chapto.document.breakdown import Breakdown
from chapto.document.footage import Footage
from chapto.document.joints import ROW
from chapto.document.marks import Anchor, Figure
from chapto.document.people import Side

Tracks = Mapping[str, Track]
HIGH = 720.0
"""Facts are worked out in pixels of a picture so high, in which a click errs by three."""


def shape_of(b: Breakdown, c: Footage) -> float:
    """Width of the footage's upright picture by its height; the programme's own shape where nobody looked yet."""
    return float(c.aspect) if c.aspect else b.format.width / b.format.height


def place_at(tracks: Tracks, anchor: str, c: Footage, mat: Fraction) -> Place | None:
    """Where a point is in the picture on show at a mat time; None where that is not known."""
    track = tracks.get(anchor)
    return track.place(float(c.media_time(mat))) if track is not None else None


def figure_with(b: Breakdown, anchor: str) -> Figure | None:
    """The figure that a point belongs to."""
    return next((f for f in b.figures if anchor in f.anchors), None)


def posture_at(b: Breakdown, tracks: Tracks, figure: Figure, mat: Fraction) -> Posture:
    """A figure at a mat time, in pixels of a picture `HIGH` high; what is hidden or not known is left out."""
    c = b.camera(figure.footage)
    points = np.full((len(ROW), 2), np.nan)
    for anchor in _anchors(b, figure.anchors):
        place = place_at(tracks, anchor.id, c, mat)
        if anchor.joint is not None and place is not None and not place.hidden:
            points[ROW[anchor.joint]] = place.x * shape_of(b, c) * HIGH, place.y * HIGH
    return Posture(points)


def figure_scale(b: Breakdown, tracks: Tracks, figure: Figure) -> Scale | None:
    """The size of a figure from all pictures in which its points were put down."""
    times = sorted({k.mat for a in _anchors(b, figure.anchors) for k in a.keys})
    return scale_of([posture_at(b, tracks, figure, mat) for mat in times])


def scale_near(b: Breakdown, tracks: Tracks, footage: str, mat: Fraction, side: Side | None) -> Scale | None:
    """A size to measure by at a mat time: that of the figure put down nearest to it, of `side` if there is one."""
    known = [f for f in b.figures if f.footage == footage]
    known.sort(key=lambda f: (side is not None and f.side is not side, abs(_when(b, f) - mat)))
    return next((s for f in known if (s := figure_scale(b, tracks, f)) is not None), None)


def _when(b: Breakdown, figure: Figure) -> Fraction:
    return next(k.mat for a in _anchors(b, figure.anchors) for k in a.keys)


def _anchors(b: Breakdown, ids: Iterable[str]) -> list[Anchor]:
    wanted = set(ids)
    return [a for a in b.anchors if a.id in wanted]
