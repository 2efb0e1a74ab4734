"""Do the marks of a document hold together?"""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from itertools import pairwise
from math import isfinite
from typing import TYPE_CHECKING

from chapto.document.bounds import LONGEST_WAIT, is_time, text_problem
from chapto.document.joints import Joint
from chapto.document.mark_kinds import RULES, MarkKind
from chapto.document.marks import (
    LARGEST,
    LEAST_ZOOM,
    LONGEST_LOOK_BACK,
    MOST_ZOOM,
    SMALLEST,
    Anchor,
    Figure,
    Mark,
    Until,
)
from chapto.document.script import words_of

if TYPE_CHECKING:
    from chapto.document.breakdown import Breakdown

OUTSIDE = 1.0
"""A point may lie so many pictures outside of the picture."""
MOST_KEYS = 10_000


def mark_problems(b: Breakdown) -> Iterator[str]:
    """Every contradiction in anchors, figures and marks, a sentence each."""
    anchors = {a.id: a for a in b.anchors}
    figures = {f.id: f for f in b.figures}
    files = {c.id for c in b.footage}
    for anchor in b.anchors:
        yield from _anchor(anchor, files)
    for figure in b.figures:
        yield from _figure(figure, anchors, files)
    counts = {beat.id: len(words_of(beat.text)) for _, beat in b.beats()} if b.marks else {}
    moments = {m.id for m in b.moments}
    for mark in b.marks:
        yield from _made_of(mark, anchors, figures)
        yield from _bound(mark, counts, moments)
        yield from _values(mark)


def _anchor(anchor: Anchor, files: set[str]) -> Iterator[str]:
    if anchor.footage not in files:
        yield "A point on the picture belongs to footage that is not there."
    if not 0 < len(anchor.keys) <= MOST_KEYS:
        yield "A point on the picture was put down nowhere, or too often."
    for key in anchor.keys:
        if not is_time(key.mat) or not all(isfinite(v) and -OUTSIDE <= v <= 1 + OUTSIDE for v in (key.x, key.y)):
            yield "A point on the picture lies where no picture is."
    if any(one.mat >= other.mat for one, other in pairwise(anchor.keys)):
        yield "The keys of a point on the picture are not in order."


def _figure(figure: Figure, anchors: Mapping[str, Anchor], files: set[str]) -> Iterator[str]:
    found = [anchors[a] for a in figure.anchors if a in anchors]
    joints = [a.joint for a in found]
    if figure.footage not in files or any(a.footage != figure.footage for a in found):
        yield "A figure and its points belong to different footage."
    whole = len(found) == len(figure.anchors) and 0 < len(found) <= len(Joint)
    if not whole or None in joints or len(set(joints)) < len(joints):
        yield "A figure needs points, each of another joint."


def _made_of(mark: Mark, anchors: Mapping[str, Anchor], figures: Mapping[str, Figure]) -> Iterator[str]:
    rule = RULES[mark.kind]
    if mark.figure:
        if not rule.figure or mark.figure not in figures:
            yield f"The mark “{mark.kind}” takes its points from a figure that is not there."
    elif not rule.least <= len(mark.anchors) <= rule.most:
        yield f"The mark “{mark.kind}” has {len(mark.anchors)} points; {rule.least} to {rule.most} are possible."
    if any(a not in anchors for a in mark.anchors):
        yield f"The mark “{mark.kind}” hangs on a point that is not there."
    on = {anchors[a].footage for a in mark.anchors if a in anchors}
    on |= {figures[mark.figure].footage} if mark.figure in figures else set()
    if len(on) > 1:
        yield f"The points of the mark “{mark.kind}” belong to different footage."
    if mark.state is not None and mark.state not in rule.states:
        yield f"The mark “{mark.kind}” can't be {mark.state}."


def _bound(mark: Mark, counts: Mapping[str, int], moments: set[str]) -> Iterator[str]:
    if mark.kind is MarkKind.COVER:
        if mark.beat or mark.moment:
            yield "A cover comes with no word: it lies over its spot wherever that is shown."
        if mark.span is not None and not (mark.span[0] < mark.span[1] and all(is_time(t) for t in mark.span)):
            yield "What a cover covers would end before it starts."
        return
    if mark.span is not None:
        yield f"The mark “{mark.kind}” comes with its word, and covers no stretch."
    if bool(mark.beat) == bool(mark.moment):
        yield f"The mark “{mark.kind}” comes either with a word or with a moment."
    if mark.beat and not 0 <= mark.word < counts.get(mark.beat, 0):
        yield f"The mark “{mark.kind}” comes with a word that is not there."
    if mark.moment and mark.moment not in moments:
        yield f"The mark “{mark.kind}” comes with a moment that is not there."


def _values(mark: Mark) -> Iterator[str]:
    if problem := text_problem(mark.words):
        yield f"The slip “{mark.words[:30].encode('utf-8', 'replace').decode()}…” {problem}."
    if mark.until is Until.SECONDS and not 0 < mark.seconds <= LONGEST_WAIT:
        yield f"The mark “{mark.kind}” can't stay for {float(mark.seconds):g} s."
    if not (isfinite(mark.size) and SMALLEST <= mark.size <= LARGEST):
        yield f"The mark “{mark.kind}” can't be that large."
    if not 0 <= mark.ease <= LONGEST_WAIT:
        yield f"The mark “{mark.kind}” can't take {float(mark.ease):g} s to come."
    if not LEAST_ZOOM <= mark.zoom <= MOST_ZOOM or not 0 < mark.before <= LONGEST_LOOK_BACK:
        yield f"The mark “{mark.kind}” can't magnify, or look back, that far."
    if mark.slip is not None and not all(isfinite(v) and 0 <= v <= 1 for v in mark.slip):
        yield f"The slip of the mark “{mark.kind}” lies outside of the picture."
