"""Finishes whose tap and release are cut off."""

from __future__ import annotations

from collections.abc import Iterator
from fractions import Fraction
from functools import partial

from chapto.clock.passage import STILL
from chapto.document import edit_log
from chapto.document.bout import MomentKind, Outcome
from chapto.document.breakdown import Breakdown
from chapto.document.script import Part as Role
from chapto.programme.cautions import risks_of
from chapto.review.finding import Finding, Weight, Where, mend_by
from chapto.review.reviewed import Reviewed


def find(r: Reviewed) -> Iterator[Finding]:
    """Where something that can hurt is finished, and the picture never shows so long after it that it is let go."""
    limit, lexicon = r.limits["release-seen"], r.lexicon
    shown = r.programme.time_map if r.programme.frames else None
    told = {s.exchange: s for s in r.b.script if s.exchange and s.part is not Role.OPENING}
    # In floating point: there are thousands, and nobody sees a millionth of a second.
    running = [
        (first, first + float(p.rate) * p.frames / float(p.fps))
        for p in r.programme.passages
        if p.footage and p.kind not in STILL and (first := float(p.mat_in)) >= 0
    ]
    for x in r.b.exchanges:
        if x.id not in told or x.outcome is not Outcome.LANDED or not risks_of(x, lexicon):
            continue
        finish = next((m for m in r.b.moments if m.kind is MomentKind.FINISH and x.start <= m.at <= x.end), None)
        if finish is None:
            continue
        at, seen = float(finish.at), float(finish.at + limit.value)
        last = max((end for start, end in running if start <= at <= end), default=None)
        followed = any(start <= seen <= end for start, end in running)
        if last is None or followed or last >= seen:
            continue
        after = Fraction(round(max(last - at, 0.0) * 1000), 1000)
        beat = next((b.id for b in told[x.id].beats), "")
        sentence = f"The picture ends {float(after):.1f} s after “{finish.note or 'the finish'}”."
        sentence += " Show that it is let go."
        begun = next((s.start for s in shown.watched_at(finish.at)), None) if shown else None
        until = finish.at + limit.value + 1

        def longer(b: Breakdown, exchange: str = x.id, end: object = until) -> Breakdown:
            return edit_log.change_exchange(b, exchange, end=end)

        mend = mend_by("Show it until it is let go", partial(longer)) if x.end < until else None
        where = Where(None if begun is None else r.seconds(begun), beat, 0, x.id)
        yield Finding(Weight.SHOULD, sentence, where, x.id, after, limit, mend)
