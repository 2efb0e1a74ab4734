"""What a breakdown promises: said in its script, written under the video, or asked by a guest and not answered."""

from __future__ import annotations

from collections.abc import Iterator

from chapto.document.breakdown import Breakdown
from chapto.document.script import BeatKind, Section
from chapto.review.phrases import found_in, phrases
from chapto.review.texts import Text, read
from chapto.shelf.indexed import Promise

ASKED = "question"
UNDER = ""
"""The beat of what is written under the video."""


def promises_in(b: Breakdown) -> Iterator[Promise]:
    """Every promise, in the order of the script; then those under the video. Of one kind in one beat there is one."""
    for section in b.script:
        for beat in section.beats:
            yield from _in_text(read(beat.text), beat.id, section.exchange or section.id)
        if (open_question := _unanswered(section)) is not None:
            yield open_question
    own = f"{b.title} {b.part}".casefold()
    for line in b.about.splitlines():
        # What calls the video itself a part promises nothing.
        yield from (p for p in _in_text(read(line), UNDER) if p.quote.casefold() not in own)


def _in_text(text: Text, beat: str, place: str = "") -> Iterator[Promise]:
    for kind, wanted in phrases()["promises"].items():
        for first, end in list(found_in(text, wanted))[:1]:
            a, z = text.sentence_of(first)
            quote, sentence = text.quote(first, end), text.quote(a, z)
            yield Promise(kind=kind, quote=quote, sentence=sentence, beat=beat, word=first, place=place)


def _unanswered(section: Section) -> Promise | None:
    """A question that ends a section: nobody answers it there."""
    if not section.beats or section.beats[-1].kind is not BeatKind.QUESTION:
        return None
    last = section.beats[-1]
    whole = read(last.text)
    quote, place = whole.quote(0, len(whole.words)), section.exchange or section.id
    return Promise(kind=ASKED, quote=quote, sentence=last.text, beat=last.id, word=0, place=place)
