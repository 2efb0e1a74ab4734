"""Captions that are too fast, too long, too wide, over one another, or that do not say who talks."""

from __future__ import annotations

from collections.abc import Iterator
from fractions import Fraction
from functools import lru_cache
from itertools import takewhile

from chapto.document.placeholders import shown_name
from chapto.document.script import words_of
from chapto.programme.block import Block
from chapto.programme.placed import Caption
from chapto.review.finding import Finding, Weight, Where
from chapto.review.limits import Limit
from chapto.review.reviewed import Part, Reviewed

HURRIED = Fraction(3, 2)
"""A single caption may be so much faster than the limit: most viewers want what is said word by word, at the pace of
the programme (BBC Subtitle Guidelines, from memory)."""


def find(part: Part) -> Iterator[Finding]:
    """What a reader could not follow: one finding a caption, or a row of them."""
    pace, lines, wide = (part.limits[n] for n in ("caption-pace", "caption-lines", "caption-line"))
    fast: list[tuple[Caption, float]] = []
    before: Caption | None = None
    for c in part.block.captions:
        if before is not None and c.start < before.end:
            sentence = f"The caption {_begins(c)} comes while the one before it still stands."
            yield Finding(Weight.SHOULD, sentence, Where(c.start), _begins(c))
        before = c
        rows, words = c.text.split("\n"), words_of(c.text)
        widest, stays = max(map(len, rows)), float(c.end - c.start)
        speed = 60 * len(words) / stays if stays > 0 else 0.0
        if speed > pace.value * HURRIED:
            fast.append((c, speed))
            continue
        yield from _fast(fast, pace)
        fast = []
        if len(rows) > lines.value:
            value, limit, weight, what = len(rows), lines, Weight.SHOULD, f"has {len(rows)} lines"
        elif widest > wide.value:
            value, limit, weight, what = widest, wide, Weight.MAY, f"is wide: {widest} letters"
        else:
            continue
        yield Finding(weight, f"The caption {_begins(c)} {what}.", Where(c.start), _begins(c), Fraction(value), limit)
    yield from _fast(fast, pace)


def as_a_whole(r: Reviewed) -> Iterator[Finding]:
    """Where all of them together go by too fast."""
    pace = r.limits["caption-pace"]
    blocks = [_shown(x.block) for x in r.programme.blocks]
    said, shown = sum(n for n, _ in blocks), sum(seconds for _, seconds in blocks)
    if shown and (mean := 60 * said / shown) > pace.value:
        sentence = f"The captions as a whole go by fast: {round(mean)} words a minute. Leave words out, or pauses in."
        yield Finding(Weight.MAY, sentence, quote="all", measured=Fraction(round(mean)), limit=pace)


@lru_cache(maxsize=1024)
def _shown(block: Block) -> tuple[int, float]:
    """Words in the captions of a section, and seconds for which they stand."""
    return sum(len(words_of(c.text)) for c in block.captions), sum(float(c.end - c.start) for c in block.captions)


def _fast(row: list[tuple[Caption, float]], pace: Limit) -> Iterator[Finding]:
    """Captions in a row that nobody can read so fast."""
    if row:
        first, speed = row[0][0], Fraction(round(max(x for _, x in row)))
        sentence = f"The caption {_begins(first)} goes by fast."
        if len(row) > 1:
            sentence = f"{len(row)} captions from {_begins(first)} on go by fast."
        yield Finding(Weight.MAY, sentence, Where(first.start), _begins(first), speed, pace)


def _begins(c: Caption) -> str:
    return f"“{' '.join(words_of(c.text)[:4])} …”"


def speaker_named(part: Part) -> Iterator[Finding]:
    """Where another voice begins and the captions do not say whose it is."""
    b = part.b
    if len(b.narrators) < 2 or len({x.narrator or b.narrators[0].id for _, x in b.read_beats()}) < 2:
        return
    who = {x.id: b.narrator(x) for x in part.read()}
    starts = {c.start: c for c in part.block.captions}
    earlier = takewhile(lambda s: s is not part.section, b.script)
    last = [s.beats[-1] for s in earlier if s.beats]
    before = b.narrator(last[-1]).id if last else ""
    for word in part.block.words:
        narrator = who.get(word.beat)
        if narrator is None or word.word:
            continue
        caption, name = starts.get(word.start), shown_name(narrator.name)
        if narrator.id != before and caption is not None and name and f"{name}:" not in caption.text:
            sentence = f"{name} begins to talk, and the caption {_begins(caption)} is unnamed."
            yield Finding(Weight.SHOULD, sentence, Where(word.start, word.beat), name)
        before = narrator.id
