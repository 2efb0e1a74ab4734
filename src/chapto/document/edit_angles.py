"""Edits of the angle track: which camera is used when."""

from __future__ import annotations

from fractions import Fraction

from msgspec.structs import replace

from chapto.document.breakdown import Breakdown
from chapto.document.footage import Angle

SNAP = Fraction(1, 2)
"""Mat seconds within which an end of a choice goes to the edge of an exchange."""


def choose_camera(b: Breakdown, mat: Fraction, camera: str) -> Breakdown:
    """With `camera` used from `mat` on: to the end of the exchange there, or up to the next one."""
    start = snapped(b, mat)
    inside = [x.end for x in b.exchanges if x.start <= start < x.end]
    ahead = [x.start for x in b.exchanges if x.start > start]
    end = min(inside or ahead or [max((c.mat_out for c in b.footage), default=start + 1)])
    return put_angle(b, Angle(start=start, end=end, camera=camera)) if end > start else b


def put_angle(b: Breakdown, angle: Angle) -> Breakdown:
    """With one more choice; it takes the place of what was chosen there, and joins the same choice beside it."""
    kept = _without(b.angles, angle.start, angle.end)
    joined: list[Angle] = []
    for a in sorted((*kept, angle), key=lambda a: a.start):
        if joined and joined[-1].camera == a.camera and joined[-1].end == a.start:
            joined[-1] = replace(joined[-1], end=a.end)
        else:
            joined.append(a)
    return replace(b, angles=tuple(joined))


def leave_camera(b: Breakdown, mat: Fraction) -> Breakdown:
    """Without the choice made for `mat`: the camera is found again by itself there."""
    return replace(b, angles=tuple(a for a in b.angles if not a.start <= mat < a.end))


def move_angle_edge(
    b: Breakdown, angle: Angle, *, start: Fraction | None = None, end: Fraction | None = None
) -> Breakdown:
    """With an edge of a choice moved, snapped to exchanges; neighbours give way. Nothing happens below a tenth."""
    moved = replace(
        angle,
        start=angle.start if start is None else snapped(b, start),
        end=angle.end if end is None else snapped(b, end),
    )
    if moved.end - moved.start < Fraction(1, 10):
        return b
    return put_angle(replace(b, angles=tuple(a for a in b.angles if a != angle)), moved)


def snapped(b: Breakdown, mat: Fraction) -> Fraction:
    """The edge of an exchange within `SNAP` of `mat`, else `mat`."""
    edges = [edge for x in b.exchanges for edge in (x.start, x.end)]
    near = min(edges, key=lambda e: abs(e - mat), default=mat)
    return near if abs(near - mat) <= SNAP else mat


def _without(angles: tuple[Angle, ...], start: Fraction, end: Fraction) -> list[Angle]:
    """What is left of `angles` outside `start … end`."""
    parts = (p for a in angles for p in (replace(a, end=min(a.end, start)), replace(a, start=max(a.start, end))))
    return [p for p in parts if p.start < p.end]
