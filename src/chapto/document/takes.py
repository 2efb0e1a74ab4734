"""Recordings of a narrator, and what the creator decided about them."""

from __future__ import annotations

from collections.abc import Iterable
from enum import StrEnum
from fractions import Fraction
from typing import TYPE_CHECKING

import msgspec

from chapto.document.mattime import exact
from chapto.document.script import Beat, Section, words_of

if TYPE_CHECKING:
    from chapto.document.breakdown import Breakdown


class TakeOf(StrEnum):
    """What a take is a recording of."""

    BEAT = "beat"
    SECTION = "section"
    WHOLE = "whole"
    NOTHING = "nothing yet"


class WordEdge(msgspec.Struct, frozen=True, kw_only=True, forbid_unknown_fields=True):
    """Where the creator put word number `word` of a beat: half-open seconds into the take. It is never moved."""

    beat: str
    word: int
    start: Fraction
    end: Fraction


class Take(msgspec.Struct, frozen=True, kw_only=True, forbid_unknown_fields=True):
    """A recording, `seconds` long, at `path` (relative to the project's folder) with its `fingerprint`.

    It is `of` a beat or section with the id `subject`, or of the whole. `narrator` (by id) limits it to the beats that
    this one says; empty for all. `start` and `end` are the part that is used (`end` 0: to its end), `gain` is in
    decibels. Where several `chosen` takes hold a beat, the nearest one counts: beat before section before whole, and
    among these the last.
    """

    id: str
    path: str
    fingerprint: str
    seconds: Fraction
    of: TakeOf = TakeOf.NOTHING
    subject: str = ""
    narrator: str = ""
    start: Fraction = exact("0")
    end: Fraction = exact("0")
    gain: Fraction = exact("0")
    edges: tuple[WordEdge, ...] = ()
    chosen: bool = True

    @property
    def until(self) -> Fraction:
        """The second at which the used part ends."""
        return self.end or self.seconds


_NEARNESS = {TakeOf.BEAT: 3, TakeOf.SECTION: 2, TakeOf.WHOLE: 1, TakeOf.NOTHING: 0}


def beats_of(b: Breakdown, take: Take) -> tuple[Beat, ...]:
    """The beats with words that `take` is a recording of, in the order of the script."""
    return tuple(
        beat
        for section, beat in b.beats()
        if _holds(take, section, beat) and words_of(beat.text) and take.narrator in ("", b.narrator(beat).id)
    )


def _holds(take: Take, section: Section, beat: Beat) -> bool:
    if take.of is TakeOf.NOTHING:
        return False
    return take.of is TakeOf.WHOLE or take.subject == (section.id if take.of is TakeOf.SECTION else beat.id)


def takes_by_beat(b: Breakdown) -> dict[str, Take]:
    """The take that counts for each beat that has one, by the beat's id."""
    found: dict[str, Take] = {}
    for take in sorted((t for t in b.takes if t.chosen), key=lambda t: _NEARNESS[t.of]):
        found.update({beat.id: take for beat in beats_of(b, take)})
    return found


def take_problems(b: Breakdown) -> Iterable[str]:
    """Every contradiction in the takes, a sentence each."""
    for take in b.takes:
        if not 0 <= take.start < take.until <= take.seconds:
            yield f"The part of the take “{take.path}” that is used ends before it starts, or lies outside it."
        if not -60 <= take.gain <= 60:
            yield f"The take “{take.path}” can't be made {float(take.gain):g} dB louder."
        for edge in take.edges:
            if not 0 <= edge.start < edge.end <= take.seconds:
                yield f"A word in the take “{take.path}” would end before it starts, or lies outside it."
