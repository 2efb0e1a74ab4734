"""Pictures shown in a place of another shape than theirs: in a half of the frame, or filmed upright on a phone.

Beside them lies ground, and it is worth coming closer to where something happens. How close stays the same for as long
as a second picture stands there, or for a section: it never jumps from a hold to the run that follows.
"""

from __future__ import annotations

from bisect import bisect_right
from collections.abc import Iterator
from dataclasses import dataclass
from fractions import Fraction

from chapto.clock.passage import Passage
from chapto.document.breakdown import Breakdown
from chapto.programme.figures_at import shape_of
from chapto.programme.placed import PlacedInset
from chapto.programme.programme import Programme
from chapto.programme.readings import Stretch

ALIKE = 1.1
"""Two shapes that differ by less than this factor fill one another as they are."""
STEP = Fraction(1, 2)
"""Mat seconds to which stretches are widened, so that a small change of the programme asks for nothing new."""


@dataclass(frozen=True, slots=True)
class Showing:
    """A picture on the screen for `start ≤ frame < end`: the `second` or the first one, in a half of the frame where it
    stands `beside` another. `mats` are the mat seconds of its ends, the lower first; showings of one `group` are seen
    equally near."""

    start: int
    end: int
    footage: str
    second: bool
    beside: bool
    mats: tuple[Fraction, Fraction]
    group: object


class OtherShapes:
    """All such pictures of a programme, asked for by frame."""

    def __init__(self, b: Breakdown, programme: Programme) -> None:
        frame = b.format.width / b.format.height
        odd = {(c.id, half) for c in b.footage for half in (False, True)
               if _differ(shape_of(b, c), frame / 2 if half else frame)}  # fmt: skip
        halves = tuple(i for i in programme.insets if i.footage and i.beside)
        found: list[Showing] = []
        if halves or any(not half for _, half in odd):
            found = [s for s in _showings(programme, halves) if (s.footage, s.beside) in odd]
        spans: dict[object, list[tuple[Fraction, Fraction]]] = {}
        for s in found:
            spans.setdefault(s.group, []).append(s.mats)
        self._stretches = {g: _hull(g, mats) for g, mats in spans.items()}
        found.sort(key=lambda s: s.start)
        self._rows = {one: [s for s in found if s.second is one] for one in (False, True)}
        self._starts = {one: [s.start for s in rows] for one, rows in self._rows.items()}

    @property
    def stretches(self) -> tuple[Stretch, ...]:
        """Every stretch once, in order."""
        return tuple(sorted(set(self._stretches.values())))

    def at(self, frame: int, *, second: bool) -> Stretch | None:
        """The stretch that the first or second picture of a frame belongs to; None where it fills its place."""
        i = bisect_right(self._starts[second], frame) - 1
        row = self._rows[second][i] if i >= 0 else None
        return self._stretches[row.group] if row is not None and frame < row.end else None

    def frames_of(self, stretch: Stretch) -> tuple[tuple[int, int], ...]:
        """The frames (first and after the last) of every showing of a stretch."""
        rows = (s for rows in self._rows.values() for s in rows)
        return tuple((s.start, s.end) for s in rows if self._stretches[s.group] == stretch)


def _differ(shape: float, place: float) -> bool:
    return max(shape / place, place / shape) > ALIKE


def _hull(group: object, mats: list[tuple[Fraction, Fraction]]) -> Stretch:
    low, high = min(m[0] for m in mats) // STEP * STEP, -(-max(m[1] for m in mats) // STEP) * STEP
    assert isinstance(group, tuple)
    return Stretch(str(group[-1]), low, max(high, low + STEP))


def _showings(programme: Programme, halves: tuple[PlacedInset, ...]) -> Iterator[Showing]:
    """Every picture of footage on the screen, cut where a second one comes beside it or goes."""
    for nth, section in enumerate(programme.sections):
        for p in programme.blocks[nth].passages:
            if p.footage:
                beside = [i for i in halves if i.start < p.watch_out and i.end > p.watch_in]
                yield from _first(p, beside, ("section", section.section, p.footage))
    for i in programme.insets:
        if i.footage:
            mats = _ordered(i.mat_at(i.start), i.mat_at(i.end - 1))
            yield Showing(i.start, i.end, i.footage, True, i.beside, mats, ("second", i.start, i.footage))


def _first(p: Passage, beside: list[PlacedInset], group: object) -> Iterator[Showing]:
    """The parts of a passage that stand alone, and those with another picture beside them."""
    at = p.watch_in
    for i in sorted(beside, key=lambda i: i.start):
        first, end = max(i.start, p.watch_in), min(i.end, p.watch_out)
        if first > at:
            yield _part(p, at, first, beside=False, group=group)
        yield _part(p, first, end, beside=True, group=("first", i.start, p.footage))
        at = end
    if at < p.watch_out:
        yield _part(p, at, p.watch_out, beside=False, group=group)


def _part(p: Passage, first: int, end: int, *, beside: bool, group: object) -> Showing:
    return Showing(first, end, p.footage, False, beside, _ordered(p.mat_at(first), p.mat_at(end - 1)), group)


def _ordered(one: Fraction, other: Fraction) -> tuple[Fraction, Fraction]:
    return min(one, other), max(one, other)
