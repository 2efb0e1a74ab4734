"""What the rest of a breakdown will take, from what earlier ones took; which exchanges fit into the time there is; and
how the effort falls.

Effort is told a finished minute. A forecast is the median of what was, with the quarters round it; from fewer than
three breakdowns none is made.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from math import log2

import numpy as np

from chapto.shelf.times import Effort

LEAST = 3
"""Finished breakdowns from which something is said."""
STEP = 60
"""Seconds to which costs are rounded when what fits is chosen."""


@dataclass(frozen=True)
class Spread:
    """Seconds: half of the time it is at most `middle`, and in half of all cases between `low` and `high`."""

    low: float
    middle: float
    high: float


def rest_of(done: Sequence[Effort], length: float, spent: Mapping[str, float]) -> dict[str, Spread]:
    """What each stage still takes for a video of `length` watch seconds after so many seconds `spent` by stage; only
    stages that earlier breakdowns have a time for. Empty while fewer than `LEAST` are done."""
    told = [e for e in done if e.a_minute is not None]
    if len(told) < LEAST or length <= 0:
        return {}
    found = {}
    for stage in dict.fromkeys(s for e in told for s in e.by_stage):
        needed = np.array([e.by_stage.get(stage, 0.0) / e.length for e in told]) * length - spent.get(stage, 0.0)
        low, middle, high = np.percentile(np.maximum(needed, 0.0), (25, 50, 75))
        found[stage] = Spread(float(low), float(middle), float(high))
    return found


def together(parts: Mapping[str, Spread]) -> Spread:
    """All stages: the spreads of stages that vary by themselves add up by their squares."""
    middle = sum(s.middle for s in parts.values())
    down = sum((s.middle - s.low) ** 2 for s in parts.values()) ** 0.5
    up = sum((s.high - s.middle) ** 2 for s in parts.values()) ** 0.5
    return Spread(max(middle - down, 0.0), middle, middle + up)


@dataclass(frozen=True)
class Choice:
    """Something that could be explained: its id, how much it is worth, and seconds of work it takes."""

    id: str
    worth: float
    seconds: float


def fitting(choices: Sequence[Choice], seconds: float) -> tuple[str, ...]:
    """The ids, in the order given, that are together worth most and fit into so many seconds, costs rounded up to whole
    minutes: no other choice is worth more (a knapsack, solved exactly by dynamic programming, R. Bellman 1957)."""
    room = int(seconds // STEP)
    worths = [c for c in choices if c.worth > 0]
    costs = [max(-(-round(c.seconds) // STEP), 1) for c in worths]
    best = np.zeros(room + 1)
    taken = np.zeros((len(worths), room + 1), bool)
    for i, (c, cost) in enumerate(zip(worths, costs, strict=True)):
        if cost <= room:
            better = best[: room + 1 - cost] + c.worth
            taken[i, cost:] = better > best[cost:]
            best[cost:] = np.maximum(best[cost:], better)
    chosen = set()
    left = room
    for i in range(len(worths) - 1, -1, -1):
        if taken[i, left]:
            chosen.add(worths[i].id)
            left -= costs[i]
    return tuple(c.id for c in choices if c.id in chosen)


@dataclass(frozen=True)
class Learning:
    """How effort a finished minute falls: to `rate` of what it was each time that twice as many are done, from `first`
    seconds; with how many breakdowns that was found."""

    rate: float
    first: float
    count: int

    def expected(self, number: int) -> float:
        """Seconds a finished minute of breakdown `number` (from 1)."""
        return float(self.first * self.rate ** log2(number))


def learning(done: Sequence[Effort]) -> Learning | None:
    """The learning curve (T. P. Wright, “Factors affecting the cost of airplanes”, 1936: a straight line of
    logarithms), by least squares; None from fewer than four."""
    told = [a for e in done if (a := e.a_minute) is not None]
    if len(told) <= LEAST:
        return None
    x, y = np.log2(np.arange(1, len(told) + 1)), np.log2(np.array(told))
    slope, start = np.polyfit(x, y, 1)
    return Learning(float(2**slope), float(2**start), len(told))
