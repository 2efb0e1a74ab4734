"""When music plays: under openings, cards and silences, as the creator wants it."""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from dataclasses import dataclass
from fractions import Fraction

from chapto.clock.passage import Kind, Passage
from chapto.document.breakdown import Breakdown
from chapto.document.music import Music
from chapto.document.script import Part
from chapto.pacing.fitted import Phrase
from chapto.programme.placed import PlacedSection
from chapto.programme.spans import without

SILENCE = Fraction(3)
"""Seconds without words that music may fill."""
AFTER_WORDS = Fraction(3, 10)
"""Seconds that it leaves to the last word and the next one."""
APART = Fraction(1)
"""Shorter breaks are played through."""
SHORTEST = Fraction(1)
Span = tuple[Fraction, Fraction]


@dataclass(frozen=True)
class PlacedMusic:
    """A piece (by id) that is heard from watch second `start` to `end`."""

    music: str
    start: Fraction
    end: Fraction


def place_music(
    b: Breakdown,
    sections: Iterable[PlacedSection],
    passages: Iterable[Passage],
    voice: Iterable[Phrase],
    fps: Fraction,
) -> tuple[PlacedMusic, ...]:
    """Every stretch with music, in order and apart; of several pieces the first that is wanted in a place plays."""
    if not b.music:
        return ()
    scripted = {s.id: s for s in b.script}
    openings, filmed, ends = [], [], Fraction(0)
    for s in sections:
        span = s.start / fps, s.end / fps
        ends = max(ends, span[1])
        if scripted[s.section].part in (Part.OPENING, Part.INTRODUCTION):
            openings.append(span)
        if scripted[s.section].as_filmed:
            filmed.append(span)
    cards = [(p.watch_in / fps, p.watch_out / fps) for p in passages if p.kind is Kind.CARD and p.photo is None]
    silences = [span for gap in _silences(voice, ends) for span in without(*gap, filmed)]
    found = [
        PlacedMusic(piece.id, *span)
        for spans, wanted in ((openings, "openings"), (cards, "cards"), (silences, "silences"))
        for piece in _first(b.music, wanted)
        for span in spans
    ]
    return tuple(_joined(sorted(found, key=lambda x: x.start)))


def _first(music: tuple[Music, ...], wanted: str) -> Iterator[Music]:
    piece = next((m for m in music if getattr(m, wanted)), None)
    if piece is not None:
        yield piece


def _silences(voice: Iterable[Phrase], ends: Fraction) -> Iterator[Span]:
    said = sorted((p.at, p.until) for p in voice if p.heard)
    until = Fraction(0)
    for start, end in [*said, (ends, ends)]:
        if start - until >= SILENCE:
            yield until + AFTER_WORDS, start - AFTER_WORDS
        until = max(until, end)


def _joined(found: list[PlacedMusic]) -> Iterator[PlacedMusic]:
    """Stretches of one piece that touch, or nearly, are one; where two overlap the later one gives way."""
    apart: list[PlacedMusic] = []
    for x in found:
        last = apart[-1] if apart else None
        if last is not None and last.music == x.music and x.start - last.end < APART:
            apart[-1] = PlacedMusic(last.music, last.start, max(last.end, x.end))
            continue
        start = max(x.start, last.end) if last is not None else x.start
        if x.end > start:
            apart.append(PlacedMusic(x.music, start, x.end))
    yield from (x for x in apart if x.end - x.start >= SHORTEST)
