"""What bothered the creator while watching."""

from __future__ import annotations

from collections.abc import Iterator
from functools import partial

from chapto.document.breakdown import Breakdown
from chapto.document.edit_reviewing import remove_note, say_note
from chapto.review.finding import Ask, Finding, Weight, Where, mend_by
from chapto.review.reviewed import Reviewed


def find(r: Reviewed) -> Iterator[Finding]:
    """Each note at its place; it goes when it is said to be done."""
    beats = {beat.id for _, beat in r.b.beats()}
    for n in r.b.notes:
        said = r.said_at(n.beat, n.word) if n.beat in beats else None
        at = n.after if said is None else said + n.after
        where = Where(min(at, r.programme.seconds), n.beat if n.beat in beats else "", n.word, n.id)
        done = mend_by("It is done", partial(remove_note, note_id=n.id))
        ask = Ask("What was it?", partial(_said, n.id), n.text)
        yield Finding(Weight.SHOULD, n.text or "Something bothered you here.", where, mend=done, ask=ask)


def _said(note_id: str, b: Breakdown, text: str) -> Breakdown:
    return say_note(b, note_id, text)
