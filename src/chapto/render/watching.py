"""Looking at the finished picture: what flashes, is black or stands, and how its letters can be read."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Iterator
from pathlib import Path

import av
import numpy as np
from msgspec.structs import replace
from numpy.typing import NDArray

from chapto.clock.passage import STILL, Kind
from chapto.document.breakdown import Breakdown
from chapto.errors import Cancelled
from chapto.paint.photos import Photos
from chapto.programme.programme import Programme
from chapto.render.blend import planes_of
from chapto.render.flashing import Flashing, luminance
from chapto.render.frames import ProgrammeFrames
from chapto.render.painted import Painted, painted_over
from chapto.render.reading_contrast import lowest_contrast
from chapto.review.measured import Shade, Watched

HIGH = 180
"""Lines of the picture in which flashes and black are looked for."""
CELLS = (64, 36)
"""Columns and rows of what is compared from picture to picture."""
BLACK, BRIGHTEST = 0.004, 0.03
"""Mean and highest relative luminance of a black picture."""
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
    flashes, black, frozen = _every_picture(b, programme, places, photos, progress, cancelled)
    painted, heads, boards = painted_over(b, programme, places, photos, cancelled=cancelled)
    shades = tuple(_shades(b, programme, places, photos, painted, progress, cancelled))
    return Watched(flashes, black, frozen, tuple(x.lying for x in painted), shades, heads, boards)


def _every_picture(
    b: Breakdown,
    programme: Programme,
    places: dict[str, Path],
    photos: Photos | None,
    progress: Callable[[float], None],
    cancelled: Callable[[], bool],
) -> tuple[tuple[tuple[int, int], ...], tuple[tuple[int, int], ...], tuple[tuple[int, int], ...]]:
    f = b.format
    width = max(round(HIGH * f.width / f.height / 2) * 2, 64)
    small = replace(b, format=replace(f, width=width, height=HIGH))
    frames = ProgrammeFrames(small, programme, places, photos)
    flashing = Flashing(float(programme.fps))
    dark, same = [], []
    last: av.VideoFrame | None = None
    cells = light = np.zeros(0)
    luma: NDArray[np.uint8] = np.zeros(0, np.uint8)
    is_black = False
    try:
        for number in range(programme.frames):
            if cancelled():
                raise Cancelled
            frame = frames.frame(number)
            # A frame that was handed out before is the same picture.
            if frame is not last:
                before, luma = luma, planes_of(frame)[0].copy()
                cells = _cells(frame)
                light = luminance(cells)
                is_black = bool(light.mean() < BLACK and light.max() < BRIGHTEST)
                unmoved = bool(np.array_equal(before, luma))
            else:
                unmoved = True
            last = frame
            flashing.take(light, cells)
            passage = programme.time_map.passage_at(number)
            if is_black and passage.kind is not Kind.CARD:
                dark.append(number)
            if unmoved and passage.kind not in STILL and number > passage.watch_in:
                same.append(number)
            if number % 32 == 0:
                progress(0.7 * number / programme.frames)
    finally:
        frames.close()
    return tuple(flashing.found), tuple(_spans(dark)), tuple(_spans(same, least=int(programme.fps / 4)))


def _cells(frame: av.VideoFrame) -> NDArray[np.float64]:
    """(rows, columns, 3) sRGB of a frame, 0…1."""
    rgb = frame.reformat(*CELLS, "rgb24", interpolation="AREA").to_ndarray()
    return rgb.astype(np.float64) / 255


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
            rgb = frames.frame(number).to_ndarray(format="rgb24")
            progress(0.7 + 0.3 * done / len(looks))
            for x in here:
                left, top, right, foot = x.lying.box
                h, w = rgb.shape[:2]
                region = rgb[round(top * h) : round(foot * h), round(left * w) : round(right * w)].astype(np.uint8)
                shade = Shade(x.lying.key, number, lowest_contrast(region), x.high * PHONE / w)
                if x.lying.key not in lowest or shade.contrast < lowest[x.lying.key].contrast:
                    lowest[x.lying.key] = shade
    finally:
        frames.close()
    yield from sorted(lowest.values(), key=lambda s: s.frame)
