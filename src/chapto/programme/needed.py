"""From when to when each point of a mark has to be known: where it is on the screen, and a little beyond its keys."""

from __future__ import annotations

from collections.abc import Mapping
from fractions import Fraction

from chapto.document.breakdown import Breakdown
from chapto.document.mark_kinds import RULES, MarkKind
from chapto.document.marks import Mark, key_times
from chapto.programme.placed_marks import footage_of
from chapto.programme.programme import Programme

Needed = Mapping[str, tuple[Fraction, Fraction]]
BEYOND = Fraction(1, 2)
"""Mat seconds before its first key and after its last in which a point is known anyhow."""
FARTHEST = Fraction(6)
"""No point is followed farther beyond its keys: nobody could trust it."""
STEP = Fraction(1, 2)
"""What is needed is rounded to whole steps, so that a small change of the programme asks for nothing new."""


def needed_of(b: Breakdown, programme: Programme) -> dict[str, tuple[Fraction, Fraction]]:
    """By anchor the mat seconds from which to which it is needed."""
    found: dict[str, tuple[Fraction, Fraction]] = {}
    for a in b.anchors:
        first, last = key_times(a)
        found[a.id] = first - BEYOND, last + BEYOND
    figures = {f.id: f.anchors for f in b.figures}
    spans = [(p.mark, *span) for p in programme.marks for span in _shown(programme, p.footage, p.start, p.end)]
    spans += [(m, *span) for m in b.marks if m.kind is MarkKind.COVER for span in _covered(b, programme, m)]
    for mark, start, end in spans:
        early = start - mark.before if RULES[mark.kind].timed else start
        for anchor in (*mark.anchors, *figures.get(mark.figure, ())):
            if anchor in found:
                found[anchor] = min(found[anchor][0], early), max(found[anchor][1], end)
    by_id = {a.id: a for a in b.anchors}
    return {name: _bounded(span, key_times(by_id[name])) for name, span in found.items()}


def _bounded(span: tuple[Fraction, Fraction], keys: tuple[Fraction, Fraction]) -> tuple[Fraction, Fraction]:
    before = min(-((span[0] - keys[0]) // STEP) * STEP, FARTHEST)
    after = min(-((keys[1] - span[1]) // STEP) * STEP, FARTHEST)
    return keys[0] - max(before, STEP), keys[1] + max(after, STEP)


def _shown(programme: Programme, footage: str, start: int, end: int) -> list[tuple[Fraction, Fraction]]:
    """The mat seconds of a footage that are on the screen in some frames."""
    found = []
    for p in programme.passages:
        first, last = max(p.watch_in, start), min(p.watch_out, end)
        if first < last and p.footage == footage:
            found.append((p.mat_at(first), p.mat_at(last - 1)))
    for i in programme.insets:
        first, last = max(i.start, start), min(i.end, end)
        if first < last and i.footage == footage:
            found.append((i.mat_at(first), i.mat_at(last - 1)))
    return found


def _covered(b: Breakdown, programme: Programme, mark: Mark) -> list[tuple[Fraction, Fraction]]:
    """What is shown of a cover's stretch."""
    found = []
    for start, end in _shown(programme, footage_of(b, mark), 0, programme.frames):
        low, high = mark.span or (start, end)
        if max(start, low) <= min(end, high):
            found.append((max(start, low), min(end, high)))
    return found
