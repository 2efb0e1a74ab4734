"""Names and kit colours that are said of a technique, and are not of the one who did it."""

from __future__ import annotations

from collections.abc import Iterator

from chapto.document.people import Side
from chapto.document.script import BeatKind
from chapto.review.finding import Finding, Weight, Where
from chapto.review.mends import write_instead
from chapto.review.reviewed import Part
from chapto.review.texts import names_in, read
from chapto.review.who import bare, terms_of

TOLD = (BeatKind.HAPPENED, BeatKind.WHY, BeatKind.OPENING, BeatKind.SLIP)
NEAR = 6
"""Words from who does it to what is done."""
OTHERWISE = frozenset(
    {"by", "from", "against", "on", "not", "isn't", "stops", "stopped", "defends", "defended", "answers", "if", "would",
     "could", "to", "and", "lets", "waits", "expects", "counters", "blocks"}
)  # fmt: skip
"""Words between them with which somebody else does it."""


def find(part: Part) -> Iterator[Finding]:
    """“Moss shoots a single leg” where the log has it from Wren."""
    b = part.b
    if not part.section.exchange:
        return
    x = b.exchange(part.section.exchange)
    technique = part.lexicon.technique_named(x.technique) if x.technique else None
    if x.by is None or technique is None:
        return
    terms = terms_of(b.athlete(Side.FIRST, x.start), b.athlete(Side.SECOND, x.start))
    for beat in part.read():
        if beat.kind not in TOLD:
            continue
        text = read(beat.text)
        for name in names_in(part.lexicon, beat.text):
            if name.item.id != technique.id:
                continue
            begins, _ = text.sentence_of(name.first)
            low = max(begins, name.first - NEAR)
            said = [(i, terms[w]) for i in range(low, name.first) if (w := bare(text.plain[i])) in terms]
            if len({side for _, side in said}) != 1:
                continue
            at, side = said[-1]
            round_it = set(text.plain[max(at - 1, begins) : name.first])
            if side is x.by or round_it & OTHERWISE:
                continue
            right = b.athlete(x.by, x.start).name
            sentence = f"You say “{text.quote(at, name.end)}”; the log has {right} doing it."
            where = Where(part.said_at(beat.id, at), beat.id, at)
            mend = write_instead(beat.id, at, at + 1, _as_said(text.words[at], right))
            yield Finding(Weight.MUST, sentence, where, text.quote(at, name.end), mend=mend)


def _as_said(word: str, name: str) -> str:
    """A name as the word was: its first part where one word stood there, with its genitive."""
    short = name.split()[0] if name.split() else name
    return f"{short}’s" if word.rstrip(".,;:!?").endswith(("'s", "’s")) else short
