"""The blocks of a script one after another; those that did not change are not compiled again."""

from __future__ import annotations

from chapto.document.breakdown import Breakdown
from chapto.document.placeholders import shown_name
from chapto.pacing.fitted import Fitted
from chapto.programme.angles import AngleTrack
from chapto.programme.block import Block, Lines, PlacedBlock, block_of

REMEMBERED = 5000
_blocks: dict[str, tuple[tuple[object, ...], Block]] = {}
_placed: dict[str, PlacedBlock] = {}


def place_blocks(b: Breakdown, fitted: tuple[Fitted, ...], lines: Lines, track: AngleTrack) -> tuple[PlacedBlock, ...]:
    """Every section of `b`, compiled and put on whole frames."""
    found: list[PlacedBlock] = []
    at, fps = 0, b.format.fps
    named = len({x.narrator or b.narrators[0].id for _, x in b.read_beats()}) > 1
    before = ""
    if len(_blocks) > REMEMBERED:
        _blocks.clear()
        _placed.clear()
    for section, part in zip(b.script, fitted, strict=True):
        # The same objects give the same block, and most of a document is the same objects after an edit.
        given = (
            section,
            part,
            b.footage,
            b.angles,
            b.conditions,
            b.narrators,
            named,
            before,
            fps,
            *(lines[x.id] for x in section.beats),
        )
        known = _blocks.get(section.id)
        if known is None or not _same(known[0], given):
            known = given, block_of(b, section, part, lines, track, named=named, before=before)
            _blocks[section.id] = known
        placed = _placed.get(section.id)
        if placed is None or placed.block is not known[1] or placed.start != at or placed.fps != fps:
            placed = _placed[section.id] = PlacedBlock(known[1], at, fps)
        found.append(placed)
        at = placed.end
        if named and section.beats:
            before = shown_name(b.narrator(section.beats[-1]).name)
    return tuple(found)


def _same(one: tuple[object, ...], other: tuple[object, ...]) -> bool:
    return len(one) == len(other) and all(a is b or a == b for a, b in zip(one, other, strict=True))
