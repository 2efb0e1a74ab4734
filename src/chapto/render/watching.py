"""Looking at the finished picture: what flashes, is black or stands, and how its letters can be read."""

from __future__ import annotations

import contextlib
import hashlib
from collections.abc import Callable, Iterable, Iterator
from pathlib import Path

import msgspec
import numpy as np

from chapto.clock.passage import STILL, Kind
from chapto.document.breakdown import Breakdown
from chapto.errors import Cancelled
from chapto.paint.photos import Photos
from chapto.programme.caption_places import Box
from chapto.programme.programme import Programme
from chapto.render import piece_cache
from chapto.render.flashing import Flashing, luminance
from chapto.render.frames import ProgrammeFrames
from chapto.render.painted import Painted, painted_over
from chapto.render.pieces import versions
from chapto.render.reading_contrast import lowest_contrast
from chapto.render.small_pictures import Small, small_pictures
from chapto.review.measured import Shade, Watched

BLACK, BRIGHTEST = 0.004, 0.03
"""Mean and highest relative luminance of a black picture."""
METHOD = "shades-1"
"""Counts up when contrast is measured in another way."""
PHONE = 480
"""Pixels of the picture's width on a phone held upright, roughly (common practice)."""


def watch(
    b: Breakdown,
    programme: Programme,
    places: dict[str, Path],
    photos: Photos | None = None,
    *,
    progress: Callable[[float], None] = lambda share: None,
    cancelled: Callable[[], bool] = lambda: False,
) -> Watched:
    """Look at every picture of a programme, small, and at its letters in full size.

    Raises `MediaError` where footage is missing and `Cancelled` when stopped.
    """
    if not programme.frames:
        return Watched()
    flashes, black, frozen = _every_picture(b, programme, places, photos, lambda x: progress(0.6 * x), cancelled)
    painted, heads, boards = painted_over(
        b, programme, places, photos, progress=lambda x: progress(0.6 + 0.2 * x), cancelled=cancelled
    )
    shades = tuple(_shades(b, programme, places, photos, painted, lambda x: progress(0.8 + 0.2 * x), cancelled))
    return Watched(flashes, black, frozen, tuple(x.lying for x in painted), shades, heads, boards)


def _every_picture(
    b: Breakdown,
    programme: Programme,
    places: dict[str, Path],
    photos: Photos | None,
    progress: Callable[[float], None],
    cancelled: Callable[[], bool],
) -> tuple[tuple[tuple[int, int], ...], tuple[tuple[int, int], ...], tuple[tuple[int, int], ...]]:
    flashing = Flashing(float(programme.fps))
    dark, same = [], []
    last: Small | None = None
    cells = light = np.zeros(0)
    is_black = False
    for number, small in enumerate(small_pictures(b, programme, places, photos, cancelled=cancelled)):
        unmoved = last is not None and small.luma == last.luma
        # What was handed out before is the same picture.
        if small is not last:
            cells = small.cells.astype(np.float64) / 255
            light = luminance(cells)
            is_black = bool(light.mean() < BLACK and light.max() < BRIGHTEST)
        last = small
        flashing.take(light, cells)
        passage = programme.time_map.passage_at(number)
        if is_black and passage.kind is not Kind.CARD:
            dark.append(number)
        if unmoved and passage.kind not in STILL and number > passage.watch_in:
            same.append(number)
        if number % 32 == 0:
            progress(number / programme.frames)
    return tuple(flashing.found), tuple(_spans(dark)), tuple(_spans(same, least=int(programme.fps / 4)))


def _spans(numbers: Iterable[int], *, least: int = 1) -> Iterator[tuple[int, int]]:
    """Half-open ranges of numbers that follow one another, from so many on."""
    start = end = -1
    for n in [*numbers, -2]:
        if n == end:
            end += 1
            continue
        if start >= 0 and end - start >= least:
            yield start, end
        start, end = n, n + 1


def _shades(
    b: Breakdown,
    programme: Programme,
    places: dict[str, Path],
    photos: Photos | None,
    painted: list[Painted],
    progress: Callable[[float], None],
    cancelled: Callable[[], bool],
) -> Iterator[Shade]:
    """How the letters of each painted thing can be read, in the middle of its time and near its ends."""
    looks: dict[int, list[Painted]] = {}
    for x in painted:
        picked = {x.frames[len(x.frames) // 4], x.frames[len(x.frames) // 2], x.frames[3 * len(x.frames) // 4]}
        for frame in picked:
            looks.setdefault(frame, []).append(x)
    lowest: dict[str, Shade] = {}
    frames = ProgrammeFrames(b, programme, places, photos)
    try:
        for done, (number, here) in enumerate(sorted(looks.items())):
            if cancelled():
                raise Cancelled
            progress(done / len(looks))
            for x, found in zip(here, _contrasts(frames, number, [x.lying.box for x in here]), strict=True):
                shade = Shade(x.lying.key, number, found, x.high * PHONE / b.format.width)
                if x.lying.key not in lowest or shade.contrast < lowest[x.lying.key].contrast:
                    lowest[x.lying.key] = shade
    finally:
        frames.close()
    yield from sorted(lowest.values(), key=lambda s: s.frame)


def _contrasts(frames: ProgrammeFrames, number: int, boxes: list[Box]) -> list[float]:
    """The lowest contrast of letters in each of some boxes of a picture; kept for each picture and its boxes."""
    asked = repr((METHOD, versions(), boxes)).encode()
    name = hashlib.blake2b(frames.content(number) + asked, digest_size=20).hexdigest()
    place = piece_cache.kept(name, piece_cache.SHADES)
    if place is not None:
        with contextlib.suppress(OSError, msgspec.DecodeError):
            known = msgspec.msgpack.decode(place.read_bytes(), type=list[float])
            if len(known) == len(boxes):
                return known
    rgb = frames.frame(number).to_ndarray(format="rgb24")
    h, w = rgb.shape[:2]
    found = [
        lowest_contrast(rgb[round(top * h) : round(foot * h), round(left * w) : round(right * w)].astype(np.uint8))
        for left, top, right, foot in boxes
    ]
    # A full or read-only cache only costs time.
    with contextlib.suppress(OSError):
        piece_cache.keep(name, msgspec.msgpack.encode(found), piece_cache.SHADES)
    return found
