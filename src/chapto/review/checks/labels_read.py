"""Labels, slips, names and lines of care that are gone before they can be read."""

from __future__ import annotations

from collections.abc import Iterator
from functools import lru_cache, partial
from math import ceil

from chapto.clock.passage import Kind
from chapto.document import edit_marks
from chapto.document.marks import Until
from chapto.document.script import words_of
from chapto.review.finding import Finding, Mend, Weight, Where, mend_by
from chapto.review.reviewed import Reviewed

ROUNDED = 2
"""Frames that two edges on whole frames may cost."""


def find(r: Reviewed) -> Iterator[Finding]:
    """What is on the screen for less time than its words need."""
    p = r.programme
    for x in p.labels:
        yield from _read(r, f"The label “{x.text}”", x.text, x.start, x.end, Where(item=x.label))
    for m in p.marks:
        where = Where(beat=m.mark.beat, word=m.mark.word, item=m.mark.id)
        text = f"{m.words} {m.fact}".strip()
        if text:
            longer = partial(edit_marks.change_mark, mark_id=m.mark.id, until=Until.BEAT)
            mend = None if m.mark.until is Until.BEAT else mend_by("Let it stay until the line is said", longer)
            yield from _read(r, f"The slip “{text}”", text, m.start, m.end, where, mend)
    for n in p.names:
        yield from _read(r, f"The name “{n.name}”", f"{n.name} {n.under}", n.start, n.end, Where())
    for c in p.cautions:
        if c.risk != "advertisement":
            yield from _read(r, f"The line “{' '.join(words_of(c.text)[:4])} …”", c.text, c.start, c.end, Where())
    for card in p.passages:
        if card.kind is Kind.CARD and card.text:
            said = f"The card “{' '.join(words_of(card.text)[:4])}”"
            yield from _read(r, said, card.text, card.watch_in, card.watch_out, Where())


def _read(
    r: Reviewed, what: str, text: str, start: int, end: int, where: Where, mend: Mend | None = None
) -> Iterator[Finding]:
    word, least = r.limits["read-a-word"], r.limits["read-least"]
    count = _count(text)
    needs = max(word.value * count, least.value)
    if end - start + ROUNDED >= ceil(needs * r.fps):
        return
    stays = r.seconds(end - start)
    if stays < needs - r.seconds(ROUNDED):
        sentence = f"{what} stays for {float(stays):.1f} s; reading it takes {float(needs):.1f} s."
        limit = word if needs > least.value else least
        placed = Where(r.seconds(start), where.beat, where.word, where.item)
        measured = stays / count if limit is word else stays
        yield Finding(Weight.SHOULD, sentence, placed, text, measured, limit, mend)


@lru_cache(maxsize=1024)
def _count(text: str) -> int:
    return len(words_of(text))
