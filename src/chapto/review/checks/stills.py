"""Pictures that stand too long with nothing drawn on them."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterator

from chapto.clock.passage import Kind
from chapto.pacing.fitted import Lack
from chapto.review.finding import Finding, Weight, Where
from chapto.review.mends import best_way
from chapto.review.reviewed import Reviewed


def find(r: Reviewed) -> Iterator[Finding]:
    """Holds over the limit under which no mark and no label comes."""
    limit = r.limits["still-longest"]
    drawn = [(m.start, m.end) for m in r.programme.marks] + [(x.start, x.end) for x in r.programme.labels]
    longest = limit.value * r.fps
    for p in r.programme.passages:
        if p.kind is not Kind.HOLD or p.frames <= longest:
            continue
        if any(a < p.watch_out and z > p.watch_in for a, z in drawn):
            continue
        seconds = p.frames / p.fps
        sentence = f"The picture stands for {limit.said(seconds)}, and nothing is drawn on it."
        # Of what is said over it most counts: its first word may be the last one before it.
        over = r.words_between(r.seconds(p.watch_in), r.seconds(p.watch_out))
        beat = Counter(w.beat for w in over).most_common(1)[0][0] if over else ""
        word = next((w.word for w in over if w.beat == beat), 0)
        said = {(w.beat, w.word) for w in over}
        lack = next((s for s in r.programme.shortfalls if s.lack is Lack.STILL and (s.beat, s.word) in said), None)
        mend = best_way(r, lack.beat, (Lack.STILL,), word=lack.word) if lack is not None else None
        where = Where(r.seconds(p.watch_in), beat, word)
        yield Finding(Weight.SHOULD, sentence, where, "still", seconds, limit, mend)
