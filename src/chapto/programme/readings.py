"""What was read from the pictures and is handed to the compiler, which reads no disk itself."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from fractions import Fraction

import numpy as np
from numpy.typing import NDArray

from chapto.bodies.track import Track
from chapto.programme.steady import Steady


@dataclass(frozen=True, slots=True, order=True)
class Stretch:
    """Mat seconds `start ≤ t < end` of a file (by footage), all shown in one place."""

    footage: str
    start: Fraction
    end: Fraction


@dataclass(frozen=True, slots=True)
class Action:
    """The box of the upright picture, as it was filmed, in which something moves: its sides, 0…1."""

    left: float
    top: float
    right: float
    bottom: float


EVERYWHERE = Action(0.0, 0.0, 1.0, 1.0)


@dataclass(frozen=True)
class Readings:
    """`tracks` says where the points of marks are (by anchor). `details` says where the pictures of a file (by footage)
    are full of what stands still: rows and columns of the upright picture as it was filmed, 0…1. `steady` says how the
    pictures of a steadied file (by footage) are moved. `action` says where it moves in stretches that are shown in a
    place of another shape. `two` says where the two are (by footage) for a narrow picture that follows them: rows of
    second of the file, left, top, right, foot of the upright picture, 0…1."""

    tracks: Mapping[str, Track] = field(default_factory=dict)
    details: Mapping[str, NDArray[np.float32]] = field(default_factory=dict)
    steady: Mapping[str, Steady] = field(default_factory=dict)
    action: Mapping[Stretch, Action] = field(default_factory=dict)
    two: Mapping[str, NDArray[np.float64]] = field(default_factory=dict)


NOTHING_READ = Readings()
