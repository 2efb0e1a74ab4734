"""What can be dragged in the lacing, and what each drag means for the document. Free of Qt.

Every drag has the `place` on the axis it starts from; `said(place)` is what stands beside the pointer on the way, and
`edit(place)` the edit made when it is let go: the words of undo and the change, or None where nothing changes.
"""

from __future__ import annotations

from bisect import bisect_right
from collections.abc import Callable
from dataclasses import dataclass
from fractions import Fraction
from functools import partial
from typing import Protocol

from msgspec.structs import replace

from chapto.app.lacing.model import Band, Lace, LacingModel, Pin
from chapto.clock.passage import Kind
from chapto.clock.timecode import clock_text
from chapto.document import edit_breakdown, edit_log, edit_pacing, edit_script
from chapto.document.breakdown import Breakdown
from chapto.document.treatments import Again, Cutaway, Loop, Run, Slow

Edit = tuple[str, Callable[[Breakdown], Breakdown]]
SLOWEST, RATE_STEP, SECONDS_STEP = 0.1, 20, 10
"""The slowest rate a band can be pulled to; rates go by twentieths, seconds by tenths."""
OF_BAND = {Kind.AGAIN: Again, Kind.LOOP: Loop, Kind.CUTAWAY: Cutaway}
"""The treatment that an edge of such a band changes."""
NEAR_PIN = 0.15
"""Seconds of the axis within which a moment is meant."""


class Drag(Protocol):
    """Something taken hold of."""

    @property
    def place(self) -> float: ...

    @property
    def step(self) -> float:
        """How far one press of a key moves it."""
        ...

    def said(self, place: float) -> str: ...

    def edit(self, place: float) -> Edit | None: ...


@dataclass(frozen=True)
class PinDrag:
    """A moment moves along the mat clock, within its stretch."""

    model: LacingModel
    pin: Pin

    @property
    def place(self) -> float:
        return self.pin.place

    @property
    def step(self) -> float:
        return 1 / self.model.fps

    def mat_at(self, place: float) -> float:
        """Mat second at a place, kept within the stretch."""
        s = self.model.stretches[self.pin.stretch]
        return min(max(s.mat_at(place), s.mat_in), s.mat_out)

    def said(self, place: float) -> str:
        mat = self.mat_at(place)
        return f"mat {clock_text(mat, tenths=True)}  ({mat - self.pin.mat:+.2f} s)"

    def edit(self, place: float) -> Edit | None:
        mat = Fraction(round(self.mat_at(place) * 1000), 1000)
        if abs(mat - self.pin.mat) <= 0.005:
            return None
        return "move the moment", partial(edit_log.change_moment, moment_id=self.pin.moment, at=mat)


@dataclass(frozen=True)
class WordDrag:
    """A word pulled up to the mat rail is tied to the moment there, or to a new one."""

    model: LacingModel
    beat: str
    word: int
    text: str
    place: float

    @property
    def step(self) -> float:
        return 0.0

    def mat_at(self, place: float) -> Fraction | None:
        """Mat time over a place; that of a moment where one is near."""
        s = self.model.stretch_at(place)
        if s is None:
            return None
        near = self.model.pins_in(place - NEAR_PIN, place + NEAR_PIN)
        mat = min(near, key=lambda p: abs(p.place - place)).mat if near else s.mat_at(place)
        return Fraction(round(mat * 1000), 1000)

    def said(self, place: float) -> str:
        mat = self.mat_at(place)
        return f"tie “{self.text.strip('.,;:!?')}” to {clock_text(mat, tenths=True)}" if mat is not None else ""

    def edit(self, place: float) -> Edit | None:
        mat = self.mat_at(place)
        if mat is None:
            return None
        return "tie the word", partial(edit_script.tie_at, beat_id=self.beat, word=self.word, mat=mat)


@dataclass(frozen=True)
class LaceDrag:
    """The tie goes to another word of its beat; pulled `up` to the mat rail, to another moment."""

    model: LacingModel
    lace: Lace

    @property
    def up(self) -> WordDrag:
        return WordDrag(self.model, self.lace.beat, self.lace.word, self.lace.text, self.lace.said)

    @property
    def place(self) -> float:
        return self.lace.said

    @property
    def step(self) -> float:
        return 0.0

    def word_at(self, place: float) -> tuple[int, str]:
        """The word of the beat that is said nearest to a place."""
        own = self.model.words_of(self.lace.beat)
        i = max(bisect_right([float(w.start) for w in own], place) - 1, 0)
        return own[i].word, own[i].text

    def said(self, place: float) -> str:
        word, text = self.word_at(place)
        return f"tie “{text.strip('.,;:!?')}”" if word != self.lace.word else f"“{self.lace.text}” as it is"

    def edit(self, place: float) -> Edit | None:
        return self.to_word(self.word_at(place)[0])

    def to_word(self, word: int) -> Edit | None:
        """The tie on word number `word` of its beat."""
        if word == self.lace.word:
            return None
        return "tie another word", partial(
            edit_script.move_tie, beat_id=self.lace.beat, word=self.lace.word, to=word
        )  # fmt: skip


@dataclass(frozen=True)
class EdgeDrag:
    """The right edge of a band: how long a hold stands, how fast a passage runs, how long other footage is shown."""

    model: LacingModel
    breakdown: Breakdown
    band: Band

    @property
    def place(self) -> float:
        return self.band.end

    @property
    def step(self) -> float:
        return 1 / SECONDS_STEP

    @staticmethod
    def can(b: Breakdown, band: Band) -> bool:
        """Whether the edge of a band means something the creator can set."""
        if band.kind is Kind.HOLD:
            return band.word >= 0
        if not band.beat or band.kind is Kind.CARD:
            return False
        treatment = b.find_beat(band.beat)[1].treatment
        own = OF_BAND.get(band.kind)
        if own is not None:
            return isinstance(treatment, own)
        return treatment is None or isinstance(treatment, Run | Slow)

    def _seconds(self, place: float) -> Fraction:
        return Fraction(max(round((place - self.band.start) * SECONDS_STEP), 0), SECONDS_STEP)

    def _rate(self, place: float) -> Fraction:
        mat = (self.band.end - self.band.start) * abs(self.band.rate)
        rate = mat / max(place - self.band.start, 1e-6)
        return Fraction(round(min(max(rate, SLOWEST), 1.0) * RATE_STEP), RATE_STEP)

    def said(self, place: float) -> str:
        if self.band.kind in (Kind.HOLD, Kind.CUTAWAY):
            seconds = self._seconds(place)
            more = float(seconds) - (self.band.end - self.band.start)
            return f"{self.band.kind.value} {float(seconds):.1f} s  ({more:+.1f} s)"
        return f"{float(self._rate(place)):g}×"

    def edit(self, place: float) -> Edit | None:
        if abs(place - self.band.end) < 0.5 / SECONDS_STEP:
            return None
        beat = self.breakdown.find_beat(self.band.beat)[1]
        if self.band.kind is Kind.HOLD:
            seconds = self._seconds(place)
            return "hold longer or shorter", partial(
                edit_script.hold_at, beat_id=beat.id, word=self.band.word, seconds=seconds
            )  # fmt: skip
        treat = partial(edit_script.treat, beat_id=beat.id)
        if isinstance(beat.treatment, Cutaway):
            lasting = replace(beat.treatment, seconds=max(self._seconds(place), Fraction(1, 2)))
            return "change how long it is shown", partial(treat, treatment=lasting)
        rate = self._rate(place)
        if isinstance(beat.treatment, Again | Loop):
            return "change the speed", partial(treat, treatment=replace(beat.treatment, rate=rate))
        return "change the speed", partial(treat, treatment=Run() if rate >= 1 else Slow(rate))

    def freed(self) -> Edit | None:
        """The edge given back to the fit."""
        beat = self.breakdown.find_beat(self.band.beat)[1]
        if self.band.kind is Kind.HOLD:
            if all(t.word != self.band.word or t.hold_seconds is None for t in beat.ties):
                return None
            return "let the fit decide", partial(
                edit_script.hold_at, beat_id=beat.id, word=self.band.word, seconds=None
            )  # fmt: skip
        if beat.treatment is None:
            return None
        return "let the fit decide", partial(edit_script.treat, beat_id=beat.id, treatment=None)


@dataclass(frozen=True)
class SectionDrag:
    """A section goes to another place in the order."""

    model: LacingModel
    section: str

    @property
    def place(self) -> float:
        return next(s.start for s in self.model.sections if s.section == self.section) / self.model.fps

    @property
    def step(self) -> float:
        return 0.0

    def goes_before(self, place: float) -> int:
        """The number, in the order as it is, of the section before which it would come."""
        middles = [(s.start + s.end) / 2 / self.model.fps for s in self.model.sections]
        return bisect_right(middles, place)

    def marker(self, place: float) -> float:
        """Where on the axis it would be put in."""
        i = self.goes_before(place)
        sections = self.model.sections
        return (sections[i].start if i < len(sections) else sections[-1].end) / self.model.fps

    def _own(self) -> int:
        return next(i for i, s in enumerate(self.model.sections) if s.section == self.section)

    def _by(self, place: float) -> int:
        own = self._own()
        to = self.goes_before(place)
        return to - own if to <= own else to - own - 1

    def said(self, place: float) -> str:
        by = self._by(place)
        if not by:
            return "stays where it is"
        other = self.model.sections[self._own() + by]
        where = "before" if by < 0 else "after"
        return f"{where} “{other.title}”" if other.title else f"{abs(by)} place{'s' if abs(by) > 1 else ''} {where}"

    def edit(self, place: float) -> Edit | None:
        by = self._by(place)
        if not by:
            return None
        return "move the section", partial(edit_script.move_section, section_id=self.section, by=by)


@dataclass(frozen=True)
class TargetDrag:
    """The flag of the wished length."""

    model: LacingModel
    limit: bool

    @property
    def place(self) -> float:
        return self.model.target

    @property
    def step(self) -> float:
        return 1.0

    def said(self, place: float) -> str:
        seconds = max(round(place), 1)
        return f"wished {clock_text(seconds)}  ({seconds - self.model.seconds:+.0f} s)"

    def edit(self, place: float) -> Edit | None:
        seconds = max(round(place), 1)
        if seconds == self.model.target:
            return None
        return "wish for a length", partial(edit_breakdown.set_target, seconds=seconds, limit=self.limit)


@dataclass(frozen=True)
class SkipDrag:
    """A stretch of mat time drawn over to be left out."""

    model: LacingModel
    start: float

    @property
    def place(self) -> float:
        return self.start

    @property
    def step(self) -> float:
        return 0.0

    def span(self, place: float) -> tuple[Fraction, Fraction] | None:
        """Mat seconds between the start and a place on the same stretch."""
        s = self.model.stretch_at(self.start)
        if s is None:
            return None
        ends = sorted(min(max(s.mat_at(x), s.mat_in), s.mat_out) for x in (self.start, place))
        return Fraction(round(ends[0] * 10), 10), Fraction(round(ends[1] * 10), 10)

    def said(self, place: float) -> str:
        span = self.span(place)
        return f"skip {float(span[1] - span[0]):.1f} s" if span else ""

    def edit(self, place: float) -> Edit | None:
        span, s = self.span(place), self.model.stretch_at(self.start)
        if span is None or s is None or span[1] - span[0] < Fraction(1, 2):
            return None
        return "skip a stretch", partial(edit_pacing.skip_span, section_id=s.section, start=span[0], end=span[1])
