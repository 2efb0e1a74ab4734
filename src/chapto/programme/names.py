"""Names at the foot of the picture: both athletes in the introduction, and each voice when it is first heard."""

from __future__ import annotations

from bisect import bisect_right
from collections.abc import Iterator
from fractions import Fraction

from chapto.clock.rates import frames_from_seconds
from chapto.document.breakdown import Breakdown
from chapto.document.people import Side
from chapto.document.script import Part
from chapto.programme.programme import PlacedName, PlacedSection, PlacedWord

AFTER, STANDS = Fraction(4, 5), Fraction(9, 2)
"""Seconds into the introduction at which the names come, and for which they stand."""


def place_names(
    b: Breakdown, sections: tuple[PlacedSection, ...], words: tuple[PlacedWord, ...], fps: Fraction
) -> tuple[PlacedName, ...]:
    """Every name with its frames; they never leave their section."""
    placed = {s.section: s for s in sections}
    athletes = [
        name
        for s in b.script
        if s.part is Part.INTRODUCTION and placed[s.id].end > placed[s.id].start
        for name in _athletes(b, placed[s.id], fps)
    ]
    return (*athletes, *_voices(b, sections, words, fps))


def _athletes(b: Breakdown, section: PlacedSection, fps: Fraction) -> Iterator[PlacedName]:
    start = section.start + frames_from_seconds(AFTER, fps)
    end = min(start + frames_from_seconds(STANDS, fps), section.end)
    if start < end:
        yield PlacedName(start, end, b.first.name, b.first.kit, Side.FIRST)
        yield PlacedName(start, end, b.second.name, b.second.kit, Side.SECOND)


def _voices(
    b: Breakdown, sections: tuple[PlacedSection, ...], words: tuple[PlacedWord, ...], fps: Fraction
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
        if narrator.id in named:
            continue
        start = frames_from_seconds(word.start, fps)
        number = bisect_right(ends, start)
        here = sections[number] if number < len(sections) else None
        if here is None or here.section in introductions or start < free:
            continue
        end = min(start + frames_from_seconds(STANDS, fps), here.end)
        if end - start >= fps:
            named.add(narrator.id)
            free = end
            yield PlacedName(start, end, narrator.name, "voice", None)
        if named == voices:
            return
