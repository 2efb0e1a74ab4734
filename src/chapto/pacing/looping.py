"""The way of a picture that goes round while its words are said: over and over from the start, or to and fro."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from fractions import Fraction

ZERO = Fraction(0)
SHORTEST = Fraction(2, 5)
"""Watch seconds; the picture stands rather than moving for less, which would only twitch."""


@dataclass(frozen=True, slots=True)
class Stretch:
    """From mat second `start` to `end`, backwards where it is smaller; where they are the same, the picture stands for
    `stands` mat seconds' worth of the loop."""

    start: Fraction
    end: Fraction
    stands: Fraction = ZERO


@dataclass(frozen=True, slots=True)
class Ring:
    """Mat seconds `low … high` that go round at `rate`, each time from the start or `to_and_fro`."""

    low: Fraction
    high: Fraction
    rate: Fraction
    to_and_fro: bool

    @property
    def least(self) -> Fraction:
        """The shortest stretch, in mat seconds."""
        return min(SHORTEST * self.rate, (self.high - self.low) / 2)

    def shortest(self, at: Fraction, goal: Fraction) -> Fraction:
        """Mat seconds that the way from `at` to `goal` takes at least."""
        if at == goal:
            return ZERO
        return abs(goal - at) if self.to_and_fro else min(self.least, goal - self.low)

    def way(self, at: Fraction, goal: Fraction, length: Fraction) -> Iterator[Stretch]:
        """A way from `at` to `goal` of exactly `length` mat seconds, which is `shortest` at least."""
        yield from self._turning(at, goal, length) if self.to_and_fro else self._jumping(at, goal, length)

    def _turning(self, at: Fraction, goal: Fraction, length: Fraction) -> Iterator[Stretch]:
        """Forth and back: the last turn comes so early that the goal is met in time."""
        forwards = at < self.high
        while length > 0:
            spare = length - abs(goal - at)
            if spare < 2 * self.least:
                yield from self._stood(at, spare)
                if at != goal:
                    yield Stretch(at, goal)
                return
            turn = min((length + at + goal) / 2, self.high) if forwards else max((at + goal - length) / 2, self.low)
            if turn != at:
                yield Stretch(at, turn)
            length -= abs(turn - at)
            at, forwards = turn, not forwards

    def _jumping(self, at: Fraction, goal: Fraction, length: Fraction) -> Iterator[Stretch]:
        """Whole rounds from the start, before them what is left of this one, or a shorter one."""
        last = goal - self.low
        if length <= max(last, self.least):
            if goal - at == length:
                yield Stretch(at, goal)
            else:
                yield from self._moved(max(goal - length, self.low), goal, length)
            return
        rounds, part = divmod(length - last, self.high - self.low)
        head = min(part, self.high - at)
        yield from self._moved(at, at + head, head)
        yield from self._moved(self.high - (part - head), self.high, part - head)
        for _ in range(int(rounds)):
            yield Stretch(self.low, self.high)
        yield from self._moved(self.low, goal, last)

    def _moved(self, start: Fraction, end: Fraction, length: Fraction) -> Iterator[Stretch]:
        """A stretch forwards, or standing where it is too short to be seen moving."""
        if length < self.least:
            yield from self._stood(end, length)
            return
        yield from self._stood(start, length - (end - start))
        yield Stretch(start, end)

    def _stood(self, at: Fraction, length: Fraction) -> Iterator[Stretch]:
        if length > 0:
            yield Stretch(at, at, length)
