"""Letters on the finished picture: contrast, size on a phone, room round them, and what they lie over."""

from __future__ import annotations

from collections.abc import Iterator

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
    """Letters over other letters, or over a head that is marked."""
    seen = r.looked()
    lettered = [x for x in seen.lying if x.letters]
    told: set[frozenset[str]] = set()
    for i, one in enumerate(lettered):
        for other in lettered[i + 1 :]:
            pair = frozenset({one.key, other.key})
            if pair in told or one.key == other.key or not _meet(one, other):
                continue
            told.add(pair)
            sentence = f"{_named(one.key)} and {_named(other.key, begins=False)} lie over one another."
            yield Finding(
                Weight.SHOULD, sentence, r.where(r.seconds(max(one.start, other.start))), f"{one.key}|{other.key}"
            )
        hits = [f for f, x, y in seen.heads if one.start <= f < one.end and _within(one, x, y)]
        if hits:
            sentence = f"{_named(one.key)} lies over a head."
            yield Finding(Weight.MAY, sentence, r.where(r.seconds(hits[0])), f"{one.key}|head")


def _meet(one: Lying, other: Lying) -> bool:
    if one.start >= other.end or other.start >= one.end:
        return False
    wide = min(one.box[2], other.box[2]) - max(one.box[0], other.box[0])
    high = min(one.box[3], other.box[3]) - max(one.box[1], other.box[1])
    if wide <= 0 or high <= 0:
        return False
    areas = [(x.box[2] - x.box[0]) * (x.box[3] - x.box[1]) for x in (one, other)]
    return wide * high > TOUCHING * min(areas)


def _within(one: Lying, x: float, y: float) -> bool:
    left, top, right, foot = one.box
    return left <= x <= right and top <= y <= foot


def _named(key: str, *, begins: bool = True) -> str:
    kind, _, words = key.partition("/")
    said = f"{kind} “{words}”" if words else kind
    return f"{'The' if begins else 'the'} {said}"
