"""The stretch of mat time in which a mark's points live, magnified. Free of Qt."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from fractions import Fraction
from itertools import pairwise

import numpy as np

from chapto.bodies.track import Track
from chapto.document.breakdown import Breakdown
from chapto.document.footage import Footage
from chapto.document.mark_kinds import RULES
from chapto.document.marks import Anchor, Mark
from chapto.document.people import Side
from chapto.programme.figures_at import Tracks
from chapto.programme.programme import Programme

ROUND = 2.5
"""Mat seconds shown beyond the first and the last key."""
STEP = 1 / 30
NEAR = Fraction(1, 100)
"""Mat seconds from a key within which its picture is the one that is on show."""
MOST_ROWS = 14


@dataclass(frozen=True)
class Thread:
    """One point over the stretch: its keys (mat second, whether it is seen from there on), and pieces of its thread:
    from and to (mat seconds), how frayed (0…1), whether it is open because the point is hidden."""

    anchor: str
    name: str
    side: Side | None
    keys: tuple[tuple[float, bool], ...]
    pieces: tuple[tuple[float, float, float, bool], ...]


@dataclass(frozen=True)
class Stretch:
    """Mat seconds `start … end` and the threads in it; `shown` is when the mark is on the screen."""

    start: float
    end: float
    threads: tuple[Thread, ...]
    shown: tuple[tuple[float, float], ...] = ()


def stretch_of(
    b: Breakdown,
    anchors: tuple[Anchor, ...],
    tracks: Tracks,
    c: Footage | None,
    shown: tuple[tuple[float, float], ...],
    now: Fraction,
    mark: Mark | None = None,
) -> Stretch:
    """What the strip shows of a mark's points; round the playhead where there are none."""
    keys = [float(k.mat) for a in anchors for k in a.keys]
    times = [*keys, *(t for span in shown for t in span)] or [float(now)]
    start, end = max(min(times) - ROUND, 0.0), max(times) + ROUND
    some = anchors[:MOST_ROWS] if c is not None else ()
    threads = tuple(_thread(a, _name(b, a, mark, i), tracks.get(a.id), c) for i, a in enumerate(some) if c is not None)
    return Stretch(start, end, threads, shown)


def shown_of(p: Programme, mark: str) -> tuple[tuple[float, float], ...]:
    """From which mat second to which a mark (by id) is on the screen as the large picture."""
    return tuple(
        (float(p.time_map.mat_at(m.start)), float(p.time_map.mat_at(m.end - 1)) + float(1 / p.fps))
        for m in p.marks
        if m.mark.id == mark and p.time_map.passage_at(m.start).footage == m.footage
    )


def key_beside(anchors: Iterable[Anchor], mat: Fraction, by: int) -> Fraction | None:
    """The mat time of the nearest key after a mat time, or before it where `by` is below 0."""
    times = [k.mat for a in anchors for k in a.keys]
    if by > 0:
        return min((t for t in times if t > mat + NEAR), default=None)
    return max((t for t in times if t < mat - NEAR), default=None)


def anchors_of(b: Breakdown, mark: Mark | None, figure: str) -> tuple[Anchor, ...]:
    """The points of a mark or a figure, in their order."""
    by_id = {a.id: a for a in b.anchors}
    ids: tuple[str, ...] = mark.anchors if mark is not None else ()
    whole = figure or (mark.figure if mark is not None else "")
    found = next((f for f in b.figures if f.id == whole), None)
    if found is not None:
        ids = (*ids, *(a for a in found.anchors if a not in ids))
    return tuple(by_id[i] for i in ids if i in by_id)


def _name(b: Breakdown, a: Anchor, mark: Mark | None, number: int) -> str:
    """What a point is: its joint, else its role in the mark."""
    if a.joint is not None or mark is None or a.id not in mark.anchors:
        return str(a.joint or a.sticks)
    return RULES[mark.kind].role(number).format(first=b.first.name, second=b.second.name)


def _thread(a: Anchor, name: str, track: Track | None, c: Footage) -> Thread:
    keys = tuple((float(k.mat), k.seen) for k in a.keys)
    if track is None or not len(track.at):
        return Thread(a.id, name, a.side, keys, ())
    edge = c.mat_at(Fraction(0))
    mats = float(edge) + (1 + float(c.drift)) * track.at
    doubt = np.clip(np.asarray(track.doubt, dtype=float), 0, 2) / 2
    level = np.round(doubt * 3) / 3
    changes = np.flatnonzero((np.diff(level) != 0) | (np.diff(track.hidden.astype(np.int8)) != 0)) + 1
    edges = [0, *changes.tolist(), len(mats)]
    last = min(float(edge) + track.ends, float(mats[-1]) + STEP)
    pieces = []
    for one, other in pairwise(edges):
        end = float(mats[other]) if other < len(mats) else last
        pieces.append((float(mats[one]), end, float(level[one]), bool(track.hidden[one])))
    return Thread(a.id, name, a.side, keys, tuple(pieces))
