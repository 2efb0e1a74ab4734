"""What the lacing shows of one section, from its own start: worked out once, and moved to where the section stands.
Free of Qt."""

from __future__ import annotations

from bisect import bisect_right
from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace

from chapto.app.lacing.knots import knots_of
from chapto.app.lacing.model import Band, Card, Lace, OfferedLace, Phrase, Pin, Stretch
from chapto.clock.passage import STILL, Kind, Passage
from chapto.document.bout import Exchange, Moment
from chapto.document.breakdown import Breakdown
from chapto.document.script import Part, Section
from chapto.lexicon.trade_words import trade_word
from chapto.pacing.offers import section_offers
from chapto.programme.block import Block, PlacedBlock
from chapto.programme.placed import PlacedTie, PlacedWord

TOGETHER = 0.8
"""Seconds without a word that part two phrases."""


@dataclass(frozen=True)
class SectionPiece:
    """Places count from the section's start; a pin's stretch and a band's passage from the section's own."""

    stretch: Stretch | None
    card: Card | None
    bands: tuple[Band, ...]
    laces: tuple[Lace, ...]
    pins: tuple[Pin, ...]
    phrases: tuple[Phrase, ...]
    offered: tuple[OfferedLace, ...] = ()


def section_piece(b: Breakdown, section: Section, block: Block, moments: Sequence[Moment]) -> SectionPiece:
    """The piece of one compiled section; `moments` in the order of mat time."""
    if not block.frames:
        return SectionPiece(None, None, (), (), (), ())
    fps = float(b.format.fps)
    exchange = b.exchange(section.exchange) if section.exchange else None
    stretch, card = _stretch(b, section, block, exchange, fps), None
    if stretch is None:
        text = block.title or ("title card" if section.part is Part.TALK else section.part.value)
        card = Card(section.id, text, 0.0, block.frames / fps)
    saying = [float(x.at) for x in block.voice], [x.beat for x in block.voice]
    holds: dict[float, list[PlacedTie]] = {}
    for t in block.ties:
        holds.setdefault(round(float(t.mat), 3), []).append(t)
    return SectionPiece(
        stretch,
        card,
        tuple(_band(i, x, stretch, fps, saying, holds) for i, x in enumerate(block.passages)),
        tuple(sorted((_lace(t, stretch, block.frames / fps) for t in block.ties), key=lambda x: x.said)),
        tuple(_pins(stretch, moments)),
        phrases_of(block.words),
        tuple(_offered(b, section, block, stretch)),
    )


def moved(piece: SectionPiece, placed: PlacedBlock, *, first_passage: int, stretch: int) -> SectionPiece:
    """A piece where its block stands, its passages and its stretch numbered within the whole. Edges are worked out
    from frames again, so that what ends somewhere and what begins there have the very same place."""
    fps = float(placed.fps)
    by, end = placed.start / fps, placed.end / fps
    return SectionPiece(
        replace(piece.stretch, start=by, end=end) if piece.stretch else None,
        replace(piece.card, start=by, end=end) if piece.card else None,
        tuple(
            Band(
                x.passage + first_passage, x.kind, p.watch_in / fps, p.watch_out / fps,
                None if x.top is None else (x.top[0] + by, x.top[1] + by), x.rate, x.mat_in, x.beat, x.word,
            )
            for x, p in zip(piece.bands, placed.passages, strict=True)
        ),
        tuple(
            Lace(
                x.beat, x.word, x.text, x.said + by, None if x.shown is None else x.shown + by,
                None if x.pin is None else x.pin + by, x.lag, x.state, x.moment,
            )
            for x in piece.laces
        ),
        tuple(Pin(x.moment, x.kind, x.note, x.mat, x.place + by, stretch) for x in piece.pins),
        tuple(Phrase(x.beat, x.start + by, x.end + by, x.text) for x in piece.phrases),
        tuple(OfferedLace(x.beat, x.word, x.said + by, x.pin + by) for x in piece.offered),
    )  # fmt: skip


def _stretch(b: Breakdown, section: Section, block: Block, exchange: Exchange | None, fps: float) -> Stretch | None:
    """The mat time of a section that shows one stretch of it; None for cards and for what is put together."""
    home = [x for x in block.passages if x.kind is not Kind.CUTAWAY and x.footage]
    if section.part in (Part.RECAP, Part.CREDITS) or (exchange is None and not home):
        return None
    starts = [float(min(x.mat_in, x.mat_out)) for x in home]
    ends = [float(max(x.mat_in, x.mat_out)) for x in home]
    technique = section.part.value
    if exchange is not None and section.part is Part.TALK:
        starts.append(float(exchange.start))
        ends.append(float(exchange.end))
        technique = exchange.technique
    if not starts or max(ends) <= min(starts):
        return None
    within = next((r.name for r in b.rounds if r.start <= min(starts) < r.end), "")
    skips = tuple((float(a), float(z)) for a, z in section.skips)
    mat, seconds = (min(starts), max(ends)), block.frames / fps
    knots = knots_of(block.ties, mat, seconds)
    return Stretch(section.id, block.title, technique, *mat, 0.0, seconds, within, skips, knots)


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


def _pins(stretch: Stretch | None, moments: Sequence[Moment]) -> list[Pin]:
    if stretch is None:
        return []
    return [
        Pin(m.id, trade_word(m.kind), m.note, float(m.at), stretch.place(float(m.at)), 0)
        for m in moments
        if stretch.mat_in <= m.at <= stretch.mat_out
    ]


def _offered(b: Breakdown, section: Section, block: Block, stretch: Stretch | None) -> Iterator[OfferedLace]:
    """Ties that offer themselves where the log or the script says where to; in the order of the words."""
    found = {(o.beat, o.word): float(o.at) for o in section_offers(b, section)} if stretch is not None else {}
    for w in block.words if found else ():
        at = found.get((w.beat, w.word))
        if stretch is not None and at is not None and stretch.mat_in <= at <= stretch.mat_out:
            yield OfferedLace(w.beat, w.word, float(w.start), stretch.place(at))


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
    i = max(bisect_right(saying[0], (start + end) / 2) - 1, 0)
    beat, word = (saying[1][i] if saying[1] else ""), -1
    if p.kind is Kind.HOLD:
        near = holds.get(round(float(p.mat_in), 3), ())
        tie = next((t for t in near if start - 0.05 <= float(t.said) <= end + 0.05), None)
        if tie is not None:
            beat, word = tie.beat, tie.word
    return Band(number, p.kind, start, end, top, float(p.rate), float(p.mat_in), beat, word)


def _lace(tie: PlacedTie, home: Stretch | None, seconds: float) -> Lace:
    said, mat = float(tie.said), float(tie.mat)
    inside = home is not None and said < seconds and home.mat_in <= mat <= home.mat_out
    return Lace(
        tie.beat, tie.word, tie.text, said,
        None if tie.shown is None else float(tie.shown), home.place(mat) if home is not None and inside else None,
        None if tie.lag is None else float(tie.lag), tie.state, tie.moment,
    )  # fmt: skip
