"""What a programme is made of, with its place on the watch clock: frames, or seconds where sound needs no whole
frame."""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum
from fractions import Fraction

from chapto.document.people import Side


class TieState(StrEnum):
    """Whether word and moment meet."""

    MET = "met"
    LATE = "late"
    BROKEN = "broken"


@dataclass(frozen=True, slots=True)
class PlacedWord:
    """Word `word` of a beat, said from watch second `start` to `end`."""

    beat: str
    word: int
    text: str
    start: Fraction
    end: Fraction


@dataclass(frozen=True, slots=True)
class PlacedTie:
    """A tie in the finished programme.

    `said` and `planned` are the watch seconds of the word and of the moment in the fit's plan; `shown` is when
    the moment is on the screen (nearest to the word), None when never. `lag = said − shown`: above 0 the voice
    is late, below 0 it is early.
    """

    beat: str
    word: int
    text: str
    moment: str
    mat: Fraction
    said: Fraction
    planned: Fraction | None
    shown: Fraction | None
    state: TieState

    @property
    def lag(self) -> Fraction | None:
        """Seconds by which the voice comes after the picture; None when the moment is not shown."""
        return None if self.shown is None else self.said - self.shown


@dataclass(frozen=True, slots=True)
class PlacedLabel:
    """A label on the picture for `start ≤ frame < end`, in row `row` counted from the lowest. `by` is who does what it
    names, None where that is not known; `colour` is theirs."""

    label: str
    text: str
    start: int
    end: int
    row: int
    by: Side | None = None
    colour: str = ""


@dataclass(frozen=True, slots=True)
class PlacedInset:
    """A second picture for `start ≤ frame < end`: `footage` from `mat_in` on at `rate`, or a `photo` (by id). It is
    small in a corner, or `beside` the first, each in one half of the picture."""

    start: int
    end: int
    footage: str
    mat_in: Fraction
    rate: Fraction
    fps: Fraction
    beside: bool
    photo: str = ""

    def mat_at(self, frame: int) -> Fraction:
        """Mat time it shows at a frame."""
        return self.mat_in + self.rate * (frame - self.start) / self.fps


@dataclass(frozen=True, slots=True)
class PlacedName:
    """A name at the foot of the picture for `start ≤ frame < end`, what stands under it, and whose it is: an athlete's
    (by side, in a kit `colour`) or a voice's (None)."""

    start: int
    end: int
    name: str
    under: str
    side: Side | None
    colour: str = ""


@dataclass(frozen=True, slots=True)
class PlacedCaution:
    """A line of care for `start ≤ frame < end`, for one class of risk."""

    start: int
    end: int
    risk: str
    text: str


@dataclass(frozen=True, slots=True)
class PlacedSection:
    """The watch frames of one section of the script."""

    section: str
    title: str
    start: int
    end: int


@dataclass(frozen=True, slots=True)
class Chapter:
    """A chapter and its first frame."""

    title: str
    start: int


@dataclass(frozen=True, slots=True)
class Caption:
    """A caption of one or two lines, shown from watch second `start` to `end`."""

    start: Fraction
    end: Fraction
    text: str
