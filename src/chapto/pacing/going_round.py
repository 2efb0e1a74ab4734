"""Saying a beat while the picture goes round."""

from __future__ import annotations

from fractions import Fraction

from chapto.pacing import shortfalls
from chapto.pacing.exchange_timeline import ZERO, ExchangeTimeline
from chapto.pacing.fitted import FitBeat, PlannedTie, Shortfall
from chapto.pacing.looping import Ring
from chapto.pacing.saying import Saying
from chapto.pacing.spoken import SpokenLine
from chapto.pacing.styles import HouseStyle

TOUCHED = Fraction(1, 10)
"""Seconds the picture stands on an instant of a loop that a word is tied to."""


def say_going_round(
    timeline: ExchangeTimeline, style: HouseStyle, beat: FitBeat, line: SpokenLine, ring: Ring
) -> tuple[list[PlannedTie], list[Shortfall]]:
    """Say a beat over a loop: each tied word when its moment comes by. The last word's picture is the end of the loop,
    as far as there is time to get there."""
    ties: list[PlannedTie] = []
    lacks: list[Shortfall] = []
    saying, since = Saying(beat, line, timeline.said), -1
    for stop in beat.stops:
        due = saying.due(stop.word)
        if not ring.low <= stop.mat <= ring.high:
            gap = max(ring.low - stop.mat, stop.mat - ring.high)
            ties.append(PlannedTie(beat.id, stop.word, stop.mat, due, None))
            lacks.append(shortfalls.outside(beat, stop.word, gap))
            continue
        least = ring.shortest(timeline.mat, stop.mat)
        wait = max(least / ring.rate - (due - timeline.shown), ZERO)
        if wait > 0:
            pause_at = max((p for p in beat.phrases if since < p <= stop.word), default=stop.word)
            saying.wait(pause_at, wait)
        over = float(wait - style.longest_pause)
        if over > 0:
            lacks.append(shortfalls.too_silent(beat, stop.word, wait, over, "before this moment", style.title))
        due, since = due + wait, stop.word
        _bring(timeline, ring, stop.mat, due)
        ties.append(PlannedTie(beat.id, stop.word, stop.mat, due, timeline.shown))
        # A stretch ends before its last instant: the picture stands on it, so that it is seen.
        timeline.hold(max(stop.hold_seconds or ZERO, TOUCHED))
    timeline.say(saying)
    left = (timeline.said - timeline.shown) * ring.rate
    if left >= ring.shortest(timeline.mat, ring.high):
        _bring(timeline, ring, ring.high, timeline.said)
    elif left > 0:
        timeline.go_round(timeline.mat, min(timeline.mat + left, ring.high), ring.rate)
        timeline.hold(timeline.said - timeline.shown)
    timeline.said = max(timeline.said, timeline.shown)
    return ties, lacks


def _bring(timeline: ExchangeTimeline, ring: Ring, goal: Fraction, due: Fraction) -> None:
    """Go round so that the picture is at `goal` when `due`."""
    for part in ring.way(timeline.mat, goal, (due - timeline.shown) * ring.rate):
        timeline.mat = part.start
        if part.start == part.end:
            timeline.hold(part.stands / ring.rate)
        else:
            timeline.go_round(part.start, part.end, ring.rate)
    timeline.mat = goal
