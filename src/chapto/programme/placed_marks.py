"""When marks stand on the picture: from their word or moment on, until the hold, the beat or their seconds end."""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from dataclasses import dataclass, replace
from fractions import Fraction

from chapto.bodies.track import Place
from chapto.clock.passage import Kind
from chapto.clock.rates import frames_from_seconds
from chapto.clock.timemap import TimeMap
from chapto.document.breakdown import Breakdown
from chapto.document.footage import Footage
from chapto.document.mark_kinds import MarkKind
from chapto.document.marks import Mark, Until
from chapto.programme.figures_at import Tracks
from chapto.programme.labels import reading_seconds
from chapto.programme.mark_facts import fact_words
from chapto.programme.placed import PlacedInset, PlacedSection, PlacedWord

SOON = 12
"""Frames after its word within which a hold may begin that a mark belongs to."""
LEAST = Fraction(6, 5)
"""Watch seconds a mark stays at least: it has to be seen, and its slip read."""
GROWS = 1.5
"""A cover grows by this where nobody knows exactly where its spot is."""


@dataclass(frozen=True)
class PlacedMark:
    """A mark for `start ≤ frame < end` on the picture of `footage`. `words` are its slip's, with what may be said of it
    in `fact`."""

    mark: Mark
    footage: str
    start: int
    end: int
    words: str
    fact: str = ""


@dataclass(frozen=True)
class Unplaced:
    """A mark that does not come on the screen, and why."""

    mark: str
    sentence: str


@dataclass(frozen=True)
class CoveredSpot:
    """A spot that is made unrecognisable: its middle, 0…1 of the picture as it was filmed, and its radius as a share of
    the picture's height."""

    mark: str
    x: float
    y: float
    radius: float


def place_marks(
    b: Breakdown,
    time_map: TimeMap,
    sections: tuple[PlacedSection, ...],
    words: Iterable[PlacedWord],
    insets: tuple[PlacedInset, ...],
    tracks: Tracks,
) -> tuple[tuple[PlacedMark, ...], tuple[Unplaced, ...]]:
    """Every mark but covers on the watch clock, in the order in which they come; and those that can't come."""
    if not b.marks:
        return (), ()
    spoken: dict[str, list[PlacedWord]] = {}
    for word in words:
        spoken.setdefault(word.beat, []).append(word)
    placed: list[PlacedMark] = []
    lost: list[Unplaced] = []
    for mark in b.marks:
        if mark.kind is MarkKind.COVER:
            continue
        footage = footage_of(b, mark)
        found = []
        for start, wish in _wanted(b, mark, time_map, spoken):
            if (end := _while_shown(footage, start, wish, time_map, sections, insets)) <= start:
                continue
            made = _with_fact(b, PlacedMark(mark, footage, start, end, mark.words), time_map, insets, tracks)
            found.append(replace(made, end=_until_read(made, time_map, sections, insets)))
        if not found:
            lost.append(Unplaced(mark.id, _why(b, mark, footage)))
        placed += found
    return tuple(sorted(placed, key=lambda p: p.start)), tuple(lost)


def footage_of(b: Breakdown, mark: Mark) -> str:
    """The id of the footage a mark is drawn on."""
    return b.figure(mark.figure).footage if mark.figure else b.anchor(mark.anchors[0]).footage


def covered(b: Breakdown, tracks: Tracks, c: Footage, mat: Fraction) -> tuple[CoveredSpot, ...]:
    """What has to be covered in the picture of `c` on show at `mat`. No picture of a cover's stretch goes without:
    where its spot is not known, the nearest place is covered, larger."""
    found = []
    for mark in b.marks:
        if mark.kind is not MarkKind.COVER or (mark.span and not mark.span[0] <= mat < mark.span[1]):
            continue
        anchor = b.anchor(mark.anchors[0])
        if anchor.footage != c.id:
            continue
        track = tracks.get(anchor.id)
        place = track.place(float(c.media_time(mat))) if track is not None else None
        sure = place is not None and track is not None and track.measured and not place.hidden and place.doubt < 1
        if place is None:
            near = min(anchor.keys, key=lambda k: abs(k.mat - mat))
            place = Place(near.x, near.y)
        found.append(CoveredSpot(mark.id, place.x, place.y, mark.size if sure else mark.size * GROWS))
    return tuple(found)


def _wanted(
    b: Breakdown, mark: Mark, time_map: TimeMap, spoken: dict[str, list[PlacedWord]]
) -> Iterator[tuple[int, int]]:
    """From which frame a mark is wanted, and up to which."""
    fps = time_map.passages[0].fps
    if mark.beat:
        said = spoken.get(mark.beat, [])
        word = next((w for w in said if w.word == mark.word), None)
        if word is not None:
            last = frames_from_seconds(max(w.end for w in said), fps)
            start = int(word.start * fps)
            yield start, _until(mark, start, last, time_map)
        return
    until = seen = -1
    for showing in time_map.watched_at(b.moment(mark.moment).at):
        # What runs on from a held picture shows the same once more.
        if showing.start > seen and showing.start >= until:
            until = _until(mark, showing.start, showing.end, time_map)
            yield showing.start, until
        seen = showing.end


def _until(mark: Mark, start: int, said: int, time_map: TimeMap) -> int:
    fps = time_map.passages[0].fps
    least = start + frames_from_seconds(LEAST, fps)
    if mark.until is Until.SECONDS:
        return start + max(frames_from_seconds(mark.seconds, fps), 1)
    if mark.until is Until.HOLD:
        i = time_map.index_at(min(start, time_map.frames - 1))
        near = [p for p in time_map.passages[i : i + 2] if p.watch_in <= start + SOON and p.kind is Kind.HOLD]
        if near:
            return near[0].watch_out
    return max(said, least)


def _while_shown(
    footage: str,
    start: int,
    wish: int,
    time_map: TimeMap,
    sections: tuple[PlacedSection, ...],
    insets: tuple[PlacedInset, ...],
) -> int:
    """The frame up to which the footage stays on the screen from `start` on: another camera, or a new section, ends a
    mark."""
    section = next((s for s in sections if s.start <= start < s.end), None)
    wish = min(wish, time_map.frames, section.end if section is not None else wish)
    at = start
    while at < wish:
        passage = time_map.passage_at(at)
        inset = next((i for i in insets if i.start <= at < i.end and i.footage == footage), None)
        if passage.footage == footage:
            at = passage.watch_out
        elif inset is not None:
            at = inset.end
        else:
            break
    return min(at, wish)


def _until_read(
    p: PlacedMark, time_map: TimeMap, sections: tuple[PlacedSection, ...], insets: tuple[PlacedInset, ...]
) -> int:
    """Its end, later where its slip could not be read by then and its picture stays; one that is asked for by the
    second ends when it is asked to."""
    text = f"{p.words} {p.fact}".strip()
    if not text or p.mark.until is Until.SECONDS:
        return p.end
    read = p.start + frames_from_seconds(reading_seconds(text), time_map.passages[0].fps)
    return max(p.end, _while_shown(p.footage, p.start, read, time_map, sections, insets))


def _with_fact(
    b: Breakdown, p: PlacedMark, time_map: TimeMap, insets: tuple[PlacedInset, ...], tracks: Tracks
) -> PlacedMark:
    if not p.mark.fact:
        return p
    passage = time_map.passage_at(p.start)
    inset = next((i for i in insets if i.start <= p.start < i.end and i.footage == p.footage), None)
    mat = passage.mat_at(p.start) if passage.footage == p.footage or inset is None else inset.mat_at(p.start)
    return PlacedMark(p.mark, p.footage, p.start, p.end, p.words, fact_words(b, tracks, p.mark, mat))


def _why(b: Breakdown, mark: Mark, footage: str) -> str:
    name = b.camera(footage).name
    if mark.beat:
        return f"The mark “{mark.kind}” does not come: “{name}” is not on the screen at its word."
    return f"The mark “{mark.kind}” does not come: its moment is not shown from “{name}”."
