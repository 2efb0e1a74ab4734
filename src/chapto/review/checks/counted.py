"""Numbers that do not add up: so many steps announced, and another number told."""

from __future__ import annotations

from collections.abc import Iterator

from chapto.document.script import BeatKind
from chapto.drafting.said_numbers import number
from chapto.review.finding import Finding, Weight, Where
from chapto.review.mends import write_instead
from chapto.review.reviewed import Part
from chapto.review.texts import read

_NUMBERS = {number(n): n for n in range(2, 13)} | {str(n): n for n in range(2, 13)}
COUNTED = {"steps": BeatKind.STEP, "mistakes": BeatKind.SLIP, "options": BeatKind.OPTION}
"""What is announced, and the kind of beat that tells it."""


def find(part: Part) -> Iterator[Finding]:
    """“Three steps” before two of them, where more than one is told."""
    for at, beat in enumerate(part.section.beats):
        text = read(beat.text)
        for i, word in enumerate(text.plain[:-1]):
            said, kind = _NUMBERS.get(word), COUNTED.get(text.plain[i + 1])
            if said is None or kind is None:
                continue
            told = sum(x.kind is kind for x in part.section.beats[at + (beat.kind is not kind) :])
            if told > 1 and told != said:
                quote = text.quote(i, i + 2)
                sentence = f"You announce “{quote}”; {number(told)} are told here."
                where = Where(part.said_at(beat.id, i), beat.id, i)
                mend = write_instead(beat.id, i, i + 1, number(told))
                yield Finding(Weight.SHOULD, sentence, where, quote, mend=mend)
