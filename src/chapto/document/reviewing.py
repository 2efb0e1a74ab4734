"""What the creator decided in a review: findings left as they are, and what bothered while watching."""

from __future__ import annotations

from collections.abc import Iterator
from fractions import Fraction

import msgspec

from chapto.document.bounds import LONGEST_NAME, LONGEST_TEXT, is_time, text_problem
from chapto.document.mattime import exact


class Waiver(msgspec.Struct, frozen=True, kw_only=True, forbid_unknown_fields=True):
    """One finding of `check` (by name) that is left as it is, for a `reason`. It is about a `beat` or `item`, by id,
    the words in `quote`, and the `nth` of such (from 0). `value` is what was measured then, where something was: the
    decision holds until that has become worse."""

    check: str
    reason: str
    beat: str = ""
    item: str = ""
    quote: str = ""
    nth: int = 0
    value: Fraction | None = None


class WatchNote(msgspec.Struct, frozen=True, kw_only=True, forbid_unknown_fields=True):
    """What bothered while watching: said at `word` of `beat` (by id), `after` seconds behind its start; without a beat
    at watch second `after`. The `text` may be missing."""

    id: str
    beat: str = ""
    word: int = 0
    after: Fraction = exact("0")
    text: str = ""


def review_problems(waivers: tuple[Waiver, ...], notes: tuple[WatchNote, ...]) -> Iterator[str]:
    """What makes no sense in them, a sentence each."""
    for w in waivers:
        if not w.reason.strip():
            yield "A finding can only be left as it is for a reason."
        for text, longest in ((w.reason, LONGEST_TEXT), (w.quote, LONGEST_TEXT), (w.check, LONGEST_NAME)):
            if problem := text_problem(text, longest):
                yield f"The reason for leaving “{w.check[:30]}” {problem}."
    for n in notes:
        if n.word < 0 or not is_time(n.after):
            yield "A note on what bothered lies nowhere."
        if problem := text_problem(n.text, LONGEST_TEXT):
            yield f"A note on what bothered {problem}."
