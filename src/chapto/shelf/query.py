"""What a line that somebody types asks for: filters that can be pressed away, and words that have to stand there."""

from __future__ import annotations

from dataclasses import dataclass, field
from enum import StrEnum


class Asks(StrEnum):
    """What a filter asks of a place."""

    TECHNIQUE = "technique"
    POSITION = "position"
    BEFORE = "before"
    AFTER = "after"
    PERSON = "person"
    BY = "by"
    AGAINST = "against"
    OUTCOME = "outcome"
    MOMENT = "moment"
    ANSWER = "answer"
    EXPLAINED = "explained"
    SINCE = "since"
    UNTIL = "until"
    LONGER = "longer"
    SHORTER = "shorter"


@dataclass(frozen=True)
class Filter:
    """`value` is an id, a name, a day (ISO 8601), seconds, or a kind; `label` says it to people."""

    asks: Asks
    value: str
    label: str = field(compare=False)


@dataclass(frozen=True)
class Query:
    """All filters and all `words` have to hold. A word is the beginning of one that stands there."""

    filters: tuple[Filter, ...] = ()
    words: tuple[str, ...] = ()

    @property
    def is_empty(self) -> bool:
        """Whether it asks for nothing: everything fits."""
        return not self.filters and not self.words

    def without(self, one: Filter) -> Query:
        """It with a filter pressed away."""
        return Query(tuple(f for f in self.filters if f != one), self.words)

    def adding(self, one: Filter) -> Query:
        """It with one filter more; what asks the same otherwise is replaced."""
        kept = tuple(f for f in self.filters if f.asks is not one.asks)
        return Query((*kept, one), self.words)
