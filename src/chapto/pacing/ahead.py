"""What the picture has to leave for later: the next moment it must not run past, and the words said until then."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from fractions import Fraction

from chapto.document.treatments import GoTo, Hold, Run, Skip, Slow, left_to_the_fit
from chapto.pacing.fitted import FitBeat
from chapto.pacing.spoken import SpokenLine


@dataclass(frozen=True, slots=True)
class Ahead:
    """Mat second `mat`, and the seconds of words that the picture moves under until it is there."""

    mat: Fraction
    words: Fraction


def ahead_of(
    later: Sequence[tuple[FitBeat, ...]], voice: Mapping[str, SpokenLine], start: Fraction, end: Fraction
) -> Ahead | None:
    """The first stop of `later` groups at or after mat second `start`, else the exchange's `end`.

    None where the picture jumps before that.

    Beats that show something else and come back move nothing.
    """
    words = Fraction(0)
    for beat in (beat for group in later for beat in group):
        if isinstance(beat.treatment, Skip):
            return None
        if isinstance(beat.treatment, GoTo):
            return Ahead(beat.treatment.at, words) if beat.treatment.at >= start else None
        if isinstance(beat.treatment, Hold) and beat.hold_at is not None and beat.hold_at >= start:
            return Ahead(beat.hold_at, words)
        if not (left_to_the_fit(beat.treatment) or isinstance(beat.treatment, Run | Slow)):
            continue
        line = voice[beat.id]
        for stop in beat.stops:
            if stop.mat >= start:
                return Ahead(stop.mat, words + line.words[stop.word][0])
        words += line.seconds
    return Ahead(max(end, start), words)
