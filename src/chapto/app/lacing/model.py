"""What the lacing shows, worked out from document and programme. Free of Qt.

Everything has a place on one axis, seconds of watch time. A section's stretch of mat time is laid over the
section's own stretch of that axis, so both rails zoom in step; mat time that the programme skips falls between.
Every list is in the order of the axis, so that what is in view is found by bisection.
"""

from __future__ import annotations

from bisect import bisect_left, bisect_right
from collections.abc import Sequence
from dataclasses import dataclass
from functools import cached_property

from chapto.app.lacing.knots import Knot, between
from chapto.clock.passage import Kind
from chapto.document.people import Side
from chapto.programme.block import PlacedBlock
from chapto.programme.placed import PlacedSection, PlacedWord, TieState


@dataclass(frozen=True, slots=True)
class Stretch:
    """Mat time `mat_in … mat_out` of a section's picture, drawn from `start` to `end` on the axis, as its `knots` say
    from the section's own start. `round` it lies in, `skips` of it are left out by hand (mat seconds)."""

    section: str
    title: str
    technique: str
    mat_in: float
    mat_out: float
    start: float
    end: float
    round: str = ""
    skips: tuple[tuple[float, float], ...] = ()
    knots: tuple[Knot, ...] = ()

    def place(self, mat: float) -> float:
        """Where a mat time lies on the axis."""
        return self.start + between(self.knots or self._even, mat)

    def mat_at(self, place: float) -> float:
        """The mat time at a place on the axis."""
        return between(self.knots or self._even, place - self.start, back=True)

    @property
    def _even(self) -> tuple[Knot, ...]:
        return (self.mat_in, 0.0), (self.mat_out, self.end - self.start)


@dataclass(frozen=True, slots=True)
class Card:
    """A section without a stretch of its own."""

    section: str
    text: str
    start: float
    end: float


@dataclass(frozen=True, slots=True)
class Band:
    """A passage: `start … end` on the watch rail; `top` is its stretch on the mat rail, None for other footage. `beat`
    is said over it (the one before it where nobody talks), and of a hold `word` is the tied word it stands for (−1)."""

    passage: int
    kind: Kind
    start: float
    end: float
    top: tuple[float, float] | None
    rate: float
    mat_in: float
    beat: str = ""
    word: int = -1


@dataclass(frozen=True, slots=True)
class Pin:
    """A moment on the mat rail."""

    moment: str
    kind: str
    note: str
    mat: float
    place: float
    stretch: int


@dataclass(frozen=True, slots=True)
class Lace:
    """A tie: the word is said at `said`, its moment is on the screen at `shown` (None when never)."""

    beat: str
    word: int
    text: str
    said: float
    shown: float | None
    pin: float | None
    lag: float | None
    state: TieState
    moment: str = ""


@dataclass(frozen=True, slots=True)
class OfferedLace:
    """A tie that offers itself: the word is said at `said`, what it likeliest means is at `pin` on the mat rail."""

    beat: str
    word: int
    said: float
    pin: float


@dataclass(frozen=True, slots=True)
class Phrase:
    """Words of one beat said without a long pause."""

    beat: str
    start: float
    end: float
    text: str


@dataclass(frozen=True, slots=True)
class Control:
    """What the two are in from place to place of the axis, and who controls, by the colour of the kit (none: empty)."""

    start: float
    end: float
    kit: str
    position: str = ""


@dataclass(frozen=True, slots=True)
class Scored:
    """Points at a place of the axis."""

    place: float
    side: Side
    points: int
    kit: str


@dataclass(frozen=True, slots=True)
class Second:
    """A second picture on the screen."""

    start: float
    end: float
    beside: bool


@dataclass(frozen=True, slots=True)
class Trouble:
    """What does not fit, at the word it is about."""

    place: float
    beat: str
    word: int
    sentence: str


@dataclass(frozen=True)
class LacingModel:
    """Everything the lacing draws; `seconds` is the length of the axis, `target` the wished one (0: none)."""

    seconds: float
    stretches: tuple[Stretch, ...]
    cards: tuple[Card, ...]
    bands: tuple[Band, ...]
    pins: tuple[Pin, ...]
    laces: tuple[Lace, ...]
    blocks: tuple[PlacedBlock, ...]
    phrases: tuple[Phrase, ...]
    sections: tuple[PlacedSection, ...]
    seconds_shown: tuple[Second, ...]
    troubles: tuple[Trouble, ...]
    fps: float
    target: float = 0.0
    offered: tuple[OfferedLace, ...] = ()

    @cached_property
    def _band_starts(self) -> list[float]:
        return [b.start for b in self.bands]

    @cached_property
    def _lace_places(self) -> list[float]:
        return [x.said for x in self.laces]

    @cached_property
    def _offered_places(self) -> list[float]:
        return [x.said for x in self.offered]

    def offered_in(self, start: float, end: float) -> Sequence[OfferedLace]:
        """Offered laces whose word is said between two places."""
        return self.offered[bisect_left(self._offered_places, start) : bisect_right(self._offered_places, end)]

    @property
    def words(self) -> tuple[PlacedWord, ...]:
        """Every word that is said, in order. Of a long programme `words_in` asks for a few only."""
        return tuple(w for block in self.blocks for w in block.words)

    @cached_property
    def _block_starts(self) -> list[float]:
        return [block.start / self.fps for block in self.blocks]

    @cached_property
    def _phrase_starts(self) -> list[float]:
        return [x.start for x in self.phrases]

    @cached_property
    def _stretch_starts(self) -> list[float]:
        return [s.start for s in self.stretches]

    def bands_in(self, start: float, end: float) -> Sequence[Band]:
        """Bands that are in part between two places."""
        return self.bands[max(bisect_right(self._band_starts, start) - 1, 0) : bisect_left(self._band_starts, end)]

    def laces_in(self, start: float, end: float) -> Sequence[Lace]:
        """Laces whose word is said between two places."""
        return self.laces[bisect_left(self._lace_places, start) : bisect_right(self._lace_places, end)]

    def words_in(self, start: float, end: float) -> Sequence[PlacedWord]:
        """Words that are said, in part, between two places."""
        low = max(bisect_right(self._block_starts, start) - 2, 0)
        near = (block.words for block in self.blocks[low : bisect_left(self._block_starts, end)])
        words = [w for part in near for w in part]
        starts = [float(w.start) for w in words]
        return words[max(bisect_right(starts, start) - 1, 0) : bisect_left(starts, end)]

    def words_of(self, beat: str) -> tuple[PlacedWord, ...]:
        """The words of one beat."""
        said = (x for x in self.blocks if any(phrase.beat == beat for phrase in x.block.voice))
        return tuple(w for x in said for w in x.words if w.beat == beat)

    def phrases_in(self, start: float, end: float) -> Sequence[Phrase]:
        """Phrases that are said, in part, between two places."""
        low = max(bisect_right(self._phrase_starts, start) - 1, 0)
        return self.phrases[low : bisect_left(self._phrase_starts, end)]

    @cached_property
    def _edges(self) -> list[tuple[float, str]]:
        return [(s.start / self.fps, s.title) for s in self.sections]

    @cached_property
    def _chapters(self) -> list[tuple[float, float, str]]:
        titled = [(start, title) for start, title in self._edges if title]
        ends = [start for start, _ in titled[1:]] + [self.seconds]
        return [(start, end, title) for (start, title), end in zip(titled, ends, strict=False)]

    def edges_in(self, start: float, end: float) -> Sequence[tuple[float, str]]:
        """Where sections begin between two places, each with its title."""
        return self._edges[bisect_left(self._edges, (start, "")) : bisect_right(self._edges, (end, ""))]

    def chapters_in(self, start: float, end: float) -> Sequence[tuple[float, float, str]]:
        """Start, end and title of the chapters that are in part between two places."""
        low = max(bisect_right(self._chapters, (start, 0.0, "")) - 1, 0)
        return self._chapters[low : bisect_left(self._chapters, (end, 0.0, ""))]

    @cached_property
    def _pins_in_order(self) -> list[Pin]:
        return sorted(self.pins, key=lambda p: p.place)

    @cached_property
    def _pin_places(self) -> list[float]:
        return [p.place for p in self._pins_in_order]

    def pins_in(self, start: float, end: float) -> Sequence[Pin]:
        """Moments between two places, in order."""
        low, high = bisect_left(self._pin_places, start), bisect_right(self._pin_places, end)
        return self._pins_in_order[low:high]

    def stretch_at(self, place: float) -> Stretch | None:
        """The stretch of mat time drawn at a place on the axis."""
        i = bisect_right(self._stretch_starts, place) - 1
        return self.stretches[i] if i >= 0 and place < self.stretches[i].end else None

    def band_at(self, place: float) -> Band | None:
        """The passage on the screen at a place of the axis."""
        return next((b for b in self.bands_in(place, place + 1e-9) if b.start <= place < b.end), None)
