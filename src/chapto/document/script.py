"""What is said and what the picture does meanwhile: sections of beats with ties and treatments."""

from __future__ import annotations

import re
from collections.abc import Callable
from enum import StrEnum
from fractions import Fraction

import msgspec
from msgspec.structs import replace

from chapto.document.mattime import exact
from chapto.document.treatments import Treatment

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
    DEMONSTRATION = "demonstration"
    WANTS = "what each wants"
    THOUGHT = "what I was thinking"
    QUESTION = "question"
    INVITATION = "invitation to comment"
    CARE = "care"
    STEP = "step"
    VIEWERS = "question to the viewers"


class Part(StrEnum):
    """What a section is in the programme. `TALK` explains an exchange, or stands on a title card without one."""

    TALK = "talk"
    OPENING = "opening"
    INTRODUCTION = "introduction"
    RECAP = "recap"
    CREDITS = "credits"


class Tie(msgspec.Struct, frozen=True, kw_only=True, forbid_unknown_fields=True, rename={"hold_seconds": "hold"}):
    """Word number `word` (from 0) of a beat is said when `moment` (by id) is on the screen. The picture stands for
    `hold_seconds` watch seconds then; None leaves that to the fit."""

    word: int
    moment: str
    hold_seconds: Fraction | None = None


class Stamp(msgspec.Struct, frozen=True, kw_only=True, forbid_unknown_fields=True):
    """A time that came with the script: word number `word` was written beside mat second `at`. It ties nothing until
    the creator says so."""

    word: int
    at: Fraction


class Turn(msgspec.Struct, frozen=True, kw_only=True, forbid_unknown_fields=True):
    """From word number `word` (from 1) of a beat on the picture does something else: `treatment`, or what the fit
    decides (None)."""

    word: int
    treatment: Treatment | None = None


class Beat(msgspec.Struct, frozen=True, kw_only=True, forbid_unknown_fields=True):
    """One line of commentary. `treatment` None leaves the picture to the fit; in `turns`, in the order of their words,
    it changes inside the beat. It begins `overlap` seconds before the one above it is out, when another voice says it.
    `drafted` is the text as Chapto wrote it from the log; while `text` is the same, nobody has touched it."""

    id: str
    text: str
    kind: BeatKind = BeatKind.HAPPENED
    narrator: str = ""
    overlap: Fraction = exact("0")
    ties: tuple[Tie, ...] = ()
    stamps: tuple[Stamp, ...] = ()
    treatment: Treatment | None = None
    turns: tuple[Turn, ...] = ()
    drafted: str = ""

    def treatments(self) -> tuple[Treatment, ...]:
        """Everything the picture is asked to do under it, in order."""
        all_of_it = (self.treatment, *(turn.treatment for turn in self.turns))
        return tuple(t for t in all_of_it if t is not None)

    def treated_at(self, word: int) -> Treatment | None:
        """What the picture does at a word."""
        there = [turn.treatment for turn in self.turns if turn.word <= word]
        return there[-1] if there else self.treatment

    def with_treatments(self, change: Callable[[Treatment], Treatment | None]) -> Beat:
        """The same with each treatment changed; None leaves the picture to the fit."""
        own = None if self.treatment is None else change(self.treatment)
        turns = tuple(t if t.treatment is None else replace(t, treatment=change(t.treatment)) for t in self.turns)
        return replace(self, treatment=own, turns=turns)


class Allowance(
    msgspec.Struct,
    frozen=True,
    kw_only=True,
    forbid_unknown_fields=True,
    rename={"hold_seconds": "hold", "silence_seconds": "silence"},
):
    """What one exchange is allowed beyond the house style: seconds more of holding at one place, of silence, and
    rates, which the smoothness of the style does not bar."""

    hold_seconds: Fraction = exact("0")
    silence_seconds: Fraction = exact("0")
    rates: tuple[Fraction, ...] = ()


class Section(msgspec.Struct, frozen=True, kw_only=True, forbid_unknown_fields=True):
    """Beats under one exchange (by id), or over a title card when there is none. A title makes a chapter.

    The exchange can be shown once at full speed before the talk (`show_first`) and clean after it (`once_more`). Each
    is seen from `first_camera` or `more_camera` (by name) where one is named. One that is shown `as_filmed` speaks for
    itself: nobody talks over it, and its beats are the words that are heard in it. `skips` are mat spans (half-open, in
    order) left out of it. `style` names a house style of its own; `weight` is its part in a wished length of the whole.
    """

    id: str
    title: str = ""
    exchange: str = ""
    part: Part = Part.TALK
    show_first: bool = False
    once_more: bool = False
    first_camera: str = ""
    more_camera: str = ""
    as_filmed: bool = False
    style: str = ""
    skips: tuple[tuple[Fraction, Fraction], ...] = ()
    allow: Allowance = msgspec.field(default_factory=Allowance)
    weight: Fraction = exact("1")
    beats: tuple[Beat, ...] = ()


def word_spans(text: str) -> tuple[tuple[int, int], ...]:
    """Half-open character ranges of the words of `text`, in order."""
    return tuple(m.span() for m in _WORD.finditer(text))


def plain_word(word: str) -> str:
    """A word in small letters, without the marks round it."""
    return word.strip(MARKS).casefold().replace("’", "'")


def words_of(text: str) -> tuple[str, ...]:
    """The words of `text` with their punctuation, in order."""
    return tuple(text.split())
