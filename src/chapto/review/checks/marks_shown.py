"""Marks that never come on the screen, or are gone before their word is out."""

from __future__ import annotations

from collections.abc import Iterator
from functools import partial

from chapto.document import edit_marks
from chapto.document.marks import Until
from chapto.review.finding import Finding, Weight, Where, mend_by
from chapto.review.reviewed import Reviewed


def find(r: Reviewed) -> Iterator[Finding]:
    """Those that are nowhere, and those that end too early."""
    for lost in r.programme.unplaced:
        away = mend_by("Take it away", partial(edit_marks.remove_mark, mark_id=lost.mark))
        yield Finding(Weight.MUST, lost.sentence, Where(item=lost.mark), mend=away)
    for placed in r.programme.marks:
        word = r.placed(placed.mark.beat, placed.mark.word)
        if word is None or not placed.mark.beat:
            continue
        missing = word.end - r.seconds(placed.end)
        if missing > 1 / r.fps:
            where = Where(r.seconds(placed.end), word.beat, word.word, placed.mark.id)
            sentence = f"A mark is gone {float(missing):.1f} s before “{word.text}” is out."
            stay = partial(edit_marks.change_mark, mark_id=placed.mark.id, until=Until.BEAT)
            mend = None if placed.mark.until is Until.BEAT else mend_by("Let it stay until the line is said", stay)
            yield Finding(Weight.SHOULD, sentence, where, word.text, mend=mend)
