"""A way out, an edit to be tried, and the trouble it is to lead out of."""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass, field
from fractions import Fraction

from chapto.document.breakdown import Breakdown
from chapto.document.script import Beat, Section, words_of
from chapto.pacing.fitted import Fitted, Shortfall
from chapto.pacing.offers import Peak
from chapto.pacing.spoken import SpokenLine
from chapto.pacing.styles import HouseStyle, Weights

Edit = Callable[[Breakdown], Breakdown]

MOVED = 6.0
"""Points for the creator's own order or treatment changed."""
UNTIE = 40.0
"""Points an untied word costs: it was a promise, so nearly anything else comes first."""


@dataclass(frozen=True, slots=True)
class WayOut:
    """An edit in the creator's words, and what it costs in points of the house style. Of one `family` are ways that do
    the same by more or less. One that `asks` leads out only when the creator has done the rest."""

    text: str
    change: Edit
    cost: float
    family: str = ""
    asks: bool = False


@dataclass(frozen=True, slots=True)
class Try:
    """An edit to be tried: its own price, the lines it shortens, and where the late word stands after it."""

    family: str
    text: str
    change: Edit
    price: float = 0.0
    lines: dict[str, SpokenLine] = field(default_factory=dict)
    word: int | None = None
    asks: bool = False


@dataclass(frozen=True, slots=True)
class Trouble:
    """One shortfall with what it is about. `others` are those of its section, `fitted` the section as it is. All
    exchanges pass their part of the length by `over` seconds. `peak` finds where most happens."""

    b: Breakdown
    lack: Shortfall
    others: tuple[Shortfall, ...]
    section: Section
    beat: Beat
    lines: dict[str, SpokenLine]
    style: HouseStyle
    over: float
    fitted: Fitted
    peak: Peak | None = None

    @property
    def weights(self) -> Weights:
        """The points of the section's house style."""
        return self.style.weights

    @property
    def script(self) -> tuple[Section, ...]:
        """All sections."""
        return self.b.script

    @property
    def word_text(self) -> str:
        """The word it is about, without the marks round it."""
        words = words_of(self.beat.text)
        return words[self.lack.word].strip(".,;:!?") if self.lack.word < len(words) else ""


def rounded_up(seconds: Fraction) -> Fraction:
    """The next tenth of a second."""
    return Fraction(math.ceil(seconds * 10), 10)
