"""What the coverage chart shows and where, worked out from document and findings. Free of Qt.

Long stretches in which nothing was filmed are folded, so that a bout and a roll from another day stand side by side.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from fractions import Fraction
from itertools import pairwise

import numpy as np

from chapto.document.breakdown import Breakdown
from chapto.document.condition import Condition, ConditionKind
from chapto.document.footage import Footage, cameras_of
from chapto.media.judging import Proposal
from chapto.programme.angles import AngleSpan, AngleTrack

LONGEST_GAP = 45.0
"""Mat seconds without footage that are still drawn at their true length."""
FOLD = 0.035
"""Length of a folded gap, as a share of all that was filmed."""


@dataclass(frozen=True, slots=True)
class Fold:
    """A stretch of mat time, `start` to `end`, drawn as a narrow break."""

    start: float
    end: float


class MatAxis:
    """Mat seconds to places along the chart and back: seconds, but for folded gaps. `length` is the last place."""

    def __init__(self, footage: tuple[Footage, ...]) -> None:
        runs: list[list[float]] = []
        for start, end in sorted((float(c.mat_in), float(c.mat_out)) for c in footage):
            if runs and start - runs[-1][1] <= LONGEST_GAP:
                runs[-1][1] = max(runs[-1][1], end)
            else:
                runs.append([start, end])
        self.runs = tuple((a, b) for a, b in runs) or ((0.0, 60.0),)
        self.folds = tuple(Fold(a[1], b[0]) for a, b in pairwise(self.runs))
        filmed = sum(b - a for a, b in self.runs)
        places, at = [], 0.0
        for a, b in self.runs:
            places += [at, at + b - a]
            at = places[-1] + FOLD * filmed
        self.length = places[-1]
        self._places = np.array(places)
        self._mats = np.array([edge for run in self.runs for edge in run])

    def place(self, mat: float) -> float:
        """Where a mat time lies."""
        return float(np.interp(mat, self._mats, self._places))

    def mat(self, place: float) -> float:
        """The mat time at a place."""
        return float(np.interp(place, self._places, self._mats))


@dataclass(frozen=True, slots=True)
class Stretch:
    """A found or decided stretch on the chart: mat seconds, what it is, and the decision (None: still open)."""

    footage: str
    kind: ConditionKind
    start: float
    end: float
    decision: Condition | None = None
    proposal: Proposal | None = None

    @property
    def key(self) -> tuple[str, str, float]:
        """Tells equal stretches."""
        return (self.footage, self.kind.value, round(self.start, 3))


@dataclass(frozen=True, slots=True)
class Lane:
    """One camera: its number and name, its files, and what was found in them."""

    number: int
    camera: str
    files: tuple[Footage, ...]
    stretches: tuple[Stretch, ...]


@dataclass(frozen=True)
class ChartModel:
    """The whole chart."""

    axis: MatAxis
    lanes: tuple[Lane, ...]
    angles: tuple[AngleSpan, ...]

    @property
    def open_stretches(self) -> tuple[Stretch, ...]:
        """What waits for a decision, by time."""
        every = [s for lane in self.lanes for s in lane.stretches if s.decision is None]
        return tuple(sorted(every, key=lambda s: s.start))

    def used(self, footage_id: str) -> tuple[AngleSpan, ...]:
        """When the picture of a file is used."""
        return tuple(a for a in self.angles if a.footage.id == footage_id)


def chart_model(
    b: Breakdown, track: AngleTrack, proposals: Callable[[Footage], tuple[Proposal, ...]]
) -> ChartModel:  # fmt: skip
    """The chart of `b`; `proposals` gives what waits for a decision in a file. What was thrown away is not shown."""
    lanes = []
    for number, camera in enumerate(cameras_of(b.footage), 1):
        files = tuple(c for c in b.footage if c.camera_name == camera)
        stretches = [s for c in files for s in (*_decided(b, c), *_open(c, proposals(c)))]
        lanes.append(Lane(number, camera, files, tuple(sorted(stretches, key=lambda s: s.start))))
    return ChartModel(MatAxis(b.footage), tuple(lanes), track.spans)


def _decided(b: Breakdown, c: Footage) -> list[Stretch]:
    return [
        Stretch(c.id, x.kind, float(c.mat_at(x.start)), float(c.mat_at(x.end)), decision=x)
        for x in b.conditions
        if x.footage == c.id and x.accepted
    ]


def _open(c: Footage, found: tuple[Proposal, ...]) -> list[Stretch]:
    return [
        Stretch(c.id, p.kind, float(c.mat_at(_exact(p.start))), float(c.mat_at(_exact(p.end))), proposal=p)
        for p in found
    ]


def _exact(seconds: float) -> Fraction:
    return Fraction(round(seconds * 1000), 1000)
