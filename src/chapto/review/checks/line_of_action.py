"""Camera changes after which the two have swapped sides: the line between the cameras and the action was crossed."""

from __future__ import annotations

from collections.abc import Iterator
from fractions import Fraction
from itertools import pairwise
from statistics import mean

from chapto.document.people import Side
from chapto.review.checks.quick_cuts import SAME
from chapto.review.finding import Finding, Weight
from chapto.review.reviewed import NotChecked, Reviewed

NEAR = Fraction(3)
"""Mat seconds round a cut in which bodies tell who is on which side."""
APART = 0.05
"""Share of the picture's width by which the two have to be apart to have sides."""


def find(r: Reviewed) -> Iterator[Finding]:
    """Cuts to another camera in the middle of the action, where the one who was left is right. Where no bodies are
    marked on both cameras nothing can be said."""
    found, unknown = [], 0
    names = {c.id: c.name for c in r.b.footage}
    for one, other in pairwise(r.programme.passages):
        if one.footage == other.footage or not one.footage or not other.footage:
            continue
        if abs(one.mat_out - other.mat_in) > SAME:
            continue
        before, after = _first_is_left(r, one.footage, one.mat_out), _first_is_left(r, other.footage, other.mat_in)
        if before is None or after is None:
            unknown += 1
        elif before != after:
            at = r.seconds(other.watch_in)
            where = r.where(at, other.footage)
            sentence = f"The two swap sides as “{names[one.footage]}” goes over into “{names[other.footage]}”."
            found.append(Finding(Weight.MAY, sentence, where, names[other.footage]))
    yield from found
    if unknown and not found:
        changes = "One camera change" if unknown == 1 else f"{unknown} camera changes"
        raise NotChecked(f"{changes}: no bodies are marked on both cameras, so nobody knows who is on which side.")


def _first_is_left(r: Reviewed, footage: str, mat: Fraction) -> bool | None:
    """Whether the first athlete is left of the second in a file's picture; None where nobody knows."""
    sides: dict[Side, list[float]] = {Side.FIRST: [], Side.SECOND: []}
    for a in r.b.anchors:
        if a.footage == footage and a.side is not None:
            sides[a.side] += [k.x for k in a.keys if k.seen and abs(k.mat - mat) <= NEAR]
    if not sides[Side.FIRST] or not sides[Side.SECOND]:
        return None
    apart = mean(sides[Side.SECOND]) - mean(sides[Side.FIRST])
    if abs(apart) < APART:
        return None
    return (apart > 0) != r.b.camera(footage).mirrored
