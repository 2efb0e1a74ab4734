"""The way from stop to stop as the solver sees it: intervals, and the places at which the picture may be held."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from fractions import Fraction

from chapto.pacing.exchange_timeline import ZERO
from chapto.pacing.fitted import FitBeat
from chapto.pacing.playback_plan import Motion, PlaybackPlan
from chapto.pacing.solver import Interval


@dataclass(frozen=True, slots=True)
class Target:
    """A stop on the way: word number `word` of `beat` at mat time `mat`.

    It would be said at watch time `due` if the voice never waited; from word `pause_at` of its beat on it may wait.
    `hold_seconds` is how long the creator has the picture held there, None where the fit decides.
    """

    beat: FitBeat
    word: int
    mat: Fraction
    due: Fraction
    pause_at: int
    hold_seconds: Fraction | None = None


@dataclass(frozen=True, slots=True)
class SolverInput:
    """Intervals in a row, one to each target and perhaps a tail; `rooms` has the seconds each place may be held, and
    `fixed` what is held by hand in all."""

    intervals: list[Interval]
    rooms: list[float]
    fixed: Fraction


def solver_input(
    playback: PlaybackPlan, targets: Sequence[Target], motion: Motion, tail: tuple[Fraction, Fraction] | None
) -> SolverInput:  # fmt: skip
    """The intervals from where the picture is through `targets`. `tail` adds the way to a mat time, by the watch time
    when the last word is out.

    The picture may be held at a target, before its word and after it; not where it starts from. With no target it may
    be held at the end, for words that come late.
    """
    timeline, style = playback.timeline, playback.style
    places: list[Fraction] = []
    rooms: list[float] = []
    intervals: list[Interval] = []
    fixed_in_all = ZERO
    at, said, held_there = timeline.mat, timeline.shown, None

    def place(mat: Fraction) -> int:
        if not motion.may_hold:
            return -1
        if not places or places[-1] != mat:
            places.append(mat)
            stood = float(timeline.stood()) if mat == timeline.mat else 0.0
            rooms.append(max(float(style.longest_hold) - stood, 0.0))
        return len(places) - 1

    for number, t in enumerate(targets):
        begins = place(at) if number and held_there is None else -1
        ends = place(t.mat) if t.hold_seconds is None else -1
        voice = t.due - said - (held_there or ZERO)
        intervals.append(playback.interval(t.mat, voice, motion, (begins, ends), style.longest_pause, since=at))
        fixed_in_all += held_there or ZERO
        at, said, held_there = t.mat, t.due, t.hold_seconds
    if tail is not None:
        end, out = tail
        begins = place(at) if targets and held_there is None else -1
        ends = place(end) if not targets else -1
        voice = out - said - (held_there or ZERO)
        fixed_in_all += held_there or ZERO
        both = (begins, ends)
        intervals.append(playback.interval(end, voice, motion, both, style.longest_silence, since=at, tail=True))
    return SolverInput(intervals, rooms, fixed_in_all)
