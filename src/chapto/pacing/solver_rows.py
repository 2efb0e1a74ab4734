"""Intervals written down as variables and rows of a mixed-integer linear programme, and read back."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from chapto.pacing.milp_model import MilpModel
from chapto.pacing.solver_terms import (
    BROKEN,
    CLOSE,
    DEARER_PER_FOLLOWER,
    FEWER_CHANGES,
    HOLD_BEFORE_RATHER,
    SHORTEST_SKIP,
    SHORTEST_SLOW,
    SILENT,
    TOO_FAR,
    TOO_LONG,
    Choice,
    Interval,
    Wish,
)
from chapto.pacing.styles import Weights


@dataclass(slots=True)
class Variables:
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


def slowing_price(weights: Weights, rate: float, base: float) -> float:
    """Points for a mat second shown at `rate` instead of `base`: for what it gains, the more the slower."""
    return weights.slow * (1 / rate - 1 / base) * (2 - rate / base)


def missing(one: Interval) -> float:
    """Seconds the picture lacks at most, when it runs and what is idle in it is skipped."""
    return max(one.voice - (one.mat - one.idle) / one.base, 0.0)


def _most_slowed(one: Interval, rate: float, weights: Weights, *, free: bool) -> float:
    """The most mat seconds that slowing can be good for.

    More than gains what is missing pays only if the whole interval is slow, for the two changes of speed this saves.
    A wished length, or something to skip, leaves it `free`."""
    d, gain = one.mat, 1 / rate - 1 / one.base
    enough = min(d, max(missing(one) / gain, min(SHORTEST_SLOW, d)))
    if free or one.idle > 0:
        return d
    too_much = (d - enough) * (slowing_price(weights, rate, one.base) + weights.pause / 4 * gain)
    return d if too_much <= 2 * (weights.change + FEWER_CHANGES) else enough


def write_interval(model: MilpModel, one: Interval, weights: Weights, left: int, *, free: bool) -> Variables:
    """Write one interval down. `left` intervals, itself included, have late words if its own are late."""
    d = one.mat
    run = model.variable(high=d)
    slow = [model.variable(slowing_price(weights, r, one.base), high=d) for r in one.rates]
    usable = d > 0
    on = [model.variable(high=float(usable), whole=True) for _ in one.rates]
    starts = [model.variable(high=1) for _ in one.rates]
    starts_running = model.variable(high=1, whole=bool(one.rates))
    its = Variables(
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


def write_that_something_is_done(model: MilpModel, its: Variables, one: Interval, stops: dict[int, int]) -> None:
    """Say that where words are left over, the picture is slowed or held, or they are late or hurried.

    It follows from the other rows; the solver is quicker by half when it is told (measured)."""
    lacks = one.voice - one.mat / one.base
    if lacks > CLOSE and not one.tail:
        held = [(stops[place], lacks) for place in {one.begins, one.ends} if place in stops]
        model.row([(its.hold_missing, 1.0), (its.hurried, 1.0), *((used, lacks) for used in its.on), *held], low=lacks)


def write_boundary(
    model: MilpModel, one: Variables, before: Interval, other: Variables, after: Interval, weights: Weights
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


def write_length(
    model: MilpModel, intervals: Sequence[Interval], variables: list[Variables], weights: Weights, wish: Wish
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


def choice_of(values: NDArray[np.float64], its: Variables) -> Choice:
    on = [i for i, used in enumerate(its.on) if values[used] > 0.5 and values[its.slow[i]] > CLOSE]
    rate = on[0] if on else -1
    slowed = float(values[its.slow[rate]]) if on else 0.0
    numbers = (
        its.skip, its.hold_before, its.hold_after, its.wait, its.beyond, its.hold_missing, its.silence_over,
        its.hurried, its.lingered,
    )  # fmt: skip
    return Choice(rate, slowed, *(float(values[n]) if values[n] > CLOSE else 0.0 for n in numbers))


def fix(model: MilpModel, its: Variables, choice: Choice) -> None:
    """Let an interval be as it was chosen, but for rounding."""
    values = {
        its.skip: choice.skipped, its.hold_before: choice.held_before, its.hold_after: choice.held_after,
        its.wait: choice.waited, its.beyond: choice.beyond, its.hold_missing: choice.hold_missing,
        its.silence_over: choice.silence_over, its.hurried: choice.hurried, its.lingered: choice.lingered,
    }  # fmt: skip
    values |= {number: choice.slowed if i == choice.rate else 0.0 for i, number in enumerate(its.slow)}
    for number, value in values.items():
        model.low[number], model.high[number] = max(value - 2 * CLOSE, 0.0), value + 2 * CLOSE
    for i, number in enumerate(its.on):
        model.low[number] = model.high[number] = float(i == choice.rate)
