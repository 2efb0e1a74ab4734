"""What is said and what the picture does meanwhile: sections of beats with ties and treatments."""

from __future__ import annotations

import re
from enum import StrEnum
from fractions import Fraction

import msgspec

from chapto.document.mattime import exact

_WORD = re.compile(r"\S+")
MARKS = "\"'“”‘’.,;:!?…()–—-"
"""What may stand round a word and is not of it."""


class BeatKind(StrEnum):
    """What a beat is for."""

    HAPPENED = "what happened"
    WHY = "why"
    SLIP = "slip"
    OPTION = "option"
    RULE = "rule of thumb"
    OPENING = "opening"
    ASK = "ask"
    THANKS = "thanks"
    SPONSOR = "sponsor notice"
    CREDIT = "credit"


class Part(StrEnum):
    """What a section is in the programme. `TALK` explains an exchange, or stands on a title card without one."""

    TALK = "talk"
    OPENING = "opening"
    INTRODUCTION = "introduction"
    RECAP = "recap"
    CREDITS = "credits"


class Run(msgspec.Struct, frozen=True, tag="run", forbid_unknown_fields=True):
    """The picture runs at full speed."""


class Slow(msgspec.Struct, frozen=True, tag="slow", forbid_unknown_fields=True):
    """The picture runs at `rate` (mat seconds a watch second, above 0 and under 1)."""

    rate: Fraction = exact("1/2")


class Hold(msgspec.Struct, frozen=True, tag="hold", forbid_unknown_fields=True):
    """The picture holds on `moment` (by id; where it is when none) while the beat is said."""

    moment: str = ""


class Again(msgspec.Struct, frozen=True, tag="again", forbid_unknown_fields=True):
    """The picture goes back by `back` mat seconds and runs again at `rate`, `times` times over."""

    back: Fraction = exact("5")
    rate: Fraction = exact("1/2")
    times: int = 1


class Skip(msgspec.Struct, frozen=True, tag="skip", forbid_unknown_fields=True):
    """The picture jumps ahead to `moment` (by id) before the beat."""

    moment: str


class Cutaway(msgspec.Struct, frozen=True, tag="cutaway", forbid_unknown_fields=True):
    """Other footage, from mat time `at` on at `rate`, for `seconds` of watch time (0: while the beat is said); as an
    `inset` it is a small second picture, and the first goes on."""

    at: Fraction
    rate: Fraction = exact("1")
    seconds: Fraction = exact("0")
    inset: bool = False


class SideBySide(msgspec.Struct, frozen=True, tag="side by side", forbid_unknown_fields=True):
    """Two attempts started together, from the mat times `one` and `other` on, at `rate`, while the beat is said."""

    one: Fraction
    other: Fraction
    rate: Fraction = exact("1")


class TextCard(msgspec.Struct, frozen=True, tag="card", forbid_unknown_fields=True):
    """A card with `text` while the beat is said."""

    text: str


Treatment = Run | Slow | Hold | Again | Skip | Cutaway | SideBySide | TextCard


class Tie(msgspec.Struct, frozen=True, kw_only=True, forbid_unknown_fields=True):
    """Word number `word` (from 0) of a beat is said when `moment` (by id) is on the screen, which stands for `hold`
    seconds then; None leaves that to the fit."""

    word: int
    moment: str
    hold: Fraction | None = None


class Beat(msgspec.Struct, frozen=True, kw_only=True, forbid_unknown_fields=True):
    """One line of commentary. `treatment` None leaves the picture to the fit."""

    id: str
    text: str
    kind: BeatKind = BeatKind.HAPPENED
    narrator: str = ""
    ties: tuple[Tie, ...] = ()
    treatment: Treatment | None = None


class Allowance(msgspec.Struct, frozen=True, kw_only=True, forbid_unknown_fields=True):
    """What one exchange is allowed beyond the house style: seconds more of holding at one place, of silence, and
    rates, which the smoothness of the style does not bar."""

    hold: Fraction = exact("0")
    silence: Fraction = exact("0")
    rates: tuple[Fraction, ...] = ()


class Section(msgspec.Struct, frozen=True, kw_only=True, forbid_unknown_fields=True):
    """Beats under one exchange (by id), or over a title card when there is none. A title makes a chapter. The exchange
    can be shown once at full speed before the talk (`show_first`) and clean after it (`once_more`). `skips` are mat
    spans (half-open, in order) left out of it; `weight` is its part in a wished length of the whole."""

    id: str
    title: str = ""
    exchange: str = ""
    part: Part = Part.TALK
    show_first: bool = False
    once_more: bool = False
    skips: tuple[tuple[Fraction, Fraction], ...] = ()
    allow: Allowance = msgspec.field(default_factory=Allowance)
    weight: Fraction = exact("1")
    beats: tuple[Beat, ...] = ()


def left_to_the_fit(treatment: Treatment | None) -> bool:
    """Whether the fit decides how the picture moves under a beat. A small second picture leaves that open."""
    return treatment is None or (isinstance(treatment, Cutaway) and treatment.inset)


def word_spans(text: str) -> tuple[tuple[int, int], ...]:
    """Half-open character ranges of the words of `text`, in order."""
    return tuple(m.span() for m in _WORD.finditer(text))


def words_of(text: str) -> tuple[str, ...]:
    """The words of `text` with their punctuation, in order."""
    return tuple(text.split())
