"""Pictures that stand too long with nothing drawn on them."""

from __future__ import annotations

from collections.abc import Iterator

from chapto.clock.passage import Kind
from chapto.review.finding import Finding, Reviewed, Weight, Where


def find(r: Reviewed) -> Iterator[Finding]:
    """Holds over the limit under which no mark and no label comes."""
    limit = r.limits["still-longest"]
    drawn = [(m.start, m.end) for m in r.programme.marks] + [(x.start, x.end) for x in r.programme.labels]
    for p in r.programme.passages:
        seconds = p.frames / p.fps
        bare = not any(a < p.watch_out and z > p.watch_in for a, z in drawn)
        if p.kind is Kind.HOLD and seconds > limit.value and bare:
            sentence = f"The picture stands for {limit.said(seconds)}, and nothing is drawn on it."
            yield Finding(Weight.SHOULD, sentence, Where(r.seconds(p.watch_in)), limit.said(seconds), limit)
