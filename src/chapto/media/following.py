"""Following points through a stretch of footage, from key to key.

Each stretch between two keys is followed forward from the first and back from the second. Both are blended by how far
they can be trusted. Blend and limits were measured on the demo footage, against where its joints really are.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from chapto.errors import Cancelled
from chapto.media.flow import LOST, likeness, patch_at, step
from chapto.media.track_pictures import TrackPictures

Floats = NDArray[np.float32]
OTHER_COLOUR = 12.0
"""Difference (CIE 1976) from a key's colour at which another thing is in sight."""
BAD_ERROR = 3.0
"""Pixels of error at which a point was lost."""
APART, UNSURE, UNLIKE = 6.0, 1.5, 0.4
"""Doubt: pixels between cluster and single point, pixels of error, likeness to the key."""
A_FRAME = 0.02
"""Error that every picture adds, however well it went."""
PLAIN = 2.0
"""Pixels of standard error at the far end of a stretch that was followed without any miss."""
GONE, LESS_ALIKE = 0.42, 0.6
"""Likeness to the key under which a point is lost, and under which it is lost if colour or error fail too; above that
they alone mean nothing, since shade and light change."""
TEMPLATE = 31
"""Pixels of the patch of a key that is looked for again."""


@dataclass(frozen=True)
class Piece:
    """What is to be followed: the pictures `first` to `last` (both included). `start` and `end` are places in pixels
    at these two, at least one of them known."""

    first: int
    last: int
    start: tuple[float, float] | None = None
    end: tuple[float, float] | None = None


@dataclass(frozen=True)
class Followed:
    """A point in the pictures of its piece: places in pixels (n, 2), `doubt` (doubtful from 1 on) and `hidden`, (n,)
    each. In a piece with one key the point is lost from picture `lost` of it on (or before it, seen from its end)."""

    places: Floats
    doubt: Floats
    hidden: NDArray[np.bool_]
    lost: int | None = None


class _Way:
    """One piece followed in one direction: (n, …) in the order of the pictures."""

    def __init__(self, piece: Piece) -> None:
        n = piece.last - piece.first + 1
        self.places = np.zeros((n, 2), np.float32)
        self.alone = np.zeros((n, 2), np.float32)
        self.error = np.zeros(n, np.float32)
        self.colour = np.zeros(n, np.float32)
        self.alike = np.ones(n, np.float32)


def follow(
    pictures: TrackPictures,
    pieces: Sequence[Piece],
    *,
    progress: Callable[[float], None] = lambda share: None,
    cancelled: Callable[[], bool] = lambda: False,
) -> list[Followed]:
    """Follow every piece. Raises `Cancelled` when stopped, and `MediaError` when the file can't be read."""
    ahead: list[_Way | None] = [None] * len(pieces)
    back: list[_Way | None] = [None] * len(pieces)
    total = sum(p.last - p.first for p in pieces) * 2 or 1
    done = 0

    def went(count: int) -> None:
        nonlocal done
        done += count
        progress(min(done / total, 1.0))
        if cancelled():
            raise Cancelled

    for group in _together(pieces):
        forward = [i for i in group if pieces[i].start is not None]
        backward = [i for i in group if pieces[i].end is not None]
        first, last = min(pieces[i].first for i in group), max(pieces[i].last for i in group)
        _sweep(pictures, pieces, forward, ahead, range(first, last), 1, went)
        _sweep(pictures, pieces, backward, back, range(last, first, -1), -1, went)
    return [_blended(piece, a, b) for piece, a, b in zip(pieces, ahead, back, strict=True)]


def _together(pieces: Sequence[Piece]) -> list[list[int]]:
    """Pieces whose pictures overlap, by number."""
    groups: list[list[int]] = []
    reach = -1
    for i in sorted(range(len(pieces)), key=lambda i: pieces[i].first):
        if groups and pieces[i].first <= reach:
            groups[-1].append(i)
        else:
            groups.append([i])
        reach = max(reach, pieces[i].last)
    return groups


def _sweep(
    pictures: TrackPictures,
    pieces: Sequence[Piece],
    members: list[int],
    into: list[_Way | None],
    numbers: range,
    by: int,
    went: Callable[[int], None],
) -> None:
    """Follow `members` from picture to picture; `by` is 1 forward and −1 back."""
    colours: dict[int, Floats] = {}
    patches: dict[int, NDArray[np.uint8]] = {}
    for number in numbers:
        for i in members:
            piece = pieces[i]
            place = piece.start if by > 0 else piece.end
            if number == (piece.first if by > 0 else piece.last) and place is not None:
                begun = into[i] = _Way(piece)
                at = number - piece.first
                begun.places[at] = begun.alone[at] = place
                colours[i] = pictures.colours(number, begun.places[at : at + 1])[0]
                patches[i] = patch_at(pictures.grey(number), begun.places[at], TEMPLATE)
        there = number + by
        active = [i for i in members if into[i] is not None and pieces[i].first <= there <= pieces[i].last]
        if not active:
            continue
        if by < 0:
            pictures.going_back(there, min(pieces[i].first for i in active))
        ways = [(i, way) for i in active if (way := into[i]) is not None]
        points = np.array([way.places[number - pieces[i].first] for i, way in ways])
        alone = np.array([way.alone[number - pieces[i].first] for i, way in ways])
        after = pictures.grey(there)
        found = step(pictures.grey(number), after, points, alone)
        seen = pictures.colours(there, found.points)
        for k, (i, way) in enumerate(ways):
            at = there - pieces[i].first
            way.places[at], way.alone[at], way.error[at] = found.points[k], found.alone[k], found.error[k]
            way.colour[at] = float(np.linalg.norm(seen[k] - colours[i]))
            way.alike[at] = likeness(after, found.points[k], patches[i])
        went(len(active))


def _blended(piece: Piece, ahead: _Way | None, back: _Way | None) -> Followed:
    n = piece.last - piece.first + 1
    if n == 1:
        place = np.array([piece.start or piece.end], np.float32)
        return Followed(place, np.zeros(1, np.float32), np.zeros(1, np.bool_))
    if ahead is not None and back is not None:
        return _both(piece, ahead, back)
    way = ahead if ahead is not None else back
    assert way is not None
    gated = _gated(way)
    order = np.arange(n) if ahead is not None else np.arange(n)[::-1]
    # What was lost does not come back by itself: behind it another thing was followed.
    away = np.flatnonzero(gated[order])
    lost = int(away[0]) if len(away) else None
    hidden = np.zeros(n, np.bool_)
    if lost is not None:
        hidden[order[lost:]] = True
    return Followed(way.places, _doubt(way), hidden, None if lost is None else int(order[lost]))


def _both(piece: Piece, ahead: _Way, back: _Way) -> Followed:
    n = piece.last - piece.first + 1
    own = np.linspace(0, 1, n)
    start, end = np.array(piece.start, np.float32), np.array(piece.end, np.float32)
    var_ahead = _variance(ahead, float(np.linalg.norm(ahead.places[-1] - end)), own)
    var_back = _variance(back, float(np.linalg.norm(back.places[0] - start)), 1 - own, reverse=True)
    weight = var_ahead / np.maximum(var_ahead + var_back, 1e-9)
    weight = np.clip((weight - weight[0]) / max(weight[-1] - weight[0], 1e-9), 0, 1)
    gone, gone_back = _gated(ahead), _gated(back)
    weight = np.where(gone & ~gone_back, 1.0, np.where(gone_back & ~gone, 0.0, weight))
    weight[0], weight[-1] = 0.0, 1.0
    share = weight[:, None].astype(np.float32)
    places = ahead.places * (1 - share) + back.places * share
    places[0], places[-1] = start, end
    hidden = gone & gone_back
    hidden[[0, -1]] = False
    places = _bridged(places, hidden)
    doubt = np.where(weight < 0.5, _doubt(ahead), _doubt(back))
    doubt = np.maximum(doubt, np.linalg.norm(ahead.places - back.places, axis=1) / LOST * (weight > 0) * (weight < 1))
    doubt[[0, -1]] = 0
    return Followed(places.astype(np.float32), doubt.astype(np.float32), hidden)


def _variance(way: _Way, miss: float, share: NDArray[np.float64], *, reverse: bool = False) -> NDArray[np.float64]:
    """How far off a way may be, pixels squared: what it misses the far key by, as the errors on the way add up."""
    error = np.minimum(way.error.astype(float), LOST) + A_FRAME
    if reverse:
        error[-1] = 0
        added = np.cumsum(error[::-1])[::-1]
        whole = added[0]
    else:
        error[0] = 0
        added = np.cumsum(error)
        whole = added[-1]
    return np.asarray((added / whole) ** 2 * miss**2 + (PLAIN * share) ** 2)


def _gated(way: _Way) -> NDArray[np.bool_]:
    """Where another thing is followed: in two of three pictures it is quite unlike the key, or it is less alike and
    colour or error fail too."""
    bad = (way.colour > OTHER_COLOUR) | (way.error > BAD_ERROR)
    bad = (way.alike < GONE) | (bad & (way.alike < LESS_ALIKE))
    three = np.convolve(bad, np.ones(3), mode="same")
    return np.asarray(three >= 2)


def _doubt(way: _Way) -> Floats:
    apart = np.linalg.norm(way.places - way.alone, axis=1) / APART
    alike = (1 - way.alike) / (1 - UNLIKE)
    return np.asarray(np.maximum.reduce([apart, way.error / UNSURE, alike]), dtype=np.float32)


def _bridged(places: Floats, hidden: NDArray[np.bool_]) -> Floats:
    """Straight where nothing was seen."""
    if not hidden.any():
        return places
    seen = np.flatnonzero(~hidden)
    at = np.arange(len(places))
    return np.stack([np.interp(at, seen, places[seen, k]) for k in (0, 1)], axis=1).astype(np.float32)
