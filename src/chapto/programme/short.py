"""A section of a breakdown as a video of its own, in another shape."""

from __future__ import annotations

from collections.abc import Iterator
from fractions import Fraction

from msgspec.structs import replace

from chapto.document.breakdown import Breakdown, DocumentError
from chapto.document.publishing import Shape, Short
from chapto.document.script import BeatKind, Part, Section

LONGEST = Fraction(60)
"""Seconds; what sites take as a short (common practice)."""
SHAPES = {Shape.TALL: Fraction(9, 16), Shape.SQUARE: Fraction(1), Shape.WIDE: Fraction(16, 9)}
FIRST_TO_GO = (
    BeatKind.SPONSOR,
    BeatKind.ASK,
    BeatKind.THANKS,
    BeatKind.INVITATION,
    BeatKind.VIEWERS,
    BeatKind.CREDIT,
    BeatKind.QUESTION,
)
"""What a short does without before it does without anything of the exchange."""


def size_of(b: Breakdown, shape: Shape) -> tuple[int, int]:
    """Width and height: its shorter side is as long as the video's."""
    least, ratio = min(b.format.width, b.format.height), SHAPES[shape]
    width, height = (least, least / ratio) if ratio <= 1 else (least * ratio, least)
    return round(width / 2) * 2, round(height / 2) * 2


def shorts_wanted(b: Breakdown) -> tuple[Short, ...]:
    """Those the creator chose; where nothing was said, the exchange that most is drawn on, held upright."""
    there = {s.id for s in b.script}
    if b.publishing.shorts is not None:
        return tuple(s for s in b.publishing.shorts if s.section in there)
    told = [s for s in b.script if s.exchange and s.part is Part.TALK and s.beats]
    if not told:
        return ()
    marks = {s.id: sum(m.beat in {x.id for x in s.beats} for m in b.marks) for s in told}
    return (Short(section=max(told, key=lambda s: marks[s.id]).id),)


def shorts_of(b: Breakdown, short: Short) -> Iterator[Breakdown]:
    """The section alone, and then with less and less of it, until one is short enough: without its clean showings, then
    without asks and thanks, then without its last beats. `DocumentError` where the section is not there."""
    section = next((s for s in b.script if s.id == short.section), None)
    if section is None:
        raise DocumentError("The section of that short is no longer there.")
    width, height = size_of(b, short.shape)
    made = replace(
        b,
        format=replace(b.format, width=width, height=height, burnt_captions=True),
        title=section.title or b.title,
        target=LONGEST,
        target_is_limit=True,
        score_strip=False,
        control_strip=False,
    )
    for less in _less(section):
        kept = {beat.id for beat in less.beats}
        marks = tuple(m for m in b.marks if not m.beat or m.beat in kept)
        yield replace(made, script=(less,), marks=marks)


def _less(section: Section) -> Iterator[Section]:
    yield section
    section = replace(section, show_first=False, once_more=False)
    yield section
    section = replace(section, beats=tuple(x for x in section.beats if x.kind not in FIRST_TO_GO))
    yield section
    while len(section.beats) > 1:
        # The rule of thumb stays as long as it can: it is what is taken home.
        last = next((x for x in reversed(section.beats) if x.kind is not BeatKind.RULE), section.beats[-1])
        section = replace(section, beats=tuple(x for x in section.beats if x is not last))
        yield section
