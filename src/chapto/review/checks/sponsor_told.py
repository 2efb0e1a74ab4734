"""Paid parts that do not say so, in words and on the picture."""

from __future__ import annotations

from collections.abc import Iterator
from functools import partial

from chapto.document.edit_script import change_beat_kind
from chapto.document.script import BeatKind
from chapto.review.finding import Finding, Weight, Where, mend_by
from chapto.review.phrases import found_in, phrases
from chapto.review.reviewed import Part
from chapto.review.texts import read


def find(part: Part) -> Iterator[Finding]:
    """Lines that sell something and are no sponsor's notice, which would be told on the picture; and notices that do
    not say in words that they are paid. The law where you are decides."""
    data = phrases()["sold"]
    for beat in part.read():
        text = read(beat.text)
        if beat.kind is not BeatKind.SPONSOR:
            for first, end in list(found_in(text, data["phrases"]))[:1]:
                quote = text.quote(first, end)
                mend = mend_by(
                    "Tell it on the picture", partial(change_beat_kind, beat_id=beat.id, kind=BeatKind.SPONSOR)
                )
                where = Where(part.said_at(beat.id, first), beat.id, first)
                sentence = f"“{quote}” is paid for, and the picture does not say so."
                yield Finding(Weight.MUST, sentence, where, quote, mend=mend)
        elif text.words and not set(text.plain) & set(data["disclosed"]):
            where = Where(part.said_at(beat.id), beat.id)
            sentence = f"“{text.quote(0, 4)} …” is paid for, and the words do not say so."
            yield Finding(Weight.MUST, sentence, where, "words")
