"""A breakdown as long as they get, made of the demo's sections over and over."""

from __future__ import annotations

from fractions import Fraction
from pathlib import Path

from msgspec.structs import replace

from chapto.demo.story import demo_breakdown
from chapto.document.breakdown import Breakdown
from chapto.document.script import Part, Section


def long_breakdown(beats: int) -> Breakdown:
    """The demo with at least so many beats; no two sections are alike, so none of them is fitted for another."""
    b = demo_breakdown(Path("/"))
    talk = [s for s in b.script if s.part is Part.TALK]
    made: list[Section] = []
    count = 0
    while count < beats:
        round_ = len(made) // len(talk)
        source = talk[len(made) % len(talk)]
        extra = " again" * (round_ % 7) + f" {round_}"
        lines = tuple(
            replace(x, id=f"{x.id}-{round_}", text=x.text + extra, treatment=None if round_ % 3 else x.treatment)
            for x in source.beats
        )
        made.append(replace(source, id=f"{source.id}-{round_}", beats=lines, weight=Fraction(1)))
        count += len(lines)
    return replace(b, script=tuple(made))
