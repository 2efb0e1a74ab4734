"""What happened told with the name of another technique than the log's."""

from __future__ import annotations

from collections.abc import Iterator

from chapto.document.script import BeatKind
from chapto.lexicon.lexicon import Technique
from chapto.review.finding import Finding, Weight, Where
from chapto.review.mends import write_instead
from chapto.review.reviewed import Part
from chapto.review.texts import names_in, read


def find(part: Part) -> Iterator[Finding]:
    """A section that tells what happened with one technique of its family, never with the one that is logged.
    Other options, and what was done elsewhere, may have names of their own."""
    b, lexicon = part.b, part.lexicon
    if not part.section.exchange:
        return
    x = b.exchange(part.section.exchange)
    logged = lexicon.technique_named(x.technique) if x.technique else None
    if logged is None:
        return
    near = {t.id for o in b.exchanges if o.start <= x.end and o.end >= x.start
            for t in [lexicon.technique_named(o.technique)] if t is not None}  # fmt: skip
    said = [(beat, n) for beat in part.read() for n in names_in(lexicon, beat.text)
            if isinstance(n.item, Technique)]  # fmt: skip
    if any(n.item.id in near for _, n in said):
        return
    told = [
        (beat, n)
        for beat, n in said
        if beat.kind is BeatKind.HAPPENED and isinstance(n.item, Technique) and n.item.family == logged.family
    ]
    if len({n.item.id for _, n in told}) != 1:
        return
    beat, name = told[0]
    quote = read(beat.text).quote(name.first, name.end)
    sentence = f"You say “{quote}”; the log has {x.technique} there."
    where = Where(part.said_at(beat.id, name.first), beat.id, name.first)
    yield Finding(
        Weight.MUST, sentence, where, quote, mend=write_instead(beat.id, name.first, name.end, x.technique)
    )  # fmt: skip
