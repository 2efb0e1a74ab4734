"""Where the marks of a time ruler stand, whatever clock it shows. Free of Qt."""

from __future__ import annotations

from collections.abc import Iterator
from math import ceil

STEPS = (0.1, 0.2, 0.5, 1, 2, 5, 10, 15, 30, 60, 120, 300, 600, 1200, 3600)
"""Seconds between two marks that read well on a clock."""


def step_for(scale: float, *, apart: float, least: float = 1) -> float:
    """The shortest step, at least `least` seconds, whose marks stand `apart` pixels from one another or more; `scale`
    in pixels a second."""
    return next((s for s in STEPS if s >= least and s * scale >= apart), STEPS[-1])


def marks(start: float, end: float, step: float) -> Iterator[float]:
    """The multiples of `step` from `start` to `end`, both included, in seconds."""
    number = ceil(start / step - 1e-9)
    while number * step <= end + 1e-9:
        yield number * step
        number += 1
