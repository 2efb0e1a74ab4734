"""When labels stand on the picture: from their moment on, as long as they need to be read, never over each other."""

from __future__ import annotations

from fractions import Fraction

from chapto.clock.passage import Kind, Passage
from chapto.clock.rates import frames_from_seconds
from chapto.clock.timemap import TimeMap
from chapto.document.breakdown import Breakdown
from chapto.programme.programme import PlacedLabel, PlacedSection

SECONDS_A_WORD, SHORTEST = Fraction(3, 10), Fraction(12, 10)
"""Reading time: BBC Subtitle Guidelines give about 0.3 s a word."""
LONGEST_IN_HOLD = Fraction(8)


def reading_seconds(text: str) -> Fraction:
    """How long `text` has to stand to be read."""
    return max(SECONDS_A_WORD * len(text.split()), SHORTEST)


def place_labels(b: Breakdown, time_map: TimeMap, sections: tuple[PlacedSection, ...]) -> tuple[PlacedLabel, ...]:
    """Each label at the first showing of its moment; rows from the lowest keep simultaneous ones apart.

    A held picture keeps its label while it is held; the end of a section takes every label away.
    """
    placed: list[PlacedLabel] = []
    starts = []
    for label in b.labels:
        for showing in time_map.watched_at(b.moment(label.moment).at):
            passage = time_map.passages[showing.passage]
            if label.camera and (not passage.footage or b.camera(passage.footage).camera_name != label.camera):
                continue
            starts.append((showing.start, label))
            break
    for start, label in sorted(starts, key=lambda pair: pair[0]):
        end = max(start + _frames(reading_seconds(label.text), time_map), _end_of_hold(start, time_map))
        limit = next((s.end for s in sections if s.start <= start < s.end), time_map.frames)
        end = min(end, limit, _end_of_camera(b, start, time_map) if label.camera else limit)
        taken = {p.row for p in placed if p.end > start}
        row = next(r for r in range(len(placed) + 1) if r not in taken)
        placed.append(PlacedLabel(label.id, label.text, start, end, row))
    return tuple(placed)


def _end_of_camera(b: Breakdown, start: int, time_map: TimeMap) -> int:
    """The first frame after `start` that another camera shows."""
    first = time_map.index_at(start)
    camera = b.camera(time_map.passages[first].footage).camera_name
    for p in time_map.passages[first:]:
        if not p.footage or b.camera(p.footage).camera_name != camera:
            return p.watch_in
    return time_map.frames


def _frames(seconds: Fraction, time_map: TimeMap) -> int:
    return frames_from_seconds(seconds, time_map.passages[0].fps)


def _end_of_hold(start: int, time_map: TimeMap) -> int:
    """The end of the hold that begins within a frame after `start`, at most `LONGEST_IN_HOLD` later."""
    i = time_map.index_at(start)
    near: list[Passage] = [p for p in time_map.passages[i : i + 2] if p.watch_in <= start + 1]
    ends = [p.watch_out for p in near if p.kind is Kind.HOLD]
    return min(max(ends, default=start), start + _frames(LONGEST_IN_HOLD, time_map))
