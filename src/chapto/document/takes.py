"""Recordings of a narrator, and what the creator decided about them."""

from __future__ import annotations

from enum import StrEnum
from fractions import Fraction

import msgspec

from chapto.document.mattime import exact


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
    decibels, and it is to be heard `tempo` times as fast as it was read. Of two `channel`s the left (1) or the right
    (2) is heard, or both (0). `cuts` are stretches that are left out (half-open seconds, in order), and `cleaned` says
    whether noise is taken out of it. Where several `chosen` takes hold a beat, the nearest one counts: beat before
    section before whole, and among these the last. One marked `again` is to be read once more.
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
    tempo: Fraction = exact("1")
    channel: int = 0
    cleaned: bool = True
    cuts: tuple[tuple[Fraction, Fraction], ...] = ()
    edges: tuple[WordEdge, ...] = ()
    chosen: bool = True
    again: bool = False

    @property
    def until(self) -> Fraction:
        """The second at which the used part ends."""
        return self.end or self.seconds
