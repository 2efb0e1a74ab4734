"""Scores that are said and are not those of the log."""

from __future__ import annotations

from collections.abc import Iterator

from chapto.drafting.said_numbers import number
from chapto.publish.scores_said import scores_said
from chapto.review.finding import Finding, Weight, Where
from chapto.review.mends import write_instead
from chapto.review.reviewed import Part


def find(part: Part) -> Iterator[Finding]:
    """Each where it is said."""
    programme, b = part.r.programme, part.b
    known = programme.known
    rules = known.rules.get(b.ruling.rules)
    if rules is None or not b.rounds:
        return
    for s in scores_said(b, {part.section.id}, known.lexicon, rules):
        where = Where(part.said_at(s.beat, s.first), s.beat, s.first)
        # In the order in which it was said: who leads comes first, or who is spoken of.
        one, other = s.stands if (s.said[0] >= s.said[1]) == (s.stands[0] >= s.stands[1]) else s.stands[::-1]
        words = f"{number(one) if one else 'nil'} to {number(other) if other else 'nil'}"
        yield Finding(
            Weight.MUST, s.sentence, where, s.words, mend=write_instead(s.beat, s.first, s.end, words)
        )  # fmt: skip
