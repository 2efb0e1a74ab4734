"""From readings to proposals: where the picture is fogged, blocked, shaky or stopped, and where nothing happens."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from chapto.document.condition import ConditionKind
from chapto.media.readings import RATE_HERTZ, Curve, Readings

Flags = NDArray[np.bool_]


@dataclass(frozen=True)
class Levels:
    """Where judging draws its lines; seconds are the shortest stretch proposed."""

    fog: float = 0.75
    """Contrast and sharpness both under this share of the file's usual (80th percentile) is fog."""
    fog_seconds: float = 1.5
    cover: float = 0.16
    """Share of the place of the action that stands behind something near."""
    cover_seconds: float = 1.5
    shake: float = 8.0
    """Thousandths of the picture's width between two readings."""
    shake_seconds: float = 2.0
    black: float = 12.0
    """Mean and spread in grey levels under which there is no picture."""
    frozen: float = 0.06
    """Mean change in grey levels under which a picture is a copy of the one before."""
    stop_seconds: float = 1.0
    quiet: float = 0.35
    """Share of the file's median activity under which it counts as a reset or a rest."""
    quiet_seconds: float = 3.0


@dataclass(frozen=True)
class Proposal:
    """A stretch of a file, seconds `start ≤ t < end` into it, and what seems to be the matter."""

    kind: ConditionKind
    start: float
    end: float


def judged(r: Readings, levels: Levels = Levels()) -> tuple[Proposal, ...]:
    """Everything worth a decision in one file, in order of time."""
    if len(r.at) < 3:
        return ()
    stopped = ((r.light < levels.black) & (r.contrast < levels.black)) | (_calm(r.change, 3) < levels.frozen)
    fogged = _fogged(r, levels) & ~stopped
    still = _calm(r.activity, 9) < levels.quiet * float(np.median(r.activity))
    covered = _calm(r.cover, 5) > levels.cover
    found = [
        *_runs(r, ConditionKind.STOPPED, stopped, levels.stop_seconds, join=0.3),
        *_runs(r, ConditionKind.FOGGED, fogged, levels.fog_seconds, join=1.0),
        *_runs(r, ConditionKind.BLOCKED, covered & ~stopped, levels.cover_seconds, join=1.0),
        *_runs(r, ConditionKind.SHAKY, _shaky(r.shake, levels.shake), levels.shake_seconds, join=1.0),
        *_runs(r, ConditionKind.IDLE, still & ~stopped & ~fogged & ~covered, levels.quiet_seconds, join=0.6),
    ]
    return tuple(sorted(found, key=lambda p: (p.start, p.kind)))


def _fogged(r: Readings, levels: Levels) -> Flags:
    def low(curve: Curve) -> Flags:
        return np.asarray(_calm(curve, 5) < levels.fog * float(np.percentile(curve, 80)))

    return np.asarray(low(r.contrast) & low(r.sharpness))


def _shaky(shake: Curve, level: float) -> Flags:
    """Where at least a third of the readings within a second jerk."""
    jerks = (shake > level).astype(np.float32)
    return np.convolve(jerks, np.ones(RATE_HERTZ) / RATE_HERTZ, mode="same") >= 0.3


def _calm(curve: Curve, size: int) -> Curve:
    """The curve without single outliers."""
    from scipy.ndimage import median_filter

    return np.asarray(median_filter(curve, size, mode="nearest"))


def _runs(r: Readings, kind: ConditionKind, flags: Flags, shortest: float, *, join: float) -> list[Proposal]:
    """Stretches where `flags` holds, those less than `join` seconds apart made one, short ones left out."""
    edges = np.flatnonzero(np.diff(np.concatenate([[False], flags, [False]]).astype(np.int8)))
    step = float(np.median(np.diff(r.at)))
    spans: list[list[float]] = []
    for first, end in edges.reshape(-1, 2):
        start = float(r.at[first])
        until = float(r.at[end]) if end < len(r.at) else float(r.at[-1]) + step
        if spans and start - spans[-1][1] <= join:
            spans[-1][1] = until
        else:
            spans.append([start, until])
    return [Proposal(kind, a, b) for a, b in spans if b - a >= shortest]
