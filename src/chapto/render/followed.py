"""The points of a document's marks, followed through its files."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from pathlib import Path

import numpy as np
from numpy.typing import NDArray

from chapto.bodies.track import Track
from chapto.document.breakdown import Breakdown
from chapto.media.opening import MediaError
from chapto.media.steadying import known_steady, steadied
from chapto.media.still_detail import known_detail, still_detail
from chapto.media.tracks import tracks_of
from chapto.programme.needed import Needed
from chapto.programme.readings import NOTHING_READ, Readings
from chapto.programme.steady import Steady
from chapto.render.media_places import media_places


@dataclass(frozen=True)
class DrawnOn:
    """What marks are drawn by, and how files are steadied. `untracked` are anchors that are straight lines for now, and
    files that were not steadied yet (by id); `troubles` is a sentence for each file that could not be read."""

    readings: Readings = NOTHING_READ
    untracked: tuple[str, ...] = ()
    troubles: tuple[str, ...] = ()


def follow_marks(
    b: Breakdown,
    project: Path | None,
    needed: Needed,
    *,
    only_known: bool = False,
    progress: Callable[[float], None] = lambda share: None,
    cancelled: Callable[[], bool] = lambda: False,
) -> DrawnOn:
    """Everything marks need of the files; `needed` says for each anchor from when to when. Raises `Cancelled` when
    stopped."""
    shaky = [c for c in b.footage if c.steady]
    if not b.anchors and not shaky:
        return DrawnOn()
    footage = {c.id: c for c in b.footage}
    used = sorted({a.footage for a in b.anchors})
    if only_known:
        lines, untracked = tracks_of(b.anchors, footage, {}, needed, only_known=True)
        known = {file: known_detail(footage[file].fingerprint) for file in used}
        missing = tuple(a.id for a in b.anchors if known[a.footage] is None)
        calm = {c.id: calmed for c in shaky if (calmed := known_steady(c.fingerprint)) is not None}
        missing += tuple(c.id for c in shaky if c.id not in calm)
        there = {k: v for k, v in known.items() if v is not None}
        return DrawnOn(Readings(lines, there, calm), untracked or missing)
    places, _ = media_places(b, project)
    tracks: dict[str, Track] = {}
    details: dict[str, NDArray[np.float32]] = {}
    troubles = []
    for file in used:
        mine = [a for a in b.anchors if a.footage == file]
        try:
            found, _ = tracks_of(mine, footage, places, needed, progress=progress, cancelled=cancelled)
            if file in places:
                details[file] = still_detail(places[file], footage[file].fingerprint, cancelled=cancelled)
        except MediaError as error:
            troubles.append(str(error))
            found, _ = tracks_of(mine, footage, {}, needed, only_known=True)
        tracks.update(found)
    steady: dict[str, Steady] = {}
    for c in shaky:
        try:
            if c.id in places:
                steady[c.id] = steadied(places[c.id], c.fingerprint, progress=progress, cancelled=cancelled)
        except MediaError as error:
            troubles.append(str(error))
    return DrawnOn(Readings(tracks, details, steady), (), tuple(troubles))
