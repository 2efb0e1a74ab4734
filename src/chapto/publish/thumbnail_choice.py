"""Which frames could stand for the video: sharp, clear, with much of the two in them, and telling."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from fractions import Fraction

import numpy as np

PROPOSED = 6
APART = 1.5
"""Mat seconds by which two proposals differ at least."""
DARK, BRIGHT = 40.0, 225.0
"""Mean grey (of 255) outside of which a picture says little when it is small."""
SHARP, BODIES, MARKED, TELLING = 1.0, 1.3, 0.5, 0.6
"""How much sharpness, the two in view, marks, and a moment that is spoken of count."""


@dataclass(frozen=True)
class Candidate:
    """A frame of footage (by id) at a mat time. `sharpness` is the variance of its edges, `bodies` the share of the
    picture that the two take (0…1). `marks` is how many are drawn on it, `tied` whether something said points there,
    `light` its mean grey. One that is `covered` has a face hidden or a view blocked."""

    footage: str
    at: Fraction
    sharpness: float
    bodies: float
    marks: int = 0
    tied: bool = False
    light: float = 128.0
    covered: bool = False


def proposals(candidates: Sequence[Candidate], count: int = PROPOSED) -> tuple[Candidate, ...]:
    """The best of them, best first, none too near another; covered ones only where there are no others."""
    clear = [c for c in candidates if not c.covered and DARK <= c.light <= BRIGHT] or list(candidates)
    if not clear:
        return ()
    sharp = _ranked([c.sharpness for c in clear])
    bodies = _ranked([c.bodies for c in clear])
    value = {
        id(c): SHARP * s + BODIES * b + MARKED * (c.marks > 0) + TELLING * c.tied
        for c, s, b in zip(clear, sharp, bodies, strict=True)
    }
    found: list[Candidate] = []
    for c in sorted(clear, key=lambda c: (-value[id(c)], c.at)):
        if all(c.footage != x.footage or abs(c.at - x.at) >= APART for x in found):
            found.append(c)
    return tuple(found[:count])


def _ranked(values: list[float]) -> list[float]:
    """Each value's place among all, 0…1."""
    order = np.argsort(np.argsort(np.array(values), kind="stable"), kind="stable")
    return [float(x) for x in order / max(len(values) - 1, 1)]
