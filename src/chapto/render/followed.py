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
from chapto.media.still_detail import known_detail, still_detail
from chapto.media.tracks import tracks_of
from chapto.programme.needed import Needed
from chapto.programme.readings import NOTHING_READ, Readings
from chapto.render.media_places import media_places


@dataclass(frozen=True)
class DrawnOn:
    """What marks are drawn by. `untracked` are anchors (by id) that are straight lines for now. `troubles` is a
    sentence for each file that could not be read."""

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
    if not b.anchors:
        return DrawnOn()
    footage = {c.id: c for c in b.footage}
    used = sorted({a.footage for a in b.anchors})
    if only_known:
        lines, untracked = tracks_of(b.anchors, footage, {}, needed, only_known=True)
        known = {file: known_detail(footage[file].fingerprint) for file in used}
        missing = tuple(a.id for a in b.anchors if known[a.footage] is None)
        there = {k: v for k, v in known.items() if v is not None}
        return DrawnOn(Readings(lines, there), untracked or missing)
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
    return DrawnOn(Readings(tracks, details), (), tuple(troubles))
