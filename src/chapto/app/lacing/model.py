"""What the lacing shows, worked out from document and programme. Free of Qt.

Everything has a place on one axis, seconds of watch time. A section's stretch of mat time is laid over the
section's own stretch of that axis, so both rails zoom in step; mat time that the programme skips falls between.
"""

from __future__ import annotations

from dataclasses import dataclass

from chapto.clock.passage import STILL, Kind, Passage
from chapto.document.breakdown import Breakdown
from chapto.programme.programme import PlacedSection, PlacedTie, Programme, TieState


@dataclass(frozen=True, slots=True)
class Stretch:
    """Mat time `mat_in … mat_out` of an exchange, drawn from `start` to `end` on the axis."""

    section: str
    title: str
    technique: str
    mat_in: float
    mat_out: float
    start: float
    end: float

    def place(self, mat: float) -> float:
        """Where a mat time lies on the axis."""
        return self.start + (mat - self.mat_in) / (self.mat_out - self.mat_in) * (self.end - self.start)

    def mat_at(self, place: float) -> float:
        """The mat time at a place on the axis."""
        return self.mat_in + (place - self.start) / (self.end - self.start) * (self.mat_out - self.mat_in)


@dataclass(frozen=True, slots=True)
class Band:
    """A passage: `start … end` on the watch rail; `top` is its stretch on the mat rail, None for other footage."""

    passage: int
    kind: Kind
    start: float
    end: float
    top: tuple[float, float] | None
    rate: float
    mat_in: float


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


@dataclass(frozen=True, slots=True)
class Word:
    """A spoken word on the watch rail."""

    beat: str
    word: int
    text: str
    start: float
    end: float


@dataclass(frozen=True, slots=True)
class LacingModel:
    """Everything the lacing draws; `seconds` is the length of the axis."""

    seconds: float
    stretches: tuple[Stretch, ...]
    cards: tuple[PlacedSection, ...]
    bands: tuple[Band, ...]
    pins: tuple[Pin, ...]
    laces: tuple[Lace, ...]
    words: tuple[Word, ...]
    sections: tuple[PlacedSection, ...]
    fps: float

    def stretch_at(self, place: float) -> Stretch | None:
        """The stretch of mat time drawn at a place on the axis."""
        return next((s for s in self.stretches if s.start <= place < s.end), None)


def lacing_model(b: Breakdown, p: Programme) -> LacingModel:
    """The lacing of programme `p` compiled from `b`."""
    fps = float(p.fps)
    stretches: list[Stretch] = []
    cards: list[PlacedSection] = []
    bands: list[Band] = []
    by_id = {s.id: s for s in b.script}
    exchanges = {x.id: x for x in b.exchanges}
    for placed in p.sections:
        inside = [(i, x) for i, x in enumerate(p.passages) if placed.start <= x.watch_in < placed.end]
        exchange = exchanges.get(by_id[placed.section].exchange)
        stretch = None
        if exchange is None:
            cards.append(placed)
        elif placed.end > placed.start:
            home = [x for _, x in inside if x.kind is not Kind.CUTAWAY and x.footage]
            mat_in = min([float(exchange.start), *(float(x.mat_in) for x in home)])
            mat_out = max([float(exchange.end), *(float(x.mat_out) for x in home)])
            span = placed.start / fps, placed.end / fps
            stretch = Stretch(placed.section, placed.title, exchange.technique, mat_in, mat_out, *span)
            stretches.append(stretch)
        bands += [_band(i, x, stretch, fps) for i, x in inside]
    pins = tuple(
        Pin(m.id, m.kind.value, m.note, float(m.at), s.place(float(m.at)), i)
        for i, s in enumerate(stretches)
        for m in b.moments
        if s.mat_in <= float(m.at) <= s.mat_out
    )
    return LacingModel(
        seconds=float(p.seconds),
        stretches=tuple(stretches),
        cards=tuple(cards),
        bands=tuple(bands),
        pins=pins,
        laces=tuple(_lace(t, stretches) for t in p.ties),
        words=tuple(Word(w.beat, w.word, w.text, float(w.start), float(w.end)) for w in p.words),
        sections=p.sections,
        fps=fps,
    )


def _band(number: int, p: Passage, stretch: Stretch | None, fps: float) -> Band:
    top = None
    if stretch is not None and p.kind not in (Kind.CUTAWAY, Kind.CARD):
        mat_out = p.mat_in if p.kind in STILL else p.mat_out
        top = stretch.place(float(p.mat_in)), stretch.place(float(mat_out))
    return Band(number, p.kind, p.watch_in / fps, p.watch_out / fps, top, float(p.rate), float(p.mat_in))


def _lace(tie: PlacedTie, stretches: list[Stretch]) -> Lace:
    said = float(tie.said)
    home = next((s for s in stretches if s.start <= said < s.end), None)
    pin = home.place(float(tie.mat)) if home and home.mat_in <= float(tie.mat) <= home.mat_out else None
    return Lace(
        tie.beat, tie.word, tie.text, said,
        None if tie.shown is None else float(tie.shown), pin,
        None if tie.lag is None else float(tie.lag), tie.state,
    )  # fmt: skip
