"""How picture and voice go from stop to stop by a plan, within a house style and round what is skipped."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from fractions import Fraction

from chapto.clock.passage import Kind
from chapto.pacing.exchange_timeline import ZERO, ExchangeTimeline
from chapto.pacing.shortfalls import MICROSECONDS
from chapto.pacing.skipping import Span
from chapto.pacing.solver_terms import Choice, Interval
from chapto.pacing.styles import HouseStyle

STUMBLE = Fraction(1, 1000)
"""Seconds a plan holds longer than its words need before that counts as wished; below, it is the solver's rounding."""


@dataclass(frozen=True, slots=True)
class Motion:
    """How the picture may move under a group: its kind and rate, the slower rates allowed, whether it may be held."""

    kind: Kind
    base: Fraction
    rates: tuple[Fraction, ...] = ()
    may_hold: bool = True


class PlaybackPlan:
    """A timeline in a house style. Of `idle` the plan may skip, `skips` are skipped always; both in order and apart."""

    def __init__(
        self, timeline: ExchangeTimeline, style: HouseStyle, idle: Sequence[Span], skips: Sequence[Span]
    ) -> None:
        self.timeline, self.style, self.idle, self.skips = timeline, style, idle, skips

    def room(self) -> Fraction:
        """Seconds the picture may still stand where it is."""
        return max(self.style.longest_hold - self.timeline.stood(), ZERO)

    def let_words_out(self) -> None:
        """The picture stands until the words before are out, as long as the style lets it, and runs on for the rest. A
        cutaway lingers for a pause rather than that the exchange comes back for a blink."""
        timeline = self.timeline
        if timeline.linger(timeline.said - timeline.shown):
            return
        held = min(timeline.said - timeline.shown, max(self.style.longest_hold - timeline.stood(), ZERO))
        timeline.hold(held)
        timeline.move(Kind.RUN, (timeline.said - timeline.shown) * self.style.base_rate, self.style.base_rate)
        timeline.said = max(timeline.said, timeline.shown)

    def interval(
        self,
        to: Fraction,
        voice: Fraction,
        motion: Motion,
        places: tuple[int, int],
        wait: Fraction,
        *,
        since: Fraction | None = None,
        tail: bool = False,
    ) -> Interval:
        """What the plan has to know about the way from `since` (where the picture is, by default) to `to`; `places` are
        the numbers of those where it begins and ends."""
        start = self.timeline.mat if since is None else since
        idle = _length(_between(self.idle, start, to)) if motion.kind is Kind.RUN else ZERO
        gone = _length(_between(self.skips, start, to)) if motion.kind is Kind.RUN else ZERO
        rates = tuple(float(r) for r in motion.rates)
        mat = float(max(to - start - gone, ZERO))
        return Interval(mat, float(voice), float(motion.base), rates, *places, float(idle), float(wait), tail)

    def travel(
        self,
        interval: Interval,
        to: Fraction,
        choice: Choice,
        motion: Motion,
        *,
        due: Fraction | None = None,
        fixed: Fraction | None = None,
    ) -> None:
        """Go to `to` as planned for `interval`, held so long that it is there when due, as far as the style allows;
        before it sets out the picture stands `fixed` seconds, if the creator said so."""
        timeline = self.timeline
        timeline.hold(fixed or ZERO)
        due = timeline.said if due is None else due
        cuts = self._cuts(timeline.mat, to, choice.skipped) if motion.kind is Kind.RUN else []
        d = max(to - timeline.mat - _length(cuts), ZERO)
        slowed = min(_whole_microseconds(choice.slowed), d) if choice.rate >= 0 else ZERO
        slowed = d if d - slowed < Fraction(2, MICROSECONDS) else slowed
        rate = motion.rates[choice.rate] if slowed else motion.base
        missing = max(due - timeline.shown - (d - slowed) / motion.base - slowed / rate, ZERO)
        at_start, at_end = self._holds(interval, choice, missing)
        timeline.hold(at_start)
        timeline.move(motion.kind, d - slowed, motion.base, cuts)
        timeline.move(motion.kind, slowed, rate, cuts)
        timeline.hold(at_end)

    def _holds(self, interval: Interval, choice: Choice, missing: Fraction) -> tuple[Fraction, Fraction]:
        """How long the picture stands before the way and after it: exactly what is `missing`, parted as planned, or
        what the plan wished for beyond that."""
        held, stood = _whole_microseconds(choice.held_before), _whole_microseconds(choice.held_after)
        if held + stood - missing > STUMBLE:
            at_start, at_end = held, stood
        elif interval.ends >= 0 and (stood > STUMBLE or interval.begins < 0):
            at_start = min(held, missing) if held > STUMBLE else ZERO
            at_end = missing - at_start
        else:
            at_start, at_end = (missing if interval.begins >= 0 else ZERO), ZERO
        room = self.room() if interval.begins >= 0 else ZERO
        return _within(at_start, room), _within(at_end, self.style.longest_hold)

    def _cuts(self, start: Fraction, end: Fraction, skipped: float) -> list[Span]:
        """What is cut out of the way: all of `skips`, and `skipped` seconds of what is idle, whole spans first."""
        left = Fraction(round(skipped * MICROSECONDS), MICROSECONDS)
        cuts = _between(self.skips, start, end)
        for a, z in _between(self.idle, start, end):
            part = min(z - a, left)
            if part > 0:
                cuts.append((z - part, z))
                left -= part
        return sorted(cuts)


def _between(spans: Sequence[Span], start: Fraction, end: Fraction) -> list[Span]:
    """What of `spans` lies between two mat times."""
    inside = ((max(a, start), min(z, end)) for a, z in spans)
    return [(a, z) for a, z in inside if a < z]


def _within(seconds: Fraction, room: Fraction) -> Fraction:
    """Cut to the room there is; by the solver's rounding alone it may be passed."""
    return seconds if seconds - room < Fraction(10, MICROSECONDS) else room


def _whole_microseconds(seconds: float) -> Fraction:
    return Fraction(round(seconds * MICROSECONDS), MICROSECONDS)


def _length(spans: Sequence[Span]) -> Fraction:
    return sum((z - a for a, z in spans), ZERO)
