"""Bringing all files of a breakdown onto the clock of the first."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from datetime import datetime
from fractions import Fraction

import numpy as np
from msgspec.structs import replace
from numpy.typing import NDArray
from scipy.ndimage import uniform_filter1d

from chapto.document.footage import Footage
from chapto.errors import Cancelled
from chapto.media.readings import RATE_HERTZ, Readings
from chapto.media.sync import NOT_FOUND, TRUSTED, Signal, Synced, coarse_places, sync_sounds

EXACT = 10**6
"""Offsets are kept to a microsecond, drifts to a thousandth of a millionth."""
CHAIN_GAP = 2.5
"""Seconds that the clocks in split files may jump between them: recorders write whole seconds (common practice)."""


@dataclass(frozen=True)
class Placement:
    """Where a file lies: `how` is "sound", "picture" or "time stamps"; a `sentence` says what was found."""

    footage: str
    offset: Fraction
    drift: Fraction
    confidence: float
    how: str
    sentence: str

    @property
    def is_trusted(self) -> bool:
        """Whether the file may be moved there."""
        return bool(self.how)


def sync_pictures(first: Readings, second: Readings) -> Synced:
    """Where `second` lies on the clock of `first` by how their activity rises and falls; good to about a fifth of a
    second, never drift, and never more than 0.7 sure."""
    places = coarse_places(_liveliness(first), _liveliness(second), RATE_HERTZ, weight=0.0)
    if not places or min(len(first.at), len(second.at)) < 20 * RATE_HERTZ:
        return NOT_FOUND
    height, lag = places[0]
    others = [h for h, other in places[1:] if abs(other - lag) > 1.0]
    distinct = height / max([*others, 1e-9])
    confidence = 0.7 * float(np.clip((height - 4) / 2, 0, 1) * np.clip((distinct - 1) / 0.3, 0, 1))
    return Synced(lag, 0.0, confidence, min(distinct, 99.0), ())


def _liveliness(r: Readings) -> NDArray[np.float32]:
    """Activity as the eye takes it, (1, n): its logarithm against that of the quarter minute round it."""
    level = uniform_filter1d(np.log(r.activity + 0.004), 3)
    level = level - uniform_filter1d(level, 15 * RATE_HERTZ)
    return np.asarray(np.clip(level / (level.std() + 1e-9), -3, 3)[None, :], dtype=np.float32)


def chained(files: Mapping[str, tuple[datetime | None, Fraction]]) -> dict[str, Fraction]:
    """Seconds from the first file of one recorder to the start of each, by id.

    `files` gives each file's time stamp and duration. Files that follow one another within `CHAIN_GAP` are taken to
    be one recording split up, the next beginning exactly where the last ended. Files without a stamp are left out.
    """
    stamped = sorted((when, name) for name, (when, _) in files.items() if when is not None)
    found: dict[str, Fraction] = {}
    for i, (when, name) in enumerate(stamped):
        if i == 0:
            found[name] = Fraction(0)
            continue
        before, previous = stamped[i - 1]
        length = files[previous][1]
        gap = Fraction((when - before).total_seconds()) - length
        found[name] = found[previous] + length + (Fraction(0) if abs(gap) <= CHAIN_GAP else gap)
    return found


def one_clock(
    footage: tuple[Footage, ...],
    sounds: Mapping[str, Signal],
    pictures: Mapping[str, Readings],
    *,
    stamps: Mapping[str, datetime | None] | None = None,
    progress: Callable[[float], None] = lambda share: None,
    cancelled: Callable[[], bool] = lambda: False,
) -> tuple[Placement, ...]:
    """A placement for every file but the first, each found against files placed before it.

    A file that fits none of them well enough follows the other files of its recorder by their time `stamps`; one
    without such a file keeps its place, and its placement says so and is not trusted.
    """
    placed = {footage[0].id: footage[0]} if footage else {}
    waiting = list(footage[1:])
    best: dict[str, tuple[Synced, Footage, str]] = {}
    tried: set[tuple[str, str]] = set()
    total = max(len(footage) * (len(footage) - 1) // 2, 1)
    while waiting:
        for c in waiting:
            for other in list(placed.values()):
                if (other.id, c.id) in tried:
                    continue
                if cancelled():
                    raise Cancelled
                tried.add((other.id, c.id))
                progress(len(tried) / total)
                for found, how in _both_ways(other, c, sounds, pictures, cancelled):
                    if found.confidence > best.get(c.id, (NOT_FOUND, c, ""))[0].confidence:
                        best[c.id] = found, other, how
        sure = [c for c in waiting if c.id in best and best[c.id][0].is_trusted]
        if not sure:
            break
        chosen = max(sure, key=lambda c: best[c.id][0].confidence)
        found, other, _ = best[chosen.id]
        offset, drift = _on_mat(found, other)
        placed[chosen.id] = replace(chosen, offset=offset, drift=drift)
        waiting.remove(chosen)
    by_stamp = {c.id: moved for c in waiting if (moved := _by_stamp(c, footage, placed, stamps or {})) is not None}
    return tuple(_stamped(c, by_stamp[c.id]) if c.id in by_stamp else _placement(c, placed, best) for c in footage[1:])


def _both_ways(
    first: Footage,
    second: Footage,
    sounds: Mapping[str, Signal],
    pictures: Mapping[str, Readings],
    cancelled: Callable[[], bool],
) -> list[tuple[Synced, str]]:
    if first.id in sounds and second.id in sounds and len(sounds[first.id]) and len(sounds[second.id]):
        return [(sync_sounds(sounds[first.id], sounds[second.id], cancelled=cancelled), "sound")]
    if first.id in pictures and second.id in pictures:
        return [(sync_pictures(pictures[first.id], pictures[second.id]), "picture")]
    return []


def _on_mat(found: Synced, other: Footage) -> tuple[Fraction, Fraction]:
    rate = 1 + other.drift
    offset = other.offset + rate * Fraction(round(found.offset * EXACT), EXACT)
    drift = rate * (1 + Fraction(round(found.drift * EXACT * 1000), EXACT * 1000)) - 1
    return Fraction(round(offset * EXACT), EXACT), Fraction(round(drift * EXACT * 1000), EXACT * 1000)


def _by_stamp(
    c: Footage, footage: tuple[Footage, ...], placed: Mapping[str, Footage], stamps: Mapping[str, datetime | None]
) -> Footage | None:
    family = {x.id: (stamps.get(x.id), x.duration) for x in footage if x.camera_name == c.camera_name}
    places = chained(family)
    base = next((placed[x] for x in places if x in placed), None)
    if base is None or c.id not in places:
        return None
    return replace(c, offset=base.mat_at(places[c.id] - places[base.id]), drift=base.drift)


def _stamped(c: Footage, moved: Footage) -> Placement:
    sentence = f"“{c.name}” follows the other files of {c.camera_name} by their time stamps."
    return Placement(c.id, moved.offset, moved.drift, TRUSTED, "time stamps", sentence)


def _placement(c: Footage, placed: Mapping[str, Footage], best: Mapping[str, tuple[Synced, Footage, str]]) -> Placement:
    if c.id not in placed:
        sentence = f"“{c.name}” was not moved: nothing in it clearly fits the other files. Line it up by hand."
        return Placement(c.id, c.offset, c.drift, 0.0, "", sentence)
    found, other, how = best[c.id]
    moved = placed[c.id]
    sentence = f"“{c.name}” lies on “{other.name}” by its {how}, {found.confidence:.0%} sure."
    return Placement(c.id, moved.offset, moved.drift, found.confidence, how, sentence)
