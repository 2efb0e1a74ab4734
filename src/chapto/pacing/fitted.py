"""What goes into the fit of one exchange and what comes out. All times are exact seconds."""

from __future__ import annotations

from dataclasses import dataclass
from fractions import Fraction

from chapto.clock.passage import Kind
from chapto.document.script import Treatment


@dataclass(frozen=True, slots=True)
class Stop:
    """Word `word` of a beat belongs to the mat time `mat`."""

    word: int
    mat: Fraction


@dataclass(frozen=True, slots=True)
class FitBeat:
    """A beat as the fit sees it: its stops in word order, where a Hold holds, and where phrases begin."""

    id: str
    stops: tuple[Stop, ...]
    phrases: tuple[int, ...]
    treatment: Treatment | None = None
    hold_at: Fraction | None = None


@dataclass(frozen=True, slots=True)
class FitExchange:
    """The stretch of mat time to show (half-open) and the beats said meanwhile."""

    start: Fraction
    end: Fraction
    beats: tuple[FitBeat, ...]


@dataclass(frozen=True, slots=True)
class Leg:
    """The picture from `mat_in` on, at `rate`, for `seconds` of watch time."""

    kind: Kind
    mat_in: Fraction
    rate: Fraction
    seconds: Fraction


@dataclass(frozen=True, slots=True)
class Phrase:
    """Words `first ≤ i < end` of a beat, said without a pause made by the fit; `at` is the watch time of the
    line's second `voice_in`, counted from the start of the exchange; it lasts to `voice_out`."""

    beat: str
    first: int
    end: int
    voice_in: Fraction
    voice_out: Fraction
    at: Fraction


@dataclass(frozen=True, slots=True)
class PlannedTie:
    """When a tied word is said and when its moment comes on the screen, from the start of the exchange."""

    beat: str
    word: int
    mat: Fraction
    said: Fraction
    shown: Fraction | None


@dataclass(frozen=True, slots=True)
class Shortfall:
    """A tie the style's limits do not allow: by how much, in a sentence."""

    beat: str
    word: int
    seconds: Fraction
    sentence: str


@dataclass(frozen=True, slots=True)
class Fitted:
    """The picture and the voice of one exchange, both `seconds` long."""

    legs: tuple[Leg, ...]
    phrases: tuple[Phrase, ...]
    ties: tuple[PlannedTie, ...]
    shortfalls: tuple[Shortfall, ...]
    seconds: Fraction
