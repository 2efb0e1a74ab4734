"""Where the picture stands too long with nothing drawn on it."""

from __future__ import annotations

from bisect import bisect_right
from collections.abc import Iterable, Iterator, Mapping, Sequence
from fractions import Fraction

from chapto.clock.passage import Kind, Passage
from chapto.document.breakdown import Breakdown
from chapto.document.script import Section
from chapto.pacing.fitted import Fitted, Shortfall
from chapto.pacing.shortfalls import stood_still
from chapto.pacing.spoken import SpokenLine
from chapto.programme.angles import AngleTrack
from chapto.programme.block import PlacedBlock, block_of
from chapto.programme.placed import PlacedWord
from chapto.programme.placed_marks import place_marks
from chapto.programme.programme import Programme
from chapto.programme.spans import without

LONGEST = Fraction(8)
"""Watch seconds a picture stands with nothing drawn on it before it is dull (measured on real narrations)."""
Frames = tuple[int, int]


def stills(p: Programme) -> Iterator[Shortfall]:
    """Every still that is too long: by how much, at the word that is said where it begins."""
    moving = [(m.start, m.end) for m in p.marks] + [(i.start, i.end) for i in p.insets]
    words = p.words if any(x.frames / p.fps > LONGEST for x in p.passages) else ()
    yield from _stills(p.passages, words, sorted(moving), p.fps)


def section_stills(
    b: Breakdown, section: Section, part: Fitted, lines: Mapping[str, SpokenLine]
) -> Iterator[Shortfall]:
    """Those of one fitted section, without the rest of the programme."""
    if all(leg.kind is not Kind.HOLD for leg in part.legs):
        return
    block = block_of(b, section, part, lines, AngleTrack(b))
    bare = Programme(b.format.fps, (PlacedBlock(block, 0, b.format.fps),), (), ())
    marks = place_marks(b, bare.time_map, bare.sections, block.words, bare.insets, {})[0] if b.marks else ()
    moving = [(m.start, m.end) for m in marks] + [(i.start, i.end) for i in bare.insets]
    yield from _stills(bare.passages, block.words, sorted(moving), bare.fps)


def _stills(
    passages: Sequence[Passage], words: Iterable[PlacedWord], moving: Sequence[Frames], fps: Fraction
) -> Iterator[Shortfall]:
    said = list(words)
    starts = [w.start for w in said]
    for first, end in _held(passages):
        for a, z in without(first, end, moving):
            if (z - a) / fps > LONGEST and said:
                at = said[max(bisect_right(starts, a / fps) - 1, 0)]
                yield stood_still(at.beat, at.word, (z - a) / fps, LONGEST)


def _held(passages: Sequence[Passage]) -> Iterator[Frames]:
    """Frames (half-open) for which one and the same picture stands."""
    first = end = -1
    before: Passage | None = None
    for p in passages:
        held = p.kind is Kind.HOLD
        same = held and before is not None and (before.footage, before.mat_in) == (p.footage, p.mat_in)
        if not same and before is not None:
            yield first, end
        if held:
            first, end = (first, p.watch_out) if same else (p.watch_in, p.watch_out)
        before = p if held else None
    if before is not None:
        yield first, end
