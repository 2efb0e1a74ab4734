"""What a mark may say of what it shows, as words for its slip or for the script.

A fact that may not be said gives no words. Nothing is quoted finer than a tenth of a torso.
"""

from __future__ import annotations

from collections.abc import Callable
from fractions import Fraction

import numpy as np

from chapto.bodies.angles import knee_angle, spine_angle
from chapto.bodies.base import plumb_line
from chapto.bodies.centre import centre_of
from chapto.bodies.distance import across, gap
from chapto.bodies.fact import Fact
from chapto.bodies.height import Standing, higher_hips
from chapto.bodies.posture import Vec
from chapto.document.breakdown import Breakdown
from chapto.document.footage import Footage
from chapto.document.mark_kinds import MarkKind
from chapto.document.marks import Figure, Mark
from chapto.document.people import Side
from chapto.programme.figures_at import (
    HIGH,
    Tracks,
    figure_scale,
    figure_with,
    place_at,
    posture_at,
    scale_near,
    shape_of,
)


def fact_words(b: Breakdown, tracks: Tracks, mark: Mark, mat: Fraction) -> str:
    """What may be said beside a mark at a mat time; nothing where that would not be honest."""
    say = _SAY.get(mark.kind)
    return say(b, tracks, mark, mat) if say is not None else ""


def figure_facts(b: Breakdown, tracks: Tracks, figure: Figure, mat: Fraction) -> tuple[str, ...]:
    """Everything that may be said of one athlete at a mat time."""
    scale, posture = figure_scale(b, tracks, figure), posture_at(b, tracks, figure, mat)
    if scale is None:
        return ()
    name = _name(b, figure.side, mat)
    found = []
    spine = spine_angle(posture, scale)
    if spine is not None and spine.may_be_said:
        found.append(f"{name}’s back leans {_degrees(spine)} from upright")
    for left, side in ((True, "left"), (False, "right")):
        knee = knee_angle(posture, scale, left=left)
        if knee is not None and knee.may_be_said:
            found.append(f"{name}’s {side} knee is bent to {_degrees(knee)}")
    if weight := _weight(b, tracks, figure, mat):
        found.append(f"{name}’s {weight}")
    return tuple(found)


def torsos(value: float) -> str:
    """A length in words, to a tenth of a torso."""
    tenths = round(abs(value), 1)
    return "a torso" if tenths == 1 else f"{tenths:g} of a torso" if tenths < 1 else f"{tenths:g} torsos"


def _degrees(fact: Fact) -> str:
    return f"about {round(fact.value / 5) * 5}°"


def _name(b: Breakdown, side: Side, mat: Fraction) -> str:
    return b.athlete(side, mat).name.split()[0] if b.athlete(side, mat).name.split() else side.value


def _hips(b: Breakdown, tracks: Tracks, mark: Mark, mat: Fraction) -> str:
    figures: dict[Side, Figure] = {}
    for anchor in mark.anchors:
        figure = figure_with(b, anchor)
        if figure is not None:
            figures[figure.side] = figure
    if len(figures) < 2:
        return ""
    standing = []
    for side in (Side.FIRST, Side.SECOND):
        scale = figure_scale(b, tracks, figures[side])
        if scale is None:
            return ""
        standing.append(Standing(posture_at(b, tracks, figures[side], mat), figures[side].rests, scale))
    fact = higher_hips(*standing)
    if fact is None or not fact.may_be_said:
        return ""
    return f"{_name(b, Side.FIRST if fact.value > 0 else Side.SECOND, mat)}’s hips are higher"


def _on_base(b: Breakdown, tracks: Tracks, mark: Mark, mat: Fraction) -> str:
    figure = next((f for f in b.figures if f.id == mark.figure), None)
    figure = figure or next((f for a in mark.anchors if (f := figure_with(b, a)) is not None), None)
    return _weight(b, tracks, figure, mat) if figure is not None else ""


def _weight(b: Breakdown, tracks: Tracks, figure: Figure, mat: Fraction) -> str:
    scale, posture = figure_scale(b, tracks, figure), posture_at(b, tracks, figure, mat)
    centre = centre_of(posture, scale) if scale is not None else None
    fact = plumb_line(centre, posture, figure.rests) if centre is not None else None
    if fact is None or not fact.may_be_said:
        return ""
    return f"weight is {'over' if fact.value > 0 else 'outside'} the supports, from this camera"


def _apart(b: Breakdown, tracks: Tracks, mark: Mark, mat: Fraction) -> str:
    found = _points(b, tracks, mark, mat)
    scale = scale_near(b, tracks, _footage(b, mark).id, mat, mark.of)
    fact = gap(found[0], found[1], scale) if len(found) == 2 and scale is not None else None
    return f"at least {torsos(fact.value)} apart" if fact is not None and fact.may_be_said else ""


def _across(b: Breakdown, tracks: Tracks, mark: Mark, mat: Fraction) -> str:
    found = _points(b, tracks, mark, mat)
    scale = scale_near(b, tracks, _footage(b, mark).id, mat, mark.of)
    if len(found) < 3 or scale is None:
        return ""
    fact = across(found[2], (found[0], found[1]), scale)
    return f"knee {torsos(fact.value)} from the line" if fact is not None and fact.may_be_said else ""


def _gone(b: Breakdown, tracks: Tracks, mark: Mark, mat: Fraction) -> str:
    before = _points(b, tracks, mark, mat - mark.before)
    now = _points(b, tracks, mark, mat)
    scale = scale_near(b, tracks, _footage(b, mark).id, mat, mark.of)
    if not before or not now or scale is None:
        return ""
    fact = gap(before[0], now[0], scale)
    said = fact is not None and fact.may_be_said
    return f"at least {torsos(fact.value)} in {float(mark.before):.1f} s" if fact is not None and said else ""


def _since(b: Breakdown, tracks: Tracks, mark: Mark, mat: Fraction) -> str:
    return f"{float(mark.before):.1f} s before"


def _points(b: Breakdown, tracks: Tracks, mark: Mark, mat: Fraction) -> list[Vec]:
    """The mark's points in pixels of a picture `HIGH` high; none where one of them is not seen."""
    c = _footage(b, mark)
    places = [place_at(tracks, a, c, mat) for a in mark.anchors]
    seen = [p for p in places if p is not None and not p.hidden]
    if len(seen) < len(places):
        return []
    return [np.array([p.x * shape_of(b, c) * HIGH, p.y * HIGH]) for p in seen]


def _footage(b: Breakdown, mark: Mark) -> Footage:
    anchor = next(a for a in b.anchors if a.id in mark.anchors)
    return b.camera(anchor.footage)


_SAY: dict[MarkKind, Callable[[Breakdown, Tracks, Mark, Fraction], str]] = {
    MarkKind.LEVEL: _hips,
    MarkKind.BASE: _on_base,
    MarkKind.GAP: _apart,
    MarkKind.KNEE_LINE: _across,
    MarkKind.PATH: _gone,
    MarkKind.GHOST: _since,
}
