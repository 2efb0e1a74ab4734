"""What a check finds: a sentence, the value beside its limit, where, and what mends it."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from enum import IntEnum, StrEnum
from fractions import Fraction

from chapto.document.breakdown import Breakdown
from chapto.review.limits import Limit
from chapto.review.work import Stage


class Group(StrEnum):
    """What a check is about."""

    NOTES = "notes"
    MEETING = "meeting"
    TIME = "time"
    READING = "reading"
    SOUND = "sound"
    PICTURE = "picture"
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

    @property
    def means(self) -> str:
        """What is to be done about it."""
        return {Weight.MUST: "must be mended", Weight.SHOULD: "would make it better"}.get(self, "small")


@dataclass(frozen=True, slots=True)
class Where:
    """A place: watch second `at` where there is one, a beat (by id) and its word, or another `item` (by id)."""

    at: Fraction | None = None
    beat: str = ""
    word: int = 0
    item: str = ""


@dataclass(frozen=True, slots=True)
class Mended:
    """A document in which something is mended, and what was `done`, in a few words."""

    breakdown: Breakdown
    done: str


@dataclass(frozen=True, slots=True)
class Mend:
    """One press that mends a finding, and its `words`. `make` is pure; it raises `ReviewError` where there is no way
    after all. One that is `slow` takes seconds and is not for the interface thread."""

    words: str
    make: Callable[[Breakdown], Mended]
    slow: bool = False


def mend_by(words: str, change: Callable[[Breakdown], Breakdown]) -> Mend:
    """A press that makes one edit."""
    return Mend(words, lambda b: Mended(change(b), words))


@dataclass(frozen=True, slots=True)
class Ask:
    """A line to be filled in that mends a finding: what is asked, the edit that takes the answer, and what stands there
    already."""

    words: str
    answer: Callable[[Breakdown, str], Breakdown]
    text: str = ""


@dataclass(frozen=True, slots=True)
class Finding:
    """`sentence` says it; what was `measured` stands against `limit` where something was. `quote` is what of the
    document it is about, which stays the same as long as it is the same finding. `more` are further places. It is
    mended by hand in its `stage`, if that is another than its check's, or by the
    answer to what it asks."""

    weight: Weight
    sentence: str
    where: Where = Where()
    quote: str = ""
    measured: Fraction | None = None
    limit: Limit | None = None
    mend: Mend | None = None
    more: tuple[Where, ...] = ()
    stage: Stage | None = None
    ask: Ask | None = None

    @property
    def at(self) -> Fraction | None:
        """The watch second of its place."""
        return self.where.at

    @property
    def value(self) -> str:
        """What was measured, in the unit of its limit; empty where nothing was."""
        return "" if self.measured is None or self.limit is None else self.limit.said(self.measured)
