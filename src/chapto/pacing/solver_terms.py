"""What the solver is asked and what it answers, and what it pays beyond a house style's points."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

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
