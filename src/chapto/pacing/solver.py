"""The best way to bring picture and voice from stop to stop, as a mixed-integer linear programme.

Interval i has `d` mat seconds and `v` voice seconds. Of `d` a part `x` may be skipped, a part `p` is slowed to a
rate `r` of the style's list, and the rest runs at the base rate `q`; the picture may be held `h` seconds where it
begins and `s` seconds where it ends, and the voice may wait `w`:

    h + (d − x − p)/q + p/r + s = v + w

What the style's limits do not allow shows as `short` (hold missing) or `silent` (pause too long), both weighed so
heavily that they stay 0 wherever they can.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from functools import lru_cache
from itertools import pairwise

import numpy as np
from numpy.typing import NDArray

from chapto.pacing.milp_model import MilpModel
from chapto.pacing.styles import Weights

SHORTEST_SLOW = 0.5
"""Mat seconds; slowing less than this looks like a stumble, so a short hold does it instead."""
SHORTEST_SKIP = 1.0
"""Mat seconds; a shorter jump looks like a fault of the footage."""
BROKEN, SILENT, TOO_LONG = 20_000.0, 60.0, 200.0
"""Cost of a second by which a limit is missed: a tie, a silence, a length that must not be passed."""
FOLLOWED = 0.01
"""By this share a second is dearer for each interval that follows: what comes late makes what follows late."""
FEWER_CHANGES = 1e-4
"""Among plans of one cost the one with fewer changes of speed is taken."""
SOONER = 1e-5
"""Among plans of one cost the one that holds on what was spoken of, not on what is spoken of next, is taken."""
CLOSE = 1e-6


@dataclass(frozen=True, slots=True)
class Interval:
    """From one stop to the next. Times in seconds; `begins` and `ends` are the numbers of the places where the picture
    could be held before and after the way (−1: it may not be), `idle` the part of `mat` in which nothing happens,
    `longest_wait` the most the voice may wait. The last interval of an exchange is a `tail`: the picture may run on
    past its end, and silence there costs less."""

    mat: float
    voice: float
    base: float
    rates: tuple[float, ...] = ()
    begins: int = -1
    ends: int = -1
    idle: float = 0.0
    longest_wait: float = 0.0
    tail: bool = False


BESIDE = Interval(1.0, 1.0, 1.0)
"""Stands for a way that has time, beside the ways that have not: the picture runs there."""


@dataclass(frozen=True, slots=True)
class Wish:
    """A wished watch length in seconds; one that is a `limit` must not be passed."""

    seconds: float
    limit: bool = False


@dataclass(frozen=True, slots=True)
class Choice:
    """What one interval does: `slowed` mat seconds at rate number `rate` (−1 for none), `skipped` mat seconds, `held`
    (where it begins), `stood` (where it ends) and `waited` watch seconds, `beyond` mat seconds past its end; `short`
    and `silent` are what the limits lack."""

    rate: int
    slowed: float
    skipped: float
    held: float
    stood: float
    waited: float
    beyond: float
    short: float
    silent: float


@dataclass(frozen=True, slots=True)
class Plan:
    """The choices, one an interval, their whole cost, and the seconds by which a length that is a limit is passed."""

    choices: tuple[Choice, ...]
    cost: float
    too_long: float


@dataclass(slots=True)
class _Part:
    """Numbers of the variables of one interval."""

    run: int
    slow: list[int]
    on: list[int]
    starts: list[int]
    begins_running: int
    skip: int
    hold: int
    stand: int
    wait: int
    beyond: int
    short: int
    silent: int


def best_plan(
    intervals: Sequence[Interval], longest_hold: Sequence[float], weights: Weights, wish: Wish | None = None
) -> Plan:
    """The cheapest plan for `intervals` in a row; `longest_hold` has the seconds each place may be held.

    The same input gives the same plan. Without a wished length, a way that has time to spare parts the row: what lies
    before it and after it is planned by itself.
    """
    if wish is not None:
        return _solved(tuple(intervals), tuple(longest_hold), weights, len(intervals), wish)
    pruned = [_without_useless_rates(one, weights) for one in intervals]
    choices: list[Choice] = []
    cost, start = 0.0, 0
    for i in range(len(pruned) + 1):
        if i < len(pruned) and not _has_time(pruned[i]):
            continue
        if i > start:
            between = (*([BESIDE] if start else []), *pruned[start:i], *([BESIDE] if i < len(pruned) else []))
            used = {place for one in between for place in (one.begins, one.ends)}
            rooms = tuple(room if place in used else 0.0 for place, room in enumerate(longest_hold))
            left = len(pruned) - start + bool(start)
            part = _solved(between, rooms, weights, left, None)
            choices += part.choices[bool(start) : bool(start) + i - start]
            cost += part.cost
        if i < len(pruned):
            choice, paid = _waits(pruned[i], weights)
            choices.append(choice)
            cost += paid
        start = i + 1
    return Plan(tuple(choices), cost, 0.0)


def _has_time(one: Interval) -> bool:
    """Whether nothing but waiting can pay on a way: it runs at its base rate from end to end."""
    return one.mat > 0 and not one.rates and one.idle == 0 and _missing(one) == 0


def _waits(one: Interval, weights: Weights) -> tuple[Choice, float]:
    """The plan of a way that has time, and its cost."""
    over = one.mat / one.base - one.voice
    waited = min(over, one.longest_wait)
    silent = over - waited
    cost = waited * (weights.pause / 4 if one.tail else weights.pause) + silent * SILENT
    shown = (x if x > CLOSE else 0.0 for x in (waited, 0.0, 0.0, silent))
    return Choice(-1, 0.0, 0.0, 0.0, 0.0, *shown), cost


@lru_cache(maxsize=4096)
def _solved(
    intervals: tuple[Interval, ...], longest_hold: tuple[float, ...], weights: Weights, left: int, wish: Wish | None
) -> Plan:
    """The plan of intervals in a row, by the solver; `left` intervals are left with the first of them."""
    rows = MilpModel()
    after = range(left, left - len(intervals), -1)
    parts = [_interval(rows, one, weights, n, free=wish is not None) for n, one in zip(after, intervals, strict=True)]
    both = list(zip(parts, intervals, strict=True))
    stops: dict[int, int] = {}
    for place, longest in enumerate(longest_hold):
        here = [(part.hold, one) for part, one in both if one.begins == place]
        here += [(part.stand, one) for part, one in both if one.ends == place]
        # Holding more than is missing only to wait for it again never pays, unless a length is wished for.
        most = longest if wish else min(longest, sum(_missing(one) for _, one in here))
        if here:
            stands = rows.variable(weights.stop, float(most > 0), whole=most > 0)
            rows.row([*((number, 1.0) for number, _ in here), (stands, -most)], high=0.0)
            stops[place] = stands
            if not wish:
                for number, one in here:
                    rows.row([(number, 1.0), (stands, -min(longest, _missing(one)))], high=0.0)
    for part, one in both if not wish else ():
        _something_is_done(rows, part, one, stops)
    moving = [i for i, one in enumerate(intervals) if one.mat > 0]
    for i, j in pairwise(moving):
        _boundary(rows, parts[i], intervals[i], parts[j], intervals[j], weights)
    over = _length(rows, intervals, parts, weights, wish) if wish else -1
    too_long = over if wish and wish.limit else -1
    x = rows.solve()
    choices = tuple(_choice(x, part) for part in parts)
    cost = float(np.dot(rows.cost, x)) + rows.constant
    return Plan(choices, cost, float(x[too_long]) if too_long >= 0 else 0.0)


def _without_useless_rates(one: Interval, weights: Weights) -> Interval:
    """The interval without rates that can't pay: where time is left over anyway, slowing could only save the two
    changes of speed at its ends, and does so only along its whole way."""
    if _missing(one) > 0 or one.idle > 0:
        return one
    saved = 2 * (weights.change + FEWER_CHANGES)
    pays = tuple(r for r in one.rates if _slowing(weights, r, one.base) * one.mat <= saved)
    return replace(one, rates=pays)


def _slowing(weights: Weights, rate: float, base: float) -> float:
    """Points for a mat second shown at `rate` instead of `base`: for what it gains, the more the slower."""
    return weights.slow * (1 / rate - 1 / base) * (2 - rate / base)


def _most_slowed(one: Interval, rate: float, weights: Weights, *, free: bool) -> float:
    """The most mat seconds that slowing can be good for. More than gains what is missing pays only if the whole way is
    slow, for the two changes of speed this saves; or where a wished length or a skip leaves it `free`."""
    d, gain = one.mat, 1 / rate - 1 / one.base
    enough = min(d, max(_missing(one) / gain, min(SHORTEST_SLOW, d)))
    if free or one.idle > 0:
        return d
    too_much = (d - enough) * (_slowing(weights, rate, one.base) + weights.pause / 4 * gain)
    return d if too_much <= 2 * (weights.change + FEWER_CHANGES) else enough


def _missing(one: Interval) -> float:
    """Seconds the picture lacks at most, when it runs and what is idle in it is skipped."""
    return max(one.voice - (one.mat - one.idle) / one.base, 0.0)


def _interval(rows: MilpModel, one: Interval, weights: Weights, left: int, *, free: bool) -> _Part:
    """Write one interval down; `left` intervals are left with it, whose words are late as well if its own are."""
    d = one.mat
    run = rows.variable(high=d)
    slow = [rows.variable(_slowing(weights, r, one.base), high=d) for r in one.rates]
    usable = d > 0
    on = [rows.variable(high=float(usable), whole=True) for _ in one.rates]
    starts = [rows.variable(high=1) for _ in one.rates]
    begins_running = rows.variable(high=1, whole=bool(one.rates))
    part = _Part(
        run, slow, on, starts, begins_running,
        skip=rows.variable(weights.skip - weights.idle, high=one.idle),
        hold=rows.variable(weights.hold, high=np.inf if one.begins >= 0 else 0.0),
        stand=rows.variable(weights.hold + SOONER, high=np.inf if one.ends >= 0 else 0.0),
        wait=rows.variable(weights.pause / 4 if one.tail else weights.pause, high=one.longest_wait),
        beyond=rows.variable(weights.beyond, high=np.inf if one.tail else 0.0),
        short=rows.variable(BROKEN * (1 + left * FOLLOWED), high=0.0 if one.tail else np.inf),
        silent=rows.variable(SILENT),
    )  # fmt: skip
    rows.constant += weights.idle * one.idle
    rows.row([(run, 1), *((p, 1.0) for p in slow), (part.skip, 1)], low=d, high=d)
    shown = [(run, 1 / one.base), *((p, 1 / r) for p, r in zip(slow, one.rates, strict=True))]
    rest = [
        (part.hold, 1.0),
        (part.stand, 1.0),
        (part.beyond, 1 / one.base),
        (part.short, 1.0),
        (part.wait, -1.0),
        (part.silent, -1.0),
    ]
    rows.row([*shown, *rest], low=one.voice, high=one.voice)
    shortest = min(SHORTEST_SLOW, d)
    for p, z, a, rate in zip(slow, on, starts, one.rates, strict=True):
        rows.row([(p, 1), (z, -_most_slowed(one, rate, weights, free=free))], high=0)
        rows.row([(p, 1), (z, -shortest)], low=0)
        rows.row([(a, 1), (z, -1)], high=0)
    rows.row([(run, 1), (begins_running, -d)], high=0)
    rows.row([(begins_running, 1), *((a, 1.0) for a in starts)], low=1, high=1)
    if on:
        rows.row([(z, 1.0) for z in on], high=1)
        inside = rows.variable(weights.change + FEWER_CHANGES, high=1)
        rows.row([(inside, 1), (begins_running, -1), *((z, -1.0) for z in on)], low=-1)
    if one.idle > 0:
        jumps = rows.variable(high=1, whole=True)
        rows.row([(part.skip, 1), (jumps, -one.idle)], high=0)
        rows.row([(part.skip, 1), (jumps, -min(SHORTEST_SKIP, one.idle))], low=0)
    return part


def _something_is_done(rows: MilpModel, part: _Part, one: Interval, stops: dict[int, int]) -> None:
    """Where words are left over the picture is slowed or held, or they are late. The solver could find that out; told,
    it is quicker by half."""
    lacks = one.voice - one.mat / one.base
    if lacks > CLOSE and not one.tail:
        held = [(stops[place], lacks) for place in {one.begins, one.ends} if place in stops]
        rows.row([(part.short, 1.0), *((z, lacks) for z in part.on), *held], low=lacks)


def _boundary(rows: MilpModel, one: _Part, before: Interval, other: _Part, after: Interval, weights: Weights) -> None:
    """A change of speed from the end of one interval to the start of the next."""
    if not before.rates and not after.rates:
        return
    change = rows.variable(weights.change + FEWER_CHANGES, high=1)
    rows.row([(change, 1), *((z, 1.0) for z in one.on), (other.begins_running, 1)], low=1)
    starts = dict(zip(after.rates, other.starts, strict=True))
    for z, rate in zip(one.on, before.rates, strict=True):
        same = [(starts[rate], 1.0)] if rate in starts else []
        rows.row([(change, 1), (z, -1), *same], low=0)


def _length(rows: MilpModel, intervals: Sequence[Interval], parts: list[_Part], weights: Weights, wish: Wish) -> int:
    """Weigh how far the watch length is from the wished one; the number of the variable for what is too long."""
    over = rows.variable(TOO_LONG if wish.limit else weights.length)
    under = rows.variable(0.0 if wish.limit else weights.length)
    terms = [(over, -1.0), (under, 1.0)]
    for one, part in zip(intervals, parts, strict=True):
        terms += [(part.run, 1 / one.base), (part.beyond, 1 / one.base)]
        terms += [(part.hold, 1.0), (part.stand, 1.0)]
        terms += [(p, 1 / r) for p, r in zip(part.slow, one.rates, strict=True)]
    rows.row(terms, low=wish.seconds, high=wish.seconds)
    return over


def _choice(x: NDArray[np.float64], part: _Part) -> Choice:
    on = [i for i, z in enumerate(part.on) if x[z] > 0.5 and x[part.slow[i]] > CLOSE]
    rate = on[0] if on else -1
    slowed = float(x[part.slow[rate]]) if on else 0.0
    numbers = (part.skip, part.hold, part.stand, part.wait, part.beyond, part.short, part.silent)
    return Choice(rate, slowed, *(float(x[n]) if x[n] > CLOSE else 0.0 for n in numbers))
