"""Where mat time lies over watch time: every moment that a word meets lies right above that word, and between two of
them the mat rail is spread evenly. So a lace is straight when it meets, whatever holds and slows before it, and only
lateness makes it lean. Free of Qt."""

from __future__ import annotations

from bisect import bisect_left, bisect_right
from collections.abc import Iterable, Sequence

from chapto.programme.placed import PlacedTie, TieState

Knot = tuple[float, float]
"""A mat second, and the second of the section at which it is drawn."""
APART = 1e-3
"""Seconds that two knots are apart, at least, on either rail."""


def knots_of(ties: Iterable[PlacedTie], mat: tuple[float, float], seconds: float) -> tuple[Knot, ...]:
    """The knots of a section of so many seconds that shows a stretch of mat time, its edges included. Of moments that
    are met in another order than they happened, as many as possible keep the order of both rails."""
    wanted = sorted({(float(t.mat), place) for t in ties if (place := _place(t)) is not None})
    inside = [k for k in wanted if mat[0] + APART < k[0] < mat[1] - APART and APART < k[1] < seconds - APART]
    return ((mat[0], 0.0), *_rising(inside), (mat[1], seconds))


def between(knots: Sequence[Knot], value: float, *, back: bool = False) -> float:
    """The place of a mat second, or with `back` the mat second at a place; beyond the knots in step with the last."""
    own, other = (1, 0) if back else (0, 1)
    i = min(max(bisect_right([k[own] for k in knots], value) - 1, 0), len(knots) - 2)
    a, z = knots[i], knots[i + 1]
    return a[other] + (value - a[own]) / (z[own] - a[own]) * (z[other] - a[other])


def _place(tie: PlacedTie) -> float | None:
    """A word that meets its moment stands right under it; a late one under where the moment was shown."""
    if tie.state is TieState.MET:
        return float(tie.said)
    return None if tie.shown is None else float(tie.shown)


def _rising(knots: Sequence[Knot]) -> list[Knot]:
    """The longest part of knots, in order of mat time, whose places rise too."""
    ends: list[float] = []
    last: list[int] = []
    before: list[int] = []
    for i, (mat, place) in enumerate(knots):
        k = bisect_left(ends, place - APART)
        previous = last[k - 1] if k else -1
        # Two words on one moment can't both stand right under it.
        if previous >= 0 and mat - knots[previous][0] < APART:
            before.append(-2)
            continue
        before.append(previous)
        if k == len(ends):
            ends.append(place)
            last.append(i)
        else:
            ends[k], last[k] = place, i
    found: list[Knot] = []
    i = last[-1] if last else -1
    while i >= 0:
        found.append(knots[i])
        i = before[i]
    return found[::-1]
