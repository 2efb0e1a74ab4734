"""Tracks of the points of a document: what is put down at keys, followed through the pictures between them.

Each stretch between two keys is worked out and cached by itself, by the file's fingerprint, its two places and the
version of the method: a key that is moved costs the two stretches that meet in it.
"""

from __future__ import annotations

import hashlib
from collections.abc import Callable, Iterator, Mapping, Sequence
from contextlib import contextmanager
from dataclasses import dataclass
from fractions import Fraction
from functools import partial
from itertools import pairwise
from pathlib import Path
from typing import TYPE_CHECKING

import numpy as np
from numpy.typing import NDArray

from chapto.bodies.track import Floats, KeyPlace, Track, hidden_at, straight_line
from chapto.document.footage import Footage
from chapto.document.mark_kinds import Sticks
from chapto.document.marks import Anchor
from chapto.media.cache import is_whole
from chapto.media.proxy import proxy_path
from chapto.media.reader import FrameReader
from chapto.media.track_store import Stretch, keep, recall

if TYPE_CHECKING:
    from chapto.media.following import Followed, Piece
    from chapto.media.track_pictures import TrackPictures

VERSION = 1


def tracks_of(
    anchors: Sequence[Anchor],
    footage: Mapping[str, Footage],
    places: Mapping[str, Path],
    needed: Mapping[str, tuple[Fraction, Fraction]],
    *,
    only_known: bool = False,
    progress: Callable[[float], None] = lambda share: None,
    cancelled: Callable[[], bool] = lambda: False,
) -> tuple[dict[str, Track], tuple[str, ...]]:
    """The track of each anchor, by its id, and the ids of those that are straight lines for now. `needed` says for each
    from which mat second to which it has to be known.

    With `only_known` nothing is followed that was not before; else only what is in a file that is not there stays a
    straight line. Raises `Cancelled` when stopped, and `MediaError` when a
    file can't be read.
    """
    tracks: dict[str, Track] = {}
    wanted: dict[str, list[tuple[Anchor, list[_Wanted]]]] = {}
    for anchor in anchors:
        keys = _keys(anchor, footage[anchor.footage])
        if anchor.sticks is Sticks.STILL:
            tracks[anchor.id] = _still(keys)
            continue
        pieces = _pieces(anchor, footage[anchor.footage], keys, needed[anchor.id])
        if all(recall(p.key) is not None for p in pieces):
            tracks[anchor.id] = _assembled(keys, pieces)
        else:
            tracks[anchor.id] = straight_line(
                keys, reach=_reach(footage[anchor.footage], keys, needed[anchor.id]), stays=False
            )
            wanted.setdefault(anchor.footage, []).append((anchor, pieces))
    if only_known:
        return tracks, tuple(anchor.id for some in wanted.values() for anchor, _ in some)
    for number, (file, some) in enumerate(wanted.items()):
        if file in places:
            share = partial(_share, progress, number, len(wanted))
            _follow_in(footage[file], places[file], [p for _, pieces in some for p in pieces], share, cancelled)
            for anchor, pieces in some:
                tracks[anchor.id] = _assembled(_keys(anchor, footage[file]), pieces)
    return tracks, ()


def _share(progress: Callable[[float], None], number: int, files: int, done: float) -> None:
    progress((number + done) / files)


@dataclass(frozen=True)
class _Wanted:
    """A stretch from one key to the next, or beyond the first or the last one. Times are seconds into the file."""

    sticks: Sticks
    first: float
    last: float
    start: KeyPlace | None
    end: KeyPlace | None
    key: str

    def is_looked_for(self, key: KeyPlace) -> bool:
        """Whether the point is followed from a key: not where it is hidden, since nobody sees where it is."""
        return key.seen and (self.start is None or self.start.seen)


def _keys(anchor: Anchor, c: Footage) -> tuple[KeyPlace, ...]:
    return tuple(KeyPlace(float(c.media_time(k.mat)), k.x, k.y, k.seen) for k in anchor.keys)


def _still(keys: tuple[KeyPlace, ...]) -> Track:
    line = straight_line(keys, reach=0, stays=True)
    return Track(line.at, line.x, line.y, np.zeros(len(line.at), np.float32), line.hidden, line.ends)


def _reach(c: Footage, keys: tuple[KeyPlace, ...], span: tuple[Fraction, Fraction]) -> float:
    """Seconds of the file beyond its keys in which a point is needed."""
    first, last = (float(c.media_time(t)) for t in span)
    return max(keys[0].at - first, last - keys[-1].at, 0.0)


def _pieces(anchor: Anchor, c: Footage, keys: tuple[KeyPlace, ...], span: tuple[Fraction, Fraction]) -> list[_Wanted]:
    """The stretches of a point: up to its first key, between its keys, after its last, as far as it is needed."""
    begin, end = (float(c.media_time(t)) for t in span)
    length = float(c.duration)

    def made(first: float, last: float, start: KeyPlace | None, end: KeyPlace | None) -> _Wanted:
        values = [(k.at, k.x, k.y, k.seen) if k is not None else () for k in (start, end)]
        text = f"{c.fingerprint}|{VERSION}|{anchor.sticks}|{first:.6f}|{last:.6f}|{values}"
        return _Wanted(anchor.sticks, first, last, start, end, hashlib.sha256(text.encode()).hexdigest()[:40])

    found = [made(max(min(begin, keys[0].at), 0.0), keys[0].at, None, keys[0])]
    found += [made(a.at, b.at, a, b) for a, b in pairwise(keys)]
    if keys[-1].seen:
        found.append(made(keys[-1].at, max(min(end, length), keys[-1].at), keys[-1], None))
    return found


def _follow_in(
    c: Footage,
    place: Path,
    wanted: list[_Wanted],
    progress: Callable[[float], None],
    cancelled: Callable[[], bool],
) -> None:
    """Follow what is not known yet in one file, and keep it."""
    from chapto.media.camera_path import follow_on_mat
    from chapto.media.following import follow

    missing = list({p.key: p for p in wanted if recall(p.key) is None}.values())
    with _opened(c, place) as pictures:
        for sticks, way in ((Sticks.BODY, follow), (Sticks.MAT, follow_on_mat)):
            mine = [(p, _in_pixels(p, pictures)) for p in missing if p.sticks is sticks]
            ready = [(p, piece) for p, piece in mine if piece.start or piece.end]
            found = way(pictures, [piece for _, piece in ready], progress=progress, cancelled=cancelled)
            followed = {p.key: f for (p, _), f in zip(ready, found, strict=True)}
            for p, piece in mine:
                at = pictures.seconds(piece.first, piece.last)
                keep(p.key, _stretch(p, at, followed.get(p.key), pictures.size))


@contextmanager
def _opened(c: Footage, place: Path) -> Iterator[TrackPictures]:
    """The pictures of a file; its quick ones where they are there and whole."""
    from chapto.media.track_pictures import TrackPictures

    file = FrameReader(place)
    quick = None
    try:
        if is_whole(proxy_path(c.fingerprint)):
            quick = FrameReader(proxy_path(c.fingerprint), threads=False)
            if quick.frames != file.frames:
                quick.close()
                quick = None
        yield TrackPictures(file, _shape(file, c), quick)
    finally:
        file.close()
        if quick is not None:
            quick.close()


def _shape(file: FrameReader, c: Footage) -> tuple[int, int]:
    """Width and height of the upright picture in square pixels."""
    frame = file.frame(0)
    width, height = round(frame.width * file.aspect), frame.height
    return (height, width) if round(frame.rotation / 90) % 2 else (width, height)


def _in_pixels(p: _Wanted, pictures: TrackPictures) -> Piece:
    from chapto.media.following import Piece

    width, height = pictures.size

    def at(key: KeyPlace | None) -> tuple[float, float] | None:
        return (key.x * width, key.y * height) if key is not None and p.is_looked_for(key) else None

    return Piece(pictures.number_at(p.first), pictures.number_at(p.last), at(p.start), at(p.end))


def _stretch(p: _Wanted, at: NDArray[np.float64], found: Followed | None, size: tuple[int, int]) -> Stretch:
    """What was followed as shares of the picture, going exactly through its keys; without that a straight line."""
    n = len(at)
    if found is None:
        ends = [k for k in (p.start, p.end) if k is not None]
        return Stretch(
            at, _line(at, ends, "x"), _line(at, ends, "y"), np.ones(n, np.float32), np.ones(n, np.bool_), 0, n
        )
    places: Floats = np.asarray(found.places / np.array(size, np.float32), dtype=np.float32)
    for key, row, share in ((p.start, 0, np.linspace(1, 0, n)), (p.end, -1, np.linspace(0, 1, n))):
        if key is not None:
            # A key that was not followed to (it is hidden) is reached little by little.
            places += (np.array([key.x, key.y], np.float32) - places[row]) * share[:, None].astype(np.float32)
    first, end = 0, n
    if found.lost is not None:
        first, end = (0, max(found.lost, 1)) if p.start is not None else (min(found.lost + 1, n - 1), n)
    return Stretch(at, places[:, 0], places[:, 1], found.doubt, found.hidden, first, end)


def _line(at: NDArray[np.float64], keys: list[KeyPlace], coordinate: str) -> Floats:
    known = np.array([(k.at, getattr(k, coordinate)) for k in keys], dtype=np.float64)
    made: Floats = np.interp(at, known[:, 0], known[:, 1]).astype(np.float32)
    return made


def _assembled(keys: tuple[KeyPlace, ...], pieces: list[_Wanted]) -> Track:
    """One track from its stretches, each beginning with the picture the one before ended with."""
    found = [s for p in pieces if (s := recall(p.key)) is not None]
    parts = [(s, s.first, s.end if i == len(found) - 1 else min(s.end, len(s.at) - 1)) for i, s in enumerate(found)]
    at = np.concatenate([s.at[a:z] for s, a, z in parts])
    x, y, doubt = (np.concatenate([getattr(s, name)[a:z] for s, a, z in parts]) for name in ("x", "y", "doubt"))
    hidden = np.concatenate([s.hidden[a:z] for s, a, z in parts]) | hidden_at(keys, at)
    last, _, end = parts[-1]
    step = float(np.median(np.diff(last.at))) if len(last.at) > 1 else 1 / 30
    ends = float(last.at[end]) if end < len(last.at) else float(last.at[-1]) + step
    return Track(at, x, y, doubt, np.asarray(hidden), ends)
