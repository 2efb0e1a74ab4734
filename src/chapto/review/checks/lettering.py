"""Letters on the finished picture: contrast, size on a phone, room round them, and what they lie over."""

from __future__ import annotations

from bisect import bisect_left
from collections.abc import Iterable, Iterator
from math import ceil, floor

from chapto.programme.caption_places import Box, caption_zone, raised_captions
from chapto.review.finding import Finding, Weight
from chapto.review.limits import exactly
from chapto.review.measured import Lying
from chapto.review.reviewed import Reviewed

ROUNDED = 0.004
"""Share of the picture's side that whole, even pixels may cost."""
TOUCHING = 0.05
"""Share of the smaller of two slips that may be under the other one."""


def contrast(r: Reviewed) -> Iterator[Finding]:
    """Letters too like what is under them."""
    limit = r.limits["contrast-least"]
    for x in r.looked().shades:
        if x.contrast < limit.value:
            sentence = f"{_named(x.key)} is hard to read here: {limit.said(x.contrast)}."
            yield Finding(Weight.SHOULD, sentence, r.where(r.seconds(x.frame)), x.key, exactly(x.contrast), limit)


def small(r: Reviewed) -> Iterator[Finding]:
    """Letters too small to be read on a phone."""
    limit = r.limits["letters-least"]
    for x in r.looked().shades:
        if 0 < x.height < limit.value:
            sentence = f"{_named(x.key)} is too small on a phone: {limit.said(x.height)} high."
            yield Finding(Weight.SHOULD, sentence, r.where(r.seconds(x.frame)), x.key, exactly(x.height), limit)


def inside(r: Reviewed) -> Iterator[Finding]:
    """Letters too near the edge."""
    limit = r.limits["safe-area"]
    margin = float(limit.value) / 100
    for x in r.looked().lying:
        left, top, right, foot = x.box
        near = min(left, top, 1 - right, 1 - foot)
        if x.letters and near < margin - ROUNDED:
            sentence = f"{_named(x.key)} comes within {limit.said(100 * near)}."
            yield Finding(Weight.SHOULD, sentence, r.where(r.seconds(x.start)), x.key, exactly(100 * near), limit)


def clear(r: Reviewed) -> Iterator[Finding]:
    """Letters over other letters, over a head that is marked, or over a board that is filmed."""
    seen = r.looked()
    lettered, boards = _Meanwhile(x for x in seen.lying if x.letters), _Meanwhile(seen.boards)
    heads = sorted(seen.heads)
    told: set[frozenset[str]] = set()
    for one in lettered.all:
        for other in lettered.during(one.start, one.end):
            pair = frozenset({one.key, other.key})
            if pair in told or one.key == other.key or not _over(one.box, other.box):
                continue
            told.add(pair)
            sentence = f"{_named(one.key)} and {_named(other.key, begins=False)} lie over one another."
            # It stays the same finding whichever of the two comes first.
            both = "|".join(sorted(pair))
            yield Finding(Weight.SHOULD, sentence, r.where(r.seconds(max(one.start, other.start))), both)
        here = heads[bisect_left(heads, (one.start,)) : bisect_left(heads, (one.end,))]
        hit = next((f for f, x, y in here if _within(one, x, y)), None)
        if hit is not None:
            sentence = f"{_named(one.key)} lies over a head."
            yield Finding(Weight.MAY, sentence, r.where(r.seconds(hit)), f"{one.key}|head")
        board = next((x for x in boards.during(one.start, one.end) if _over(one.box, x.box)), None)
        if board is not None and (pair := frozenset({one.key, board.key})) not in told:
            told.add(pair)
            sentence = f"{_named(one.key)} lies over the board that tells the time."
            yield Finding(
                Weight.MAY, sentence, r.where(r.seconds(max(one.start, board.start))), f"{one.key}|{board.key}"
            )


def under_captions(r: Reviewed) -> Iterator[Finding]:
    """Letters where captions come that a viewer switches on. Painted ones are letters like others."""
    f = r.b.format
    if f.burnt_captions:
        return
    aspect = f.width / f.height
    lettered = _Meanwhile(x for x in r.looked().lying if x.letters)
    raised = raised_captions(r.programme, aspect, control=r.b.control_strip)
    told: set[str] = set()
    for number, caption in enumerate(r.programme.captions):
        zone = caption_zone(caption, aspect, raised.get(number))
        start, end = floor(caption.start * r.fps), ceil(caption.end * r.fps)
        for x in lettered.during(start, end):
            if x.key not in told and _over(x.box, zone):
                told.add(x.key)
                sentence = f"{_named(x.key)} lies where captions come for those who switch them on."
                yield Finding(Weight.MAY, sentence, r.where(max(caption.start, r.seconds(x.start))), x.key)


class _Meanwhile:
    """What lies on the picture, by when: a long video has thousands of things on it, few of them at a time."""

    def __init__(self, lying: Iterable[Lying]) -> None:
        self.all = sorted(lying, key=lambda x: x.start)
        self._starts = [x.start for x in self.all]
        self._longest = max((x.end - x.start for x in self.all), default=0)

    def during(self, start: int, end: int) -> Iterator[Lying]:
        """What is there in some of the frames `start … end`, half-open."""
        for x in self.all[bisect_left(self._starts, start - self._longest) : bisect_left(self._starts, end)]:
            if x.end > start:
                yield x


def _over(one: Box, other: Box) -> bool:
    wide, high = min(one[2], other[2]) - max(one[0], other[0]), min(one[3], other[3]) - max(one[1], other[1])
    if wide <= 0 or high <= 0:
        return False
    areas = [(x[2] - x[0]) * (x[3] - x[1]) for x in (one, other)]
    return wide * high > TOUCHING * min(areas)


def _within(one: Lying, x: float, y: float) -> bool:
    left, top, right, foot = one.box
    return left <= x <= right and top <= y <= foot


def _named(key: str, *, begins: bool = True) -> str:
    kind, _, words = key.partition("/")
    said = f"{kind} “{words}”" if words else kind
    return f"{'The' if begins else 'the'} {said}"
