"""Whether the times of a script are of the mat or of the finished video, and which mat second each means."""

from __future__ import annotations

from enum import StrEnum
from fractions import Fraction

from chapto.clock.rates import frames_from_seconds
from chapto.document.breakdown import Breakdown
from chapto.programme.programme import Programme
from chapto.publish.scripts.put_in import MatOf


class TimesOf(StrEnum):
    """What the times beside a script count from."""

    MAT = "mat"
    WATCH = "watch"


def guessed(b: Breakdown, last: Fraction) -> TimesOf:
    """Mat time where the `last` time still lies in footage, else watch time."""
    return TimesOf.MAT if any(f.mat_in <= last <= f.mat_out for f in b.footage) else TimesOf.WATCH


def mat_of(times: TimesOf, b: Breakdown, p: Programme) -> MatOf:
    """How times of a script are read: those of the mat as they are, those of the finished video by what is on the
    screen then. While nothing is written, the video is taken to be the first footage, straight through."""
    if times is TimesOf.MAT:
        return lambda seconds: seconds
    if not any(beat.text.strip() for _, beat in b.beats()):
        first = min((f.mat_in for f in b.footage), default=Fraction(0))
        return lambda seconds: first + seconds

    def seen(seconds: Fraction) -> Fraction | None:
        frame = frames_from_seconds(seconds, p.fps)
        passage = p.time_map.passage_at(frame) if frame < p.frames else None
        return passage.mat_at(frame) if passage is not None and passage.footage else None

    return seen
