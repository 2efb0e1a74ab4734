"""What is read in the files of a document for what is drawn: points that are followed, shaking, where it moves."""

from __future__ import annotations

import contextlib
from collections.abc import Callable, Mapping
from dataclasses import dataclass
from fractions import Fraction
from math import ceil, floor
from pathlib import Path
from typing import TypeVar

import numpy as np
from numpy.typing import NDArray

from chapto.bodies.track import Track
from chapto.document.breakdown import Breakdown
from chapto.document.footage import Footage
from chapto.document.mark_kinds import Sticks
from chapto.media.following_two import EVERY, follow_two
from chapto.media.opening import MediaError
from chapto.media.steadying import known_steady, steadied
from chapto.media.still_detail import known_detail, still_detail
from chapto.media.tracks import tracks_of
from chapto.media.where_it_moves import find_action, known_action
from chapto.programme.needed import Needed
from chapto.programme.programme import Programme
from chapto.programme.readings import NOTHING_READ, Action, Readings, Stretch
from chapto.programme.steady import Steady
from chapto.render.media_places import media_places

K = TypeVar("K")
V = TypeVar("V")


@dataclass(frozen=True)
class DrawnOn:
    """What marks are drawn by, and how files are steadied and cropped. `untracked` are anchors that are straight lines
    for now, and files that were not steadied or looked through yet (by id). `troubles` is a sentence for each file that
    could not be read."""

    readings: Readings = NOTHING_READ
    untracked: tuple[str, ...] = ()
    troubles: tuple[str, ...] = ()


def follow_marks(
    b: Breakdown,
    project: Path | None,
    needed: Needed,
    stretches: tuple[Stretch, ...] = (),
    *,
    only_known: bool = False,
    progress: Callable[[float], None] = lambda share: None,
    cancelled: Callable[[], bool] = lambda: False,
) -> DrawnOn:
    """Everything marks and crops need of the files; `needed` says for each anchor from when to when, `stretches` where
    it has to be known what moves. Raises `Cancelled` when stopped."""
    if not b.anchors and not stretches and not any(c.steady for c in b.footage):
        return DrawnOn()
    if only_known:
        return _known(b, needed, stretches)
    footage, (places, _) = {c.id: c for c in b.footage}, media_places(b, project)
    tracks: dict[str, Track] = {}
    details: dict[str, NDArray[np.float32]] = {}
    steady: dict[str, Steady] = {}
    action: dict[Stretch, Action] = {}
    troubles = []
    for file in sorted({a.footage for a in b.anchors}):
        mine = [a for a in b.anchors if a.footage == file]
        try:
            found, _ = tracks_of(mine, footage, places, needed, progress=progress, cancelled=cancelled)
            if file in places:
                details[file] = still_detail(places[file], footage[file].fingerprint, cancelled=cancelled)
        except MediaError as error:
            troubles.append(str(error))
            found, _ = tracks_of(mine, footage, {}, needed, only_known=True)
        tracks.update(found)
    for c in (c for c in b.footage if c.id in places):
        try:
            if c.steady:
                steady[c.id] = steadied(places[c.id], c.fingerprint, progress=progress, cancelled=cancelled)
            for s in (s for s in stretches if s.footage == c.id):
                action[s] = find_action(places[c.id], c.fingerprint, *_seconds(c, s), cancelled=cancelled)
        except MediaError as error:
            troubles.append(str(error))
    return DrawnOn(Readings(tracks, details, steady, action), (), tuple(troubles))


def follow_shown(
    b: Breakdown,
    project: Path | None,
    programme: Programme,
    tracks: Mapping[str, Track],
    *,
    cancelled: Callable[[], bool] = lambda: False,
) -> dict[str, NDArray[np.float64]]:
    """Where the two are in every file that a programme shows, over what it shows of it: where points were put on them
    (`tracks` by anchor id) it is known, elsewhere it is seen. A file that can't be read is left out: its pictures stay
    whole. Raises `Cancelled` when stopped."""
    places, _ = media_places(b, project)
    found = {}
    for c in (c for c in b.footage if c.id in places):
        mats = [m for p in programme.passages if p.footage == c.id for m in (p.mat_in, p.mat_out)]
        if mats:
            span = _seconds(c, Stretch(c.id, Fraction(floor(min(mats))), Fraction(ceil(max(mats)))))
            with contextlib.suppress(MediaError):
                points = _points_on_the_two(b, c, tracks, *span)
                found[c.id] = follow_two(places[c.id], c.fingerprint, *span, points, cancelled=cancelled)
    return found


def _points_on_the_two(
    b: Breakdown, c: Footage, tracks: Mapping[str, Track], start: float, end: float
) -> NDArray[np.float64]:
    """(n, 3) second, x, y: the keys of points on bodies, and between them where they were followed to."""
    rows = []
    for a in (a for a in b.anchors if a.footage == c.id and a.sticks is Sticks.BODY):
        keys = [(float(c.media_time(k.mat)), k) for k in a.keys]
        rows += [(at, k.x, k.y) for at, k in keys if k.seen]
        track = tracks.get(a.id)
        for at in np.arange(keys[0][0], keys[-1][0], EVERY) if track is not None and track.measured else ():
            place = track.place(float(at)) if track is not None else None
            if place is not None and not place.hidden and place.doubt < 1:
                rows.append((float(at), place.x, place.y))
    found = np.array(sorted(rows)).reshape(-1, 3)
    return found[(found[:, 0] >= start) & (found[:, 0] <= end)]


def _known(b: Breakdown, needed: Needed, stretches: tuple[Stretch, ...]) -> DrawnOn:
    """What was found before, and what was not."""
    footage = {c.id: c for c in b.footage}
    lines, untracked = tracks_of(b.anchors, footage, {}, needed, only_known=True)
    details = {file: known_detail(footage[file].fingerprint) for file in sorted({a.footage for a in b.anchors})}
    missing = tuple(a.id for a in b.anchors if details[a.footage] is None)
    steady = {c.id: known_steady(c.fingerprint) for c in b.footage if c.steady}
    missing += tuple(file for file, found in steady.items() if found is None)
    action = {s: known_action(footage[s.footage].fingerprint, *_seconds(footage[s.footage], s)) for s in stretches}
    missing += tuple(s.footage for s, found in action.items() if found is None)
    known = Readings(lines, _there(details), _there(steady), _there(action))
    return DrawnOn(known, untracked or missing)


def _there(found: dict[K, V | None]) -> dict[K, V]:
    return {k: v for k, v in found.items() if v is not None}


def _seconds(c: Footage, stretch: Stretch) -> tuple[float, float]:
    """The seconds of its file that a stretch takes."""
    start, end = (min(max(c.media_time(at), Fraction(0)), c.duration) for at in (stretch.start, stretch.end))
    return float(start), float(end)
