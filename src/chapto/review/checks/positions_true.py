"""Positions that are said and are not those of the log."""

from __future__ import annotations

from collections.abc import Iterator
from fractions import Fraction

from chapto.document.breakdown import Breakdown
from chapto.document.script import BeatKind
from chapto.lexicon.lexicon import Lexicon, Position
from chapto.publish.talks.named_in_talk import mat_at_word
from chapto.review.finding import Finding, Weight, Where
from chapto.review.mends import write_instead
from chapto.review.reviewed import Part
from chapto.review.texts import Text, names_in, read

BEFORE, AFTER = Fraction(4), Fraction(6)
"""Mat seconds before and after what is shown within which a position that is said may be."""
LEADS = ("from", "in", "into", "to", "inside")
BETWEEN = frozenset({"the", "a", "his", "her", "their", "that", "full"})


def find(part: Part) -> Iterator[Finding]:
    """“From half guard” where neither of the two is in it."""
    b, lexicon = part.b, part.lexicon
    if not b.positions or not part.section.exchange:
        return
    for beat in part.read():
        if beat.kind is not BeatKind.HAPPENED:
            continue
        text = read(beat.text)
        for name in names_in(lexicon, beat.text):
            at = mat_at_word(b, beat, name.first)
            if not isinstance(name.item, Position) or at is None or not _is_led(text, name.first):
                continue
            around = _around(b, at)
            if not around or any(_alike(lexicon, name.item, other) for other in around):
                continue
            quote = text.quote(name.first, name.end)
            here = lexicon.position(next((p.position for p in b.positions if p.start <= at < p.end), around[0]))
            have = here.en if here is not None else around[0]
            sentence = f"You say “{quote}”; the log has {have} there."
            where = Where(part.said_at(beat.id, name.first), beat.id, name.first)
            yield Finding(
                Weight.MUST, sentence, where, quote, mend=write_instead(beat.id, name.first, name.end, have)
            )  # fmt: skip


def _is_led(text: Text, word: int) -> bool:
    """Whether “from”, “in”, “into” or “to” stands before a name."""
    begins, _ = text.sentence_of(word)
    i = word - 1
    while i > begins and (text.plain[i] in BETWEEN or text.plain[i].endswith("'s")):
        i -= 1
    return i >= begins and text.plain[i] in LEADS


def _around(b: Breakdown, at: Fraction) -> list[str]:
    return [p.position for p in b.positions if p.start < at + AFTER and p.end > at - BEFORE]


def _alike(lexicon: Lexicon, said: Position, logged: str) -> bool:
    """Whether two are the same, or two names of one family: “half guard” is said of a knee shield too."""
    other = lexicon.position(logged)
    if other is None or said.id == other.id:
        return True
    family = {said.family or said.id} & {other.family or other.id}
    return bool(family) or (said.group == other.group and said.group not in ("", "other", "guard"))
