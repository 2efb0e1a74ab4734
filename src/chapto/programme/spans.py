"""Half-open spans, whatever they are counted in."""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from fractions import Fraction
from typing import TypeVar

Place = TypeVar("Place", int, Fraction)


def without(start: Place, end: Place, others: Iterable[tuple[Place, Place]]) -> Iterator[tuple[Place, Place]]:
    """What is left of `start … end` when `others`, in order, are taken out of it."""
    for a, z in others:
        if a < end and z > start:
            if a > start:
                yield start, a
            start = max(start, z)
    if start < end:
        yield start, end
