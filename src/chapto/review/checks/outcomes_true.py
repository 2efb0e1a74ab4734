"""Techniques that are said to have landed or to have been stopped, and did not, or were not."""

from __future__ import annotations

from collections.abc import Iterator

from chapto.document.bout import Outcome
from chapto.document.script import BeatKind
from chapto.lexicon.trade_words import trade_word
from chapto.review.finding import Finding, Weight, Where
from chapto.review.phrases import found_in, phrases, stands_after
from chapto.review.reviewed import Part
from chapto.review.texts import Text, names_in, read

TOLD = (BeatKind.HAPPENED, BeatKind.OPENING)
NEAR = 4
"""Words from a technique to what became of it."""


def find(part: Part) -> Iterator[Finding]:
    """“The knee slide is stopped” where the log has it landed, and the other way round."""
    if not part.section.exchange:
        return
    x = part.b.exchange(part.section.exchange)
    lexicon = part.lexicon
    technique = lexicon.technique_named(x.technique) if x.technique else None
    if technique is None or x.outcome not in (Outcome.LANDED, Outcome.STOPPED):
        return
    wrong = phrases()["stopped" if x.outcome is Outcome.LANDED else "landed"]["phrases"]
    for beat in part.read():
        text = read(beat.text)
        for name in names_in(lexicon, beat.text) if beat.kind in TOLD else ():
            if name.item.id != technique.id:
                continue
            begins, ends = text.sentence_of(name.first)
            for first, end in found_in(text, wrong):
                if not name.end <= first < min(name.end + NEAR, ends) or _would_be(text, begins, first):
                    continue
                quote = text.quote(name.first, end)
                sentence = f"You say “{quote}”; the log has it as {trade_word(x.outcome)}."
                where = Where(part.said_at(beat.id, name.first), beat.id, name.first)
                yield Finding(Weight.MUST, sentence, where, quote)


def _would_be(text: Text, begins: int, first: int) -> bool:
    unless = set(phrases()["landed"]["unless"])
    return bool(unless & set(text.plain[begins:first])) or stands_after(text, first, ("not", "never", "almost"))
