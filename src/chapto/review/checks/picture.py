"""The finished picture: flashes, and what is black or stands although nobody asked for it."""

from __future__ import annotations

from collections.abc import Iterator
from fractions import Fraction

from chapto.review.finding import Finding, Weight, Where
from chapto.review.reviewed import Reviewed


def flashes(r: Reviewed) -> Iterator[Finding]:
    """More flashes in a second than anybody can be expected to bear."""
    limit = r.limits["flashes"]
    end = -1
    for frame, count in r.looked().flashes:
        if count <= limit.value or frame < end:
            continue
        # What flashes on is told once.
        end = frame + int(r.fps)
        sentence = f"The picture flashes {count} times within a second; that can bring on seizures."
        yield Finding(Weight.MUST, sentence, _there(r, max(frame - int(r.fps), 0)), "flashes", Fraction(count), limit)


def black(r: Reviewed) -> Iterator[Finding]:
    """Black pictures."""
    yield from _spans(r, r.looked().black, "black-longest", "The picture is black for {}.", Weight.MUST)


def frozen(r: Reviewed) -> Iterator[Finding]:
    """Pictures that stand although they should move."""
    yield from _spans(r, r.looked().frozen, "frozen-longest", "The picture stands for {} although it should move.")


def _spans(
    r: Reviewed, spans: tuple[tuple[int, int], ...], name: str, said: str, weight: Weight = Weight.SHOULD
) -> Iterator[Finding]:
    limit = r.limits[name]
    for start, end in spans:
        lasts = r.seconds(end - start)
        if lasts > limit.value:
            yield Finding(weight, said.format(limit.said(lasts)), _there(r, start), name, lasts, limit)


def _there(r: Reviewed, frame: int) -> Where:
    p = r.programme
    return r.where(r.seconds(frame), p.time_map.passage_at(min(frame, p.frames - 1)).footage if p.frames else "")
