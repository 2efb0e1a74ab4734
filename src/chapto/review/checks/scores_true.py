"""Scores that are said and are not those of the log."""

from __future__ import annotations

from collections.abc import Iterator

from chapto.publish.scores_said import scores_said
from chapto.review.finding import Finding, Reviewed, Weight, Where


def find(r: Reviewed) -> Iterator[Finding]:
    """Each where it is said."""
    known, ruling = r.programme.known, r.b.ruling
    rules = known.rules.get(ruling.rules)
    if rules is None:
        return
    starts = {(w.beat, w.word): w.start for w in r.programme.words}
    for s in scores_said(r.b, {x.id for x in r.b.script}, known.lexicon, rules):
        where = Where(starts.get((s.beat, s.first)), s.beat, s.first)
        yield Finding(Weight.MUST, s.sentence, where, f"{s.said[0]}–{s.said[1]}")
