"""A section that speaks for itself: its exchange at full speed with its own sound, and its words as captions."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from fractions import Fraction
from itertools import pairwise

from chapto.clock.passage import Kind
from chapto.document.script import Section
from chapto.pacing.fitted import Fitted, Leg, Phrase
from chapto.pacing.skipping import ShortClock
from chapto.pacing.spoken import SpokenLine

ONE = Fraction(1)
Span = tuple[Fraction, Fraction]


def as_filmed(section: Section, span: Span, skips: Sequence[Span], lines: Mapping[str, SpokenLine]) -> Fitted:
    """The mat seconds `span` as they were filmed. The beats are what is heard in them: each from the time that came
    with it on; the others share what lies between. Nothing is tied, as the picture can't wait."""
    clock = ShortClock(skips)
    start, end = clock.short(span[0]), clock.short(span[1])
    said = [beat for beat in section.beats if lines[beat.id].words]
    came = [[clock.short(s.at) for s in beat.stamps if s.word == 0] for beat in said]
    begins = [next((at for at in own if start <= at < end), None) for own in came]
    places = _spread(begins, [lines[beat.id].seconds for beat in said], start, end)
    phrases = []
    for beat, (at, until) in zip(said, places, strict=True):
        line = lines[beat.id]
        tempo = max(line.seconds / (until - at), ONE) if until > at else ONE
        phrases.append(Phrase(beat.id, 0, len(line.words), Fraction(0), line.seconds, at - start, tempo, heard=False))
    legs = tuple(clock.legs(Leg(Kind.RUN, start, ONE, end - start)))
    return Fitted(legs, tuple(phrases), (), (), end - start)


def _spread(begins: list[Fraction | None], long: list[Fraction], start: Fraction, end: Fraction) -> list[Span]:
    """When each beat begins and has to be out: where no time is known, in proportion to how long it takes."""
    knots = [(0, start)]
    for number, at in enumerate(begins):
        if at is not None and at >= knots[-1][1]:
            knots = [*knots, (number, at)] if number else [(0, at)]
    found: list[Span] = []
    for (i, at), (j, until) in pairwise([*knots, (len(long), end)]):
        whole = sum(long[i:j], Fraction(0))
        share = min((until - at) / whole, ONE) if whole else ONE
        for seconds in long[i:j]:
            found.append((at, at + seconds * share))
            at += seconds * share
    return found
