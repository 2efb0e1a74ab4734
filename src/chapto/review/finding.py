"""What a check finds: a sentence, the value beside its limit, and where."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from enum import IntEnum, StrEnum
from fractions import Fraction

from chapto.document.breakdown import Breakdown
from chapto.programme.programme import Programme
from chapto.review.limits import Limit


class Group(StrEnum):
    """What a check is about."""

    MEETING = "meeting"
    TIME = "time"
    READING = "reading"
    TRUTH = "truth"
    WORDS = "words"
    CARE = "care"
    FILE = "file"


class Weight(IntEnum):
    """How much depends on it: a viewer would be misled or kept out, would stumble, or would hardly notice."""

    MAY = 1
    SHOULD = 2
    MUST = 3

    @property
    def said(self) -> str:
        """As it is written."""
        return self.name.lower()


@dataclass(frozen=True, slots=True)
class Where:
    """A place: watch second `at` where there is one, a beat (by id) and its word, or another `item` (by id)."""

    at: Fraction | None = None
    beat: str = ""
    word: int = 0
    item: str = ""


@dataclass(frozen=True, slots=True)
class Finding:
    """`sentence` says it; `value` was measured against `limit` where something was."""

    weight: Weight
    sentence: str
    where: Where = Where()
    value: str = ""
    limit: Limit | None = None

    @property
    def at(self) -> Fraction | None:
        """The watch second of its place."""
        return self.where.at


@dataclass(frozen=True)
class Reviewed:
    """What checks look at."""

    b: Breakdown
    programme: Programme
    limits: Mapping[str, Limit]

    def seconds(self, frame: int) -> Fraction:
        """The watch second of a frame."""
        return frame / self.programme.fps
