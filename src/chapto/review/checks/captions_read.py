"""Captions that are too fast, too long, too wide, over one another, or that do not say who talks."""

from __future__ import annotations

from collections.abc import Iterator
from fractions import Fraction
from itertools import pairwise

from chapto.document.placeholders import shown_name
from chapto.document.script import words_of
from chapto.programme.placed import Caption
from chapto.review.finding import Finding, Weight, Where
from chapto.review.limits import Limit
from chapto.review.reviewed import Reviewed

HURRIED = Fraction(3, 2)
"""A single caption may be so much faster than the limit: most viewers want what is said word by word, at the pace of
the programme (BBC Subtitle Guidelines, from memory)."""


def find(r: Reviewed) -> Iterator[Finding]:
    """What a reader could not follow: one finding a caption, or a row of them, and one where all go by too fast."""
    pace, lines, wide = (r.limits[n] for n in ("caption-pace", "caption-lines", "caption-line"))
    said = shown = 0.0
    fast: list[tuple[Caption, float]] = []
    for c in r.programme.captions:
        rows, words = c.text.split("\n"), words_of(c.text)
        widest, stays = max(map(len, rows)), float(c.end - c.start)
        speed = 60 * len(words) / stays if stays > 0 else 0.0
        said, shown = said + len(words), shown + stays
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
    if shown and (mean := 60 * said / shown) > pace.value:
        sentence = f"The captions as a whole go by fast: {round(mean)} words a minute. Leave words out, or pauses in."
        yield Finding(Weight.MAY, sentence, quote="all", measured=Fraction(round(mean)), limit=pace)
    yield from _over(r)


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


def _over(r: Reviewed) -> Iterator[Finding]:
    for one, other in pairwise(r.programme.captions):
        if other.start < one.end:
            sentence = f"The caption {_begins(other)} comes while the one before it still stands."
            yield Finding(Weight.SHOULD, sentence, Where(other.start), _begins(other))


def speaker_named(r: Reviewed) -> Iterator[Finding]:
    """Where another voice begins and its captions do not say whose it is."""
    who = {beat.id: r.b.narrator(beat) for _, beat in r.b.read_beats()}
    if len({n.id for n in who.values()}) < 2:
        return
    starts = {c.start: c for c in r.programme.captions}
    before = ""
    for word in r.programme.words:
        narrator = who.get(word.beat)
        if narrator is None or word.word:
            continue
        caption, name = starts.get(word.start), shown_name(narrator.name)
        if narrator.id != before and caption is not None and name and f"{name}:" not in caption.text:
            sentence = f"{name} begins to talk, and the caption {_begins(caption)} is unnamed."
            yield Finding(Weight.SHOULD, sentence, Where(word.start, word.beat), name)
        before = narrator.id
