"""A creator's reaction time, from ten presses."""

from __future__ import annotations

from collections.abc import Sequence
from statistics import median

PRESSES = 10
SHORTEST, LONGEST = 0.08, 1.5
"""Seconds: quicker is a guess, slower was not looking."""


def reaction_time(seconds: Sequence[float]) -> float | None:
    """The median of the presses that count, to a hundredth of a second; None when fewer than half of `PRESSES` do."""
    counted = [s for s in seconds if SHORTEST <= s <= LONGEST]
    return round(median(counted), 2) if len(counted) >= PRESSES / 2 else None
