"""Which frame of the programme shows a word, a mark, or a mat second. Free of Qt."""

from __future__ import annotations

from fractions import Fraction
from math import ceil

from chapto.document.breakdown import Breakdown
from chapto.document.marks import Mark
from chapto.programme.placed_marks import footage_of
from chapto.programme.programme import Programme

COME = 5
"""Frames after its first in which a mark has come altogether."""
HELD = Fraction(1, 100)
"""Mat seconds by which a held picture may miss what it is asked for."""


def frame_of_word(p: Programme, beat: str, number: int, mark: str) -> int | None:
    """The frame at which a word begins, or a little later where its mark has come by then."""
    word = next((w for w in p.words if (w.beat, w.word) == (beat, number)), None)
    if word is None:
        return None
    first = int(word.start * p.fps)
    placed = next((m for m in p.marks if m.mark.id == mark), None)
    return first if placed is None else max(min(placed.start + COME, placed.end - 1), first)


def frame_of_mark(b: Breakdown, p: Programme, mark: Mark) -> int | None:
    """The frame at which a mark has come; of a cover, one that shows where it was put down."""
    placed = next((m for m in p.marks if m.mark.id == mark.id), None)
    if placed is not None:
        return min(placed.start + COME, placed.end - 1)
    if not mark.anchors:
        return None
    return frame_showing(p, frozenset({footage_of(b, mark)}), b.anchor(mark.anchors[0]).keys[0].mat, 0)


def frame_showing(p: Programme, footage: frozenset[str], mat: Fraction, near: int) -> int | None:
    """The frame, nearest to frame `near`, that shows a mat second of one of some files (by id)."""
    best: int | None = None
    for passage in p.passages:
        if passage.footage not in footage:
            continue
        # The first frame that shows the picture of that second, and not the one before.
        frames = ceil((mat - passage.mat_in) * p.fps / passage.rate) if passage.rate else 0
        if (not passage.rate and abs(mat - passage.mat_in) >= HELD) or not 0 <= frames < passage.frames:
            continue
        frame = passage.watch_in + frames
        if best is None or abs(frame - near) < abs(best - near):
            best = frame
    return best
