"""Names at the foot of the picture: both athletes in the introduction, and each voice when it is first heard."""

from __future__ import annotations

from bisect import bisect_right
from collections.abc import Callable, Iterable, Iterator
from fractions import Fraction

from chapto.clock.rates import frames_from_seconds
from chapto.document.breakdown import Breakdown
from chapto.document.people import Side
from chapto.document.placeholders import is_placeholder
from chapto.document.script import Part
from chapto.programme.placed import PlacedName, PlacedSection, PlacedWord

AFTER, STANDS = Fraction(4, 5), Fraction(9, 2)
"""Seconds into the introduction at which the names come, and for which they stand."""


def place_names(
    b: Breakdown,
    sections: tuple[PlacedSection, ...],
    words: Iterable[PlacedWord],
    fps: Fraction,
    seen: Callable[[int], Fraction],
) -> tuple[PlacedName, ...]:
    """Every name with its frames; they never leave their section. `seen` gives the mat time shown at a frame."""
    athletes = tuple(_athletes(b, sections, fps, seen))
    return (*athletes, *_voices(b, sections, words, fps, athletes))


def _athletes(
    b: Breakdown, sections: tuple[PlacedSection, ...], fps: Fraction, seen: Callable[[int], Fraction]
) -> Iterator[PlacedName]:
    """Both in the introduction; where rounds have athletes of their own, each pair when it is first seen."""
    by_id = {s.id: s for s in b.script}
    bouts = any(r.first or r.second for r in b.rounds)
    named: set[tuple[str, str]] = set()
    for placed in sections:
        section = by_id[placed.section]
        introduces = section.part is Part.INTRODUCTION
        if placed.end <= placed.start or not (introduces or (bouts and section.exchange and section.part is Part.TALK)):
            continue
        mat = seen(placed.start)
        pair = b.athlete(Side.FIRST, mat), b.athlete(Side.SECOND, mat)
        start = placed.start + frames_from_seconds(AFTER, fps)
        end = min(start + frames_from_seconds(STANDS, fps), placed.end)
        names = pair[0].name, pair[1].name
        if start < end and names not in named:
            named.add(names)
            for side, who in zip(Side, pair, strict=True):
                if not is_placeholder(who.name):
                    yield PlacedName(start, end, who.name, who.kit, side, who.kit_colour)


def _voices(
    b: Breakdown,
    sections: tuple[PlacedSection, ...],
    words: Iterable[PlacedWord],
    fps: Fraction,
    taken: tuple[PlacedName, ...],
) -> Iterator[PlacedName]:
    """With more than one voice, each is named when it is first heard over a picture that has no names yet."""
    speaks = {beat.id: b.narrator(beat) for _, beat in b.beats()}
    if len({n.id for n in speaks.values()}) < 2:
        return
    named: set[str] = set()
    introductions = {s.id for s in b.script if s.part is Part.INTRODUCTION}
    free, ends = 0, [s.end for s in sections]
    voices = {n.id for n in speaks.values()}
    for word in words:
        narrator = speaks[word.beat]
        if narrator.id in named or is_placeholder(narrator.name):
            continue
        start = frames_from_seconds(word.start, fps)
        number = bisect_right(ends, start)
        here = sections[number] if number < len(sections) else None
        if here is None or here.section in introductions or start < free:
            continue
        end = min(start + frames_from_seconds(STANDS, fps), here.end)
        if end - start >= fps and all(end <= n.start or start >= n.end for n in taken):
            named.add(narrator.id)
            free = end
            yield PlacedName(start, end, narrator.name, "voice", None)
        if named == voices:
            return
