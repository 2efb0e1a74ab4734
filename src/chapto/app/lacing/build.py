"""From document and programme to what the lacing shows. Free of Qt."""

from __future__ import annotations

from itertools import chain

from chapto.app.lacing.model import LacingModel, Second, Trouble
from chapto.app.lacing.pieces import SectionPiece, moved, section_piece
from chapto.document.breakdown import Breakdown
from chapto.programme.block import Block
from chapto.programme.programme import Programme


class LacingBuilder:
    """Keeps the pieces of sections, so that after an edit only what changed is worked out again."""

    def __init__(self) -> None:
        self._pieces: dict[str, tuple[tuple[object, ...], SectionPiece]] = {}

    def model(self, b: Breakdown, p: Programme) -> LacingModel:
        """The lacing of programme `p` compiled from `b`."""
        fps = float(p.fps)
        moments = sorted(b.moments, key=lambda m: m.at)
        by_id = {s.id: s for s in b.script}
        pieces: list[SectionPiece] = []
        kept: dict[str, tuple[tuple[object, ...], SectionPiece]] = {}
        passage = stretch = 0
        for placed in p.blocks:
            block: Block = placed.block
            section = by_id[block.section]
            given = (block, section, b.exchanges, b.moments, b.rounds)
            known = self._pieces.get(section.id)
            if known is None or any(x is not y for x, y in zip(known[0], given, strict=True)):
                known = given, section_piece(b, section, block, moments)
            kept[section.id] = known
            pieces.append(moved(known[1], placed, first_passage=passage, stretch=stretch))
            passage += len(block.passages)
            stretch += known[1].stretch is not None
        self._pieces = kept
        return LacingModel(
            seconds=float(p.seconds),
            stretches=tuple(x.stretch for x in pieces if x.stretch is not None),
            cards=tuple(x.card for x in pieces if x.card is not None),
            bands=tuple(chain.from_iterable(x.bands for x in pieces)),
            pins=tuple(chain.from_iterable(x.pins for x in pieces)),
            laces=tuple(chain.from_iterable(x.laces for x in pieces)),
            blocks=p.blocks,
            phrases=tuple(chain.from_iterable(x.phrases for x in pieces)),
            sections=p.sections,
            seconds_shown=tuple(Second(i.start / fps, i.end / fps, i.beside) for i in p.insets),
            troubles=_troubles(p),
            fps=fps,
            target=float(b.target),
            offered=tuple(chain.from_iterable(x.offered for x in pieces)),
        )


def lacing_model(b: Breakdown, p: Programme) -> LacingModel:
    """The lacing of programme `p` compiled from `b`."""
    return LacingBuilder().model(b, p)


def _troubles(p: Programme) -> tuple[Trouble, ...]:
    if not p.shortfalls:
        return ()
    lacking = {s.beat for s in p.shortfalls}
    told = (x for x in p.blocks if any(phrase.beat in lacking for phrase in x.block.voice))
    places = {(w.beat, w.word): float(w.start) for x in told for w in x.words if w.beat in lacking}
    found = [
        Trouble(places[(s.beat, s.word)], s.beat, s.word, s.sentence)
        for s in p.shortfalls
        if (s.beat, s.word) in places
    ]  # fmt: skip
    return tuple(sorted(found, key=lambda t: t.place))
