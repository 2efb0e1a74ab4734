"""From document and programme to what the lacing shows. Free of Qt."""

from __future__ import annotations

from bisect import bisect_right
from collections.abc import Sequence

from chapto.app.lacing.model import Band, Card, Lace, LacingModel, Phrase, Pin, Second, Stretch, Trouble
from chapto.clock.passage import STILL, Kind, Passage
from chapto.document.breakdown import Breakdown
from chapto.document.script import Part, Section
from chapto.programme.programme import PlacedSection, PlacedTie, PlacedWord, Programme

TOGETHER = 0.8
"""Seconds without a word that part two phrases."""


def lacing_model(b: Breakdown, p: Programme) -> LacingModel:
    """The lacing of programme `p` compiled from `b`."""
    fps = float(p.fps)
    by_id = {s.id: s for s in b.script}
    exchanges = {x.id: (float(x.start), float(x.end), x.technique) for x in b.exchanges}
    stretches: list[Stretch] = []
    cards: list[Card] = []
    bands: list[Band] = []
    saying = _saying(p)
    holds = _holds(p)
    number = 0
    for placed in p.sections:
        inside = []
        while number < len(p.passages) and p.passages[number].watch_in < placed.end:
            inside.append((number, p.passages[number]))
            number += 1
        if placed.end <= placed.start:
            continue
        section = by_id[placed.section]
        stretch = _stretch(b, section, placed, [x for _, x in inside], exchanges, fps)
        if stretch is None:
            text = placed.title or ("title card" if section.part is Part.TALK else section.part.value)
            cards.append(Card(section.id, text, placed.start / fps, placed.end / fps))
        else:
            stretches.append(stretch)
        bands += [_band(i, x, stretch, fps, saying, holds) for i, x in inside]
    begins = [s.start for s in stretches]
    laces = sorted((_lace(t, stretches, begins) for t in p.ties), key=lambda x: x.said)
    moments = sorted(b.moments, key=lambda m: m.at)
    pins = tuple(
        Pin(m.id, m.kind.value, m.note, float(m.at), s.place(float(m.at)), i)
        for i, s in enumerate(stretches)
        for m in moments
        if s.mat_in <= m.at <= s.mat_out
    )
    return LacingModel(
        seconds=float(p.seconds),
        stretches=tuple(stretches),
        cards=tuple(cards),
        bands=tuple(bands),
        pins=pins,
        laces=tuple(laces),
        words=p.words,
        phrases=phrases_of(p.words),
        sections=p.sections,
        seconds_shown=tuple(Second(i.start / fps, i.end / fps, i.beside) for i in p.insets),
        troubles=_troubles(p),
        fps=fps,
        target=float(b.target),
    )


def _stretch(
    b: Breakdown,
    section: Section,
    placed: PlacedSection,
    inside: list[Passage],
    exchanges: dict[str, tuple[float, float, str]],
    fps: float,
) -> Stretch | None:
    """The mat time of a section that shows one stretch of it; None for cards and for what is put together."""
    home = [x for x in inside if x.kind is not Kind.CUTAWAY and x.footage]
    if section.part in (Part.RECAP, Part.CREDITS) or (not section.exchange and not home):
        return None
    starts, ends = [float(x.mat_in) for x in home], [float(x.mat_out) for x in home]
    technique = section.part.value
    if section.exchange and section.part is Part.TALK:
        start, end, technique = exchanges[section.exchange]
        starts.append(start)
        ends.append(end)
    if not starts or max(ends) <= min(starts):
        return None
    within = next((r.name for r in b.rounds if r.start <= min(starts) < r.end), "")
    skips = tuple((float(a), float(z)) for a, z in section.skips)
    return Stretch(
        section.id, placed.title, technique, min(starts), max(ends), placed.start / fps, placed.end / fps, within, skips
    )  # fmt: skip


def phrases_of(words: Sequence[PlacedWord]) -> tuple[Phrase, ...]:
    """Words said one after another, as far as no long pause parts them."""
    found: list[tuple[str, float, float, list[str]]] = []
    for w in words:
        start, end = float(w.start), float(w.end)
        if found and found[-1][0] == w.beat and start - found[-1][2] < TOGETHER:
            beat, begun, _, texts = found[-1]
            texts.append(w.text)
            found[-1] = beat, begun, end, texts
        else:
            found.append((w.beat, start, end, [w.text]))
    return tuple(Phrase(beat, start, end, " ".join(texts)) for beat, start, end, texts in found)


def _saying(p: Programme) -> tuple[list[float], list[str]]:
    """When each phrase of the voice begins, and of which beat it is."""
    return [float(x.at) for x in p.voice], [x.beat for x in p.voice]


def _holds(p: Programme) -> dict[float, list[PlacedTie]]:
    """Ties by their mat time, to a thousandth."""
    found: dict[float, list[PlacedTie]] = {}
    for t in p.ties:
        found.setdefault(round(float(t.mat), 3), []).append(t)
    return found


def _band(
    number: int,
    p: Passage,
    stretch: Stretch | None,
    fps: float,
    saying: tuple[list[float], list[str]],
    holds: dict[float, list[PlacedTie]],
) -> Band:
    top = None
    if stretch is not None and p.kind not in (Kind.CUTAWAY, Kind.CARD):
        mat_out = p.mat_in if p.kind in STILL else p.mat_out
        top = stretch.place(float(p.mat_in)), stretch.place(float(mat_out))
    start, end = p.watch_in / fps, p.watch_out / fps
    i = bisect_right(saying[0], (start + end) / 2) - 1
    beat, word = (saying[1][i] if i >= 0 else ""), -1
    if p.kind is Kind.HOLD:
        near = holds.get(round(float(p.mat_in), 3), ())
        tie = next((t for t in near if start - 0.05 <= float(t.said) <= end + 0.05), None)
        if tie is not None:
            beat, word = tie.beat, tie.word
    return Band(number, p.kind, start, end, top, float(p.rate), float(p.mat_in), beat, word)


def _lace(tie: PlacedTie, stretches: list[Stretch], begins: list[float]) -> Lace:
    said = float(tie.said)
    i = bisect_right(begins, said) - 1
    home = stretches[i] if i >= 0 and said < stretches[i].end else None
    pin = home.place(float(tie.mat)) if home and home.mat_in <= float(tie.mat) <= home.mat_out else None
    return Lace(
        tie.beat, tie.word, tie.text, said,
        None if tie.shown is None else float(tie.shown), pin,
        None if tie.lag is None else float(tie.lag), tie.state, tie.moment,
    )  # fmt: skip


def _troubles(p: Programme) -> tuple[Trouble, ...]:
    places = {(w.beat, w.word): float(w.start) for w in p.words}
    found = [
        Trouble(places[(s.beat, s.word)], s.beat, s.word, s.sentence)
        for s in p.shortfalls
        if (s.beat, s.word) in places
    ]  # fmt: skip
    return tuple(sorted(found, key=lambda t: t.place))
