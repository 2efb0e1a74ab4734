"""The way from stop to stop as the solver sees it: intervals, and the places at which the picture may be held."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from fractions import Fraction

from chapto.pacing.exchange_timeline import ZERO
from chapto.pacing.fitted import FitBeat
from chapto.pacing.playback_plan import Motion, PlaybackPlan
from chapto.pacing.solver_terms import Interval

TempoRoom = tuple[Fraction, Fraction]
"""How many times as fast words may be said: at least and at most, with 1 between."""


@dataclass(frozen=True, slots=True)
class Target:
    """A stop on the way: word number `word` of `beat` at mat time `mat`.

    It would be said at watch time `due` if the voice never waited; from word `pause_at` of its beat on it may wait.
    Since the stop before `speech` seconds of words are said, as far as their tempo may change within `room`.
    `hold_seconds` is how long the creator has the picture held there, None where the fit decides.
    """

    beat: FitBeat
    word: int
    mat: Fraction
    due: Fraction
    pause_at: int
    speech: Fraction
    room: TempoRoom
    hold_seconds: Fraction | None = None


@dataclass(frozen=True, slots=True)
class Tail:
    """What comes after the last target: the way to mat time `end`, by watch time `out` when the last word is out;
    `speech` and `room` as in a target. Past the end `free` mat seconds are the exchange's own."""

    end: Fraction
    out: Fraction
    speech: Fraction
    room: TempoRoom
    free: float


@dataclass(frozen=True, slots=True)
class SolverInput:
    """Intervals in a row, one to each target and perhaps a tail. `rooms` has the seconds each place may be held; at the
    first the picture has `stood` already. `fixed` is what is held by hand in all."""

    intervals: list[Interval]
    rooms: list[float]
    fixed: Fraction
    stood: float


def solver_input(playback: PlaybackPlan, targets: Sequence[Target], motion: Motion, tail: Tail | None) -> SolverInput:
    """The intervals from where the picture is through `targets`, and through the `tail` if there is one.

    The picture may be held at a target, before its word and after it; not where it starts from. With no target it may
    be held at the end, for words that come late.
    """
    timeline, style = playback.timeline, playback.style
    places: list[Fraction] = []
    rooms: list[float] = []
    intervals: list[Interval] = []
    fixed_in_all, stood_first = ZERO, 0.0
    at, said, held_there = timeline.mat, timeline.shown, None

    def place(mat: Fraction) -> int:
        nonlocal stood_first
        if not motion.may_hold:
            return -1
        if not places or places[-1] != mat:
            places.append(mat)
            stood = float(timeline.stood()) if mat == timeline.mat else 0.0
            stood_first = stood_first if rooms else stood
            rooms.append(max(float(style.longest_hold) - stood, 0.0))
        return len(places) - 1

    for number, t in enumerate(targets):
        begins = place(at) if number and held_there is None else -1
        ends = place(t.mat) if t.hold_seconds is None else -1
        voice = t.due - said - (held_there or ZERO)
        way = playback.interval(t.mat, voice, motion, (begins, ends), style.longest_pause, since=at)
        intervals.append(_breathing(way, t.speech, t.room))
        fixed_in_all += held_there or ZERO
        at, said, held_there = t.mat, t.due, t.hold_seconds
    if tail is not None:
        begins = place(at) if targets and held_there is None else -1
        ends = place(tail.end) if not targets else -1
        voice = tail.out - said - (held_there or ZERO)
        fixed_in_all += held_there or ZERO
        both = (begins, ends)
        way = playback.interval(tail.end, voice, motion, both, style.longest_silence, since=at, tail=True)
        # Silence at an end is no reason to talk more slowly.
        intervals.append(replace(_breathing(way, tail.speech, tail.room), linger=0.0, room=tail.free))
    return SolverInput(intervals, rooms, fixed_in_all, stood_first)


def _breathing(way: Interval, speech: Fraction, room: TempoRoom) -> Interval:
    """An interval in which `speech` seconds of words may be said quicker or slower."""
    slowest, quickest = room
    return replace(way, hurry=float(speech - speech / quickest), linger=float(speech / slowest - speech))
