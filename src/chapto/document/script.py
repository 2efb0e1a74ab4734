"""What is said and what the picture does meanwhile: sections of beats with ties and treatments."""

from __future__ import annotations

import re
from enum import StrEnum
from fractions import Fraction

import msgspec

from chapto.document.mattime import exact

_WORD = re.compile(r"\S+")


class BeatKind(StrEnum):
    """What a beat is for."""

    HAPPENED = "what happened"
    WHY = "why"
    SLIP = "slip"
    OPTION = "option"
    RULE = "rule of thumb"
    OPENING = "opening"
    ASK = "ask"
    CREDIT = "credit"


class Run(msgspec.Struct, frozen=True, tag="run", forbid_unknown_fields=True):
    """The picture runs at full speed."""


class Slow(msgspec.Struct, frozen=True, tag="slow", forbid_unknown_fields=True):
    """The picture runs at `rate` (mat seconds a watch second, above 0 and under 1)."""

    rate: Fraction = exact("1/2")


class Hold(msgspec.Struct, frozen=True, tag="hold", forbid_unknown_fields=True):
    """The picture holds on `moment` (by id; where it is when none) while the beat is said."""

    moment: str = ""


class Again(msgspec.Struct, frozen=True, tag="again", forbid_unknown_fields=True):
    """The picture goes back by `back` mat seconds and runs again at `rate`."""

    back: Fraction = exact("5")
    rate: Fraction = exact("1/2")


class Cutaway(msgspec.Struct, frozen=True, tag="cutaway", forbid_unknown_fields=True):
    """Other footage, from mat time `at` on at `rate`, while the beat is said."""

    at: Fraction
    rate: Fraction = exact("1")


Treatment = Run | Slow | Hold | Again | Cutaway


class Tie(msgspec.Struct, frozen=True, kw_only=True, forbid_unknown_fields=True):
    """Word number `word` (from 0) of a beat is said when `moment` (by id) is on the screen."""

    word: int
    moment: str


class Beat(msgspec.Struct, frozen=True, kw_only=True, forbid_unknown_fields=True):
    """One line of commentary. `treatment` None leaves the picture to the fit."""

    id: str
    text: str
    kind: BeatKind = BeatKind.HAPPENED
    narrator: str = ""
    ties: tuple[Tie, ...] = ()
    treatment: Treatment | None = None


class Section(msgspec.Struct, frozen=True, kw_only=True, forbid_unknown_fields=True):
    """Beats under one exchange (by id), or over a title card when there is none. A title makes a chapter. The exchange
    can be shown once at full speed before the talk (`show_first`) and clean after it (`once_more`)."""

    id: str
    title: str = ""
    exchange: str = ""
    show_first: bool = False
    once_more: bool = False
    beats: tuple[Beat, ...] = ()


def word_spans(text: str) -> tuple[tuple[int, int], ...]:
    """Half-open character ranges of the words of `text`, in order."""
    return tuple(m.span() for m in _WORD.finditer(text))


def words_of(text: str) -> tuple[str, ...]:
    """The words of `text` with their punctuation, in order."""
    return tuple(text.split())
