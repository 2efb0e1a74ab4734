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
from dataclasses import replace
from functools import lru_cache
from itertools import pairwise

import numpy as np

from chapto.pacing.milp_model import MilpModel
from chapto.pacing.solver_rows import (
    choice_of,
    fix,
    missing,
    slowing_price,
    write_boundary,
    write_interval,
    write_length,
    write_that_something_is_done,
)
from chapto.pacing.solver_terms import CLOSE, FEWER_CHANGES, SILENT, Choice, Interval, Plan, Wish
from chapto.pacing.styles import Weights

WINDOW, KEPT = 8, 4
"""Intervals planned together in a long row, and those of them that stay as they were planned."""
NEIGHBOUR_WITH_TIME = Interval(1.0, 1.0, 1.0)
"""Stands for an interval that has time, beside those that have not: the picture runs there."""


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
            left = len(pruned) - start + bool(start)
            its = _in_windows(between, longest_hold, weights, left, stood)
            choices += its.choices[bool(start) : bool(start) + i - start]
            cost += its.cost
        if i < len(pruned):
            choice, paid = _waits(pruned[i], weights)
            choices.append(choice)
            cost += paid
        start = i + 1
    return Plan(tuple(choices), cost, 0.0)


def _in_windows(
    intervals: tuple[Interval, ...], longest_hold: Sequence[float], weights: Weights, left: int, stood: float
) -> Plan:
    """The plan of intervals in a row, of which `left` are left with the first.

    A short row is planned as a whole. Of a long one `WINDOW` intervals are planned at a time and the first `KEPT` of
    them kept, as the work grows steeply; what lies farther off hardly changes them. So an edit also leaves what comes
    well before it alone.
    """
    chosen: tuple[Choice, ...] = ()
    while len(chosen) < len(intervals):
        before = len(chosen[-1:])
        first = len(chosen) - before
        window = intervals[first : len(chosen) + WINDOW]
        plan = _solved(window, _rooms(window, longest_hold), weights, left - first, None, stood, chosen[-1:])
        if len(window) == len(intervals):
            return plan
        ends = first + len(window) == len(intervals)
        chosen += plan.choices[before:] if ends else plan.choices[before : before + KEPT]
    return _solved(intervals, _rooms(intervals, longest_hold), weights, left, None, stood, chosen)


def _rooms(intervals: Sequence[Interval], longest_hold: Sequence[float]) -> tuple[float, ...]:
    """Seconds for which each place of these intervals may be held, 0 for all others."""
    used = {place for one in intervals for place in (one.begins, one.ends)}
    return tuple(room if place in used else 0.0 for place, room in enumerate(longest_hold))


def _has_time(one: Interval) -> bool:
    """Whether nothing but waiting can pay in an interval: it runs at its base rate from end to end."""
    return one.mat > 0 and not one.rates and one.idle == 0 and missing(one) == 0


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
    chosen: tuple[Choice, ...] = (),
) -> Plan:
    """The plan of intervals in a row, by the solver; `left` intervals are left with the first of them. The first ones
    are as `chosen` already."""
    model = MilpModel()
    after = range(left, left - len(intervals), -1)
    variables = [
        write_interval(model, one, weights, n, free=wish is not None) for n, one in zip(after, intervals, strict=True)
    ]
    both = list(zip(variables, intervals, strict=True))
    for its, choice in zip(variables, chosen, strict=False):
        fix(model, its, choice)
    stops: dict[int, int] = {}
    for place, longest in enumerate(longest_hold):
        here = [(its.hold_before, one) for its, one in both if one.begins == place]
        here += [(its.hold_after, one) for its, one in both if one.ends == place]
        # Holding more than is missing only to wait for it again never pays, unless a length is wished for.
        most = longest if wish else min(longest, sum(missing(one) for _, one in here))
        if here:
            stands = model.variable(weights.stop, float(most > 0), whole=most > 0)
            model.row([*((number, 1.0) for number, _ in here), (stands, -most)], high=0.0)
            stops[place] = stands
            for beyond, price in weights.dearer:
                least = max(beyond - (0.0 if place else stood), 0.0)
                if most > least:
                    longer = model.variable(price)
                    # Where the picture stands at all; said so, the solver sees at once what half a stop would cost.
                    model.row([*((number, 1.0) for number, _ in here), (longer, -1.0), (stands, -least)], high=0.0)
            if not wish:
                for number, one in here:
                    model.row([(number, 1.0), (stands, -min(longest, missing(one)))], high=0.0)
    for its, one in both if not wish else ():
        write_that_something_is_done(model, its, one, stops)
    moving = [i for i, one in enumerate(intervals) if one.mat > 0]
    for i, j in pairwise(moving):
        write_boundary(model, variables[i], intervals[i], variables[j], intervals[j], weights)
    over = write_length(model, intervals, variables, weights, wish) if wish else -1
    too_long = over if wish and wish.limit else -1
    values = model.solve()
    choices = tuple(choice_of(values, its) for its in variables)
    cost = float(np.dot(model.cost, values)) + model.constant
    return Plan(choices, cost, float(values[too_long]) if too_long >= 0 else 0.0)


def _without_useless_rates(one: Interval, weights: Weights) -> Interval:
    """The interval without the rates that can't pay.

    Where time is left over anyway, slowing could only save the two changes of speed at the ends. It does so only if
    the whole interval is slow."""
    if missing(one) > 0 or one.idle > 0:
        return one
    saved = 2 * (weights.change + FEWER_CHANGES)
    pays = tuple(r for r in one.rates if slowing_price(weights, r, one.base) * one.mat <= saved)
    return replace(one, rates=pays)
