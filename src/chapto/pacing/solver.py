"""The best way to bring picture and voice from stop to stop, as a mixed-integer linear programme.

An *interval* lies between two stops. It has `mat` seconds of footage and `voice` seconds of speech, and its plan
chooses, all in seconds:

- `skipped`: mat seconds left out, at most the interval's `idle` ones;
- `slowed`: mat seconds shown at one `rate` of the style's list; the rest runs at the `base` rate;
- `held_before`, `held_after`: watch seconds for which the picture stands at its first and its last stop;
- `waited`: watch seconds for which the voice is silent, at most `longest_wait`;
- `hurried`, `lingered`: watch seconds by which the voice is said quicker or slower, at most `hurry` and `linger`;
- `beyond`: mat seconds run past the end, in a tail only; those beyond its `room` are far dearer.

Picture and voice take equally long:

    held_before + (mat − skipped − slowed) / base + slowed / rate + held_after + beyond / base
        = voice − hurried + lingered + waited

Holding gets dearer the longer the picture stands at one place: a second beyond each of the style's thresholds costs
more (a convex, piecewise linear price, which needs no whole numbers).

Where the limits of the style do not allow that, two more terms make it true: `hold_missing` on the left and
`silence_over` on the right. They cost so much that both stay 0 wherever they can. Every term has a price in points of
the house style (`styles.Weights`); the plan with the fewest points is taken. The solver is HiGHS, by
`scipy.optimize.milp`; a relative gap of 0 makes the plan a best one and the same one every time.
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
BROKEN, SILENT, TOO_LONG, TOO_FAR = 20_000.0, 60.0, 200.0, 12.0
"""Cost of a second by which a limit is missed: a tie, a silence, a length that must not be passed, what is shown past
the end of an exchange."""
DEARER_PER_FOLLOWER = 0.01
"""By this share a missing second is dearer for each interval that follows, as what comes late makes those late."""
FEWER_CHANGES = 1e-4
"""Among plans of one cost the one with fewer changes of speed is taken."""
HOLD_BEFORE_RATHER = 1e-5
"""Among plans of one cost the one that holds on what was spoken of, not on what is spoken of next, is taken."""
CLOSE = 1e-6


@dataclass(frozen=True, slots=True)
class Interval:
    """From one stop to the next.

    `mat`, `voice`, `idle` and `longest_wait` are seconds, at least 0; `base` and `rates` are mat seconds shown in a
    watch second. `begins` and `ends` number the places where the picture could stand, −1 where it may not. `idle` is
    the part of `mat` in which nothing happens, `longest_wait` the most the voice may wait; `hurry` and `linger` are the
    seconds it may lose or gain by another tempo. The last interval of an exchange is a `tail`: the picture may run on
    past its end, `room` mat seconds before something else begins, and silence there costs less."""

    mat: float
    voice: float
    base: float
    rates: tuple[float, ...] = ()
    begins: int = -1
    ends: int = -1
    idle: float = 0.0
    longest_wait: float = 0.0
    tail: bool = False
    hurry: float = 0.0
    linger: float = 0.0
    room: float = np.inf


NEIGHBOUR_WITH_TIME = Interval(1.0, 1.0, 1.0)
"""Stands for an interval that has time, beside those that have not: the picture runs there."""


@dataclass(frozen=True, slots=True)
class Wish:
    """A wished watch length in seconds; one that is a `limit` must not be passed."""

    seconds: float
    limit: bool = False


@dataclass(frozen=True, slots=True)
class Choice:
    """What one interval does, in seconds as named in the head of this file. `rate` is a number in the interval's
    `rates`, −1 where nothing is slowed."""

    rate: int
    slowed: float
    skipped: float
    held_before: float
    held_after: float
    waited: float
    beyond: float
    hold_missing: float
    silence_over: float
    hurried: float = 0.0
    lingered: float = 0.0


@dataclass(frozen=True, slots=True)
class Plan:
    """The choices, one an interval, their whole cost, and the seconds by which a length that is a limit is passed."""

    choices: tuple[Choice, ...]
    cost: float
    too_long: float


@dataclass(slots=True)
class _Variables:
    """Where the variables of one interval stand in the model.

    `slow`, `on` and `starts` have one entry for each rate: the mat seconds slowed to it, whether it is used at all
    (0 or 1), and whether the interval begins with it (0 to 1). `starts_running` is that of the base rate."""

    run: int
    slow: list[int]
    on: list[int]
    starts: list[int]
    starts_running: int
    skip: int
    hold_before: int
    hold_after: int
    wait: int
    beyond: int
    hold_missing: int
    silence_over: int
    hurried: int
    lingered: int


def best_plan(
    intervals: Sequence[Interval],
    longest_hold: Sequence[float],
    weights: Weights,
    wish: Wish | None = None,
    stood: float = 0.0,
) -> Plan:
    """The cheapest plan for `intervals` in a row; `longest_hold` has the seconds for which each place may be held. At
    the first of them the picture has `stood` for some already.

    The same input gives the same plan. An interval with time to spare needs nothing but a pause. Without a wished
    length it therefore parts the row: what lies before and after it is planned by itself. Raises `PacingError` where
    the solver gives up.
    """
    if wish is not None:
        return _solved(tuple(intervals), tuple(longest_hold), weights, len(intervals), wish, stood)
    pruned = [_without_useless_rates(one, weights) for one in intervals]
    choices: list[Choice] = []
    cost, start = 0.0, 0
    for i in range(len(pruned) + 1):
        if i < len(pruned) and not _has_time(pruned[i]):
            continue
        if i > start:
            between = (
                *([NEIGHBOUR_WITH_TIME] if start else []),
                *pruned[start:i],
                *([NEIGHBOUR_WITH_TIME] if i < len(pruned) else []),
            )
            used = {place for one in between for place in (one.begins, one.ends)}
            rooms = tuple(room if place in used else 0.0 for place, room in enumerate(longest_hold))
            left = len(pruned) - start + bool(start)
            its = _solved(between, rooms, weights, left, None, stood)
            choices += its.choices[bool(start) : bool(start) + i - start]
            cost += its.cost
        if i < len(pruned):
            choice, paid = _waits(pruned[i], weights)
            choices.append(choice)
            cost += paid
        start = i + 1
    return Plan(tuple(choices), cost, 0.0)


def _has_time(one: Interval) -> bool:
    """Whether nothing but waiting can pay in an interval: it runs at its base rate from end to end."""
    return one.mat > 0 and not one.rates and one.idle == 0 and _missing(one) == 0


def _waits(one: Interval, weights: Weights) -> tuple[Choice, float]:
    """The plan of an interval that has time, and its points."""
    over = one.mat / one.base - one.voice
    price = weights.pause / 4 if one.tail else weights.pause
    waited, lingered = min(over, one.longest_wait), min(over, one.linger)
    if weights.linger < price:
        waited = min(over - lingered, one.longest_wait)
    else:
        lingered = min(over - waited, one.linger)
    silent = over - waited - lingered
    cost = waited * price + lingered * weights.linger + silent * SILENT
    shown = (seconds if seconds > CLOSE else 0.0 for seconds in (waited, 0.0, 0.0, silent, 0.0, lingered))
    return Choice(-1, 0.0, 0.0, 0.0, 0.0, *shown), cost


@lru_cache(maxsize=4096)
def _solved(
    intervals: tuple[Interval, ...],
    longest_hold: tuple[float, ...],
    weights: Weights,
    left: int,
    wish: Wish | None,
    stood: float,
) -> Plan:
    """The plan of intervals in a row, by the solver; `left` intervals are left with the first of them."""
    model = MilpModel()
    after = range(left, left - len(intervals), -1)
    variables = [
        _interval(model, one, weights, n, free=wish is not None) for n, one in zip(after, intervals, strict=True)
    ]
    both = list(zip(variables, intervals, strict=True))
    stops: dict[int, int] = {}
    for place, longest in enumerate(longest_hold):
        here = [(its.hold_before, one) for its, one in both if one.begins == place]
        here += [(its.hold_after, one) for its, one in both if one.ends == place]
        # Holding more than is missing only to wait for it again never pays, unless a length is wished for.
        most = longest if wish else min(longest, sum(_missing(one) for _, one in here))
        if here:
            stands = model.variable(weights.stop, float(most > 0), whole=most > 0)
            model.row([*((number, 1.0) for number, _ in here), (stands, -most)], high=0.0)
            stops[place] = stands
            for beyond, price in weights.dearer:
                least = max(beyond - (0.0 if place else stood), 0.0)
                if most > least:
                    longer = model.variable(price)
                    model.row([*((number, 1.0) for number, _ in here), (longer, -1.0)], high=least)
            if not wish:
                for number, one in here:
                    model.row([(number, 1.0), (stands, -min(longest, _missing(one)))], high=0.0)
    for its, one in both if not wish else ():
        _something_is_done(model, its, one, stops)
    moving = [i for i, one in enumerate(intervals) if one.mat > 0]
    for i, j in pairwise(moving):
        _boundary(model, variables[i], intervals[i], variables[j], intervals[j], weights)
    over = _length(model, intervals, variables, weights, wish) if wish else -1
    too_long = over if wish and wish.limit else -1
    values = model.solve()
    choices = tuple(_choice(values, its) for its in variables)
    cost = float(np.dot(model.cost, values)) + model.constant
    return Plan(choices, cost, float(values[too_long]) if too_long >= 0 else 0.0)


def _without_useless_rates(one: Interval, weights: Weights) -> Interval:
    """The interval without the rates that can't pay.

    Where time is left over anyway, slowing could only save the two changes of speed at the ends. It does so only if
    the whole interval is slow."""
    if _missing(one) > 0 or one.idle > 0:
        return one
    saved = 2 * (weights.change + FEWER_CHANGES)
    pays = tuple(r for r in one.rates if _slowing(weights, r, one.base) * one.mat <= saved)
    return replace(one, rates=pays)


def _slowing(weights: Weights, rate: float, base: float) -> float:
    """Points for a mat second shown at `rate` instead of `base`: for what it gains, the more the slower."""
    return weights.slow * (1 / rate - 1 / base) * (2 - rate / base)


def _most_slowed(one: Interval, rate: float, weights: Weights, *, free: bool) -> float:
    """The most mat seconds that slowing can be good for.

    More than gains what is missing pays only if the whole interval is slow, for the two changes of speed this saves.
    A wished length, or something to skip, leaves it `free`."""
    d, gain = one.mat, 1 / rate - 1 / one.base
    enough = min(d, max(_missing(one) / gain, min(SHORTEST_SLOW, d)))
    if free or one.idle > 0:
        return d
    too_much = (d - enough) * (_slowing(weights, rate, one.base) + weights.pause / 4 * gain)
    return d if too_much <= 2 * (weights.change + FEWER_CHANGES) else enough


def _missing(one: Interval) -> float:
    """Seconds the picture lacks at most, when it runs and what is idle in it is skipped."""
    return max(one.voice - (one.mat - one.idle) / one.base, 0.0)


def _interval(model: MilpModel, one: Interval, weights: Weights, left: int, *, free: bool) -> _Variables:
    """Write one interval down. `left` intervals, itself included, have late words if its own are late."""
    d = one.mat
    run = model.variable(high=d)
    slow = [model.variable(_slowing(weights, r, one.base), high=d) for r in one.rates]
    usable = d > 0
    on = [model.variable(high=float(usable), whole=True) for _ in one.rates]
    starts = [model.variable(high=1) for _ in one.rates]
    starts_running = model.variable(high=1, whole=bool(one.rates))
    its = _Variables(
        run, slow, on, starts, starts_running,
        skip=model.variable(weights.skip - weights.idle, high=one.idle),
        hold_before=model.variable(weights.hold, high=np.inf if one.begins >= 0 else 0.0),
        hold_after=model.variable(weights.hold + HOLD_BEFORE_RATHER, high=np.inf if one.ends >= 0 else 0.0),
        wait=model.variable(weights.pause / 4 if one.tail else weights.pause, high=one.longest_wait),
        beyond=model.variable(weights.beyond, high=np.inf if one.tail else 0.0),
        hold_missing=model.variable(BROKEN * (1 + left * DEARER_PER_FOLLOWER), high=0.0 if one.tail else np.inf),
        silence_over=model.variable(SILENT),
        hurried=model.variable(weights.hurry, high=one.hurry),
        lingered=model.variable(weights.linger, high=one.linger),
    )  # fmt: skip
    model.constant += weights.idle * one.idle
    model.row([(run, 1), *((slowed, 1.0) for slowed in slow), (its.skip, 1)], low=d, high=d)
    shown = [(run, 1 / one.base), *((slowed, 1 / r) for slowed, r in zip(slow, one.rates, strict=True))]
    rest = [
        (its.hold_before, 1.0),
        (its.hold_after, 1.0),
        (its.beyond, 1 / one.base),
        (its.hold_missing, 1.0),
        (its.wait, -1.0),
        (its.silence_over, -1.0),
        (its.hurried, 1.0),
        (its.lingered, -1.0),
    ]
    model.row([*shown, *rest], low=one.voice, high=one.voice)
    shortest = min(SHORTEST_SLOW, d)
    for slowed, used, begins, rate in zip(slow, on, starts, one.rates, strict=True):
        model.row([(slowed, 1), (used, -_most_slowed(one, rate, weights, free=free))], high=0)
        model.row([(slowed, 1), (used, -shortest)], low=0)
        model.row([(begins, 1), (used, -1)], high=0)
    model.row([(run, 1), (starts_running, -d)], high=0)
    model.row([(starts_running, 1), *((begins, 1.0) for begins in starts)], low=1, high=1)
    if one.tail and one.room < np.inf:
        too_far = model.variable(TOO_FAR)
        model.row([(its.beyond, 1.0), (too_far, -1.0)], high=one.room)
    if on:
        model.row([(used, 1.0) for used in on], high=1)
        inside = model.variable(weights.change + FEWER_CHANGES, high=1)
        model.row([(inside, 1), (starts_running, -1), *((used, -1.0) for used in on)], low=-1)
    if one.idle > 0:
        jumps = model.variable(high=1, whole=True)
        model.row([(its.skip, 1), (jumps, -one.idle)], high=0)
        model.row([(its.skip, 1), (jumps, -min(SHORTEST_SKIP, one.idle))], low=0)
    return its


def _something_is_done(model: MilpModel, its: _Variables, one: Interval, stops: dict[int, int]) -> None:
    """Say that where words are left over, the picture is slowed or held, or they are late or hurried.

    It follows from the other rows; the solver is quicker by half when it is told (measured)."""
    lacks = one.voice - one.mat / one.base
    if lacks > CLOSE and not one.tail:
        held = [(stops[place], lacks) for place in {one.begins, one.ends} if place in stops]
        model.row([(its.hold_missing, 1.0), (its.hurried, 1.0), *((used, lacks) for used in its.on), *held], low=lacks)


def _boundary(
    model: MilpModel, one: _Variables, before: Interval, other: _Variables, after: Interval, weights: Weights
) -> None:
    """A change of speed from the end of one interval to the start of the next."""
    if not before.rates and not after.rates:
        return
    change = model.variable(weights.change + FEWER_CHANGES, high=1)
    model.row([(change, 1), *((used, 1.0) for used in one.on), (other.starts_running, 1)], low=1)
    starts = dict(zip(after.rates, other.starts, strict=True))
    for used, rate in zip(one.on, before.rates, strict=True):
        same = [(starts[rate], 1.0)] if rate in starts else []
        model.row([(change, 1), (used, -1), *same], low=0)


def _length(
    model: MilpModel, intervals: Sequence[Interval], variables: list[_Variables], weights: Weights, wish: Wish
) -> int:
    """Weigh how far the watch length is from the wished one; the number of the variable for what is too long."""
    over = model.variable(TOO_LONG if wish.limit else weights.length)
    under = model.variable(0.0 if wish.limit else weights.length)
    terms = [(over, -1.0), (under, 1.0)]
    for one, its in zip(intervals, variables, strict=True):
        terms += [(its.run, 1 / one.base), (its.beyond, 1 / one.base)]
        terms += [(its.hold_before, 1.0), (its.hold_after, 1.0)]
        terms += [(slowed, 1 / r) for slowed, r in zip(its.slow, one.rates, strict=True)]
    model.row(terms, low=wish.seconds, high=wish.seconds)
    return over


def _choice(values: NDArray[np.float64], its: _Variables) -> Choice:
    on = [i for i, used in enumerate(its.on) if values[used] > 0.5 and values[its.slow[i]] > CLOSE]
    rate = on[0] if on else -1
    slowed = float(values[its.slow[rate]]) if on else 0.0
    numbers = (
        its.skip, its.hold_before, its.hold_after, its.wait, its.beyond, its.hold_missing, its.silence_over,
        its.hurried, its.lingered,
    )  # fmt: skip
    return Choice(rate, slowed, *(float(values[n]) if values[n] > CLOSE else 0.0 for n in numbers))
