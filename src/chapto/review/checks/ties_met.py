"""Words and pictures that were tied and do not meet."""

from __future__ import annotations

from collections.abc import Iterator

from chapto.programme.placed import TieState
from chapto.review.finding import Finding, Reviewed, Weight, Where


def find(r: Reviewed) -> Iterator[Finding]:
    """Every tie that is late or broken."""
    for t in r.programme.ties:
        if t.state is TieState.MET:
            continue
        lag = t.lag
        off = "the moment is never shown" if lag is None else f"they miss each other by {abs(float(lag)):.2f} s"
        yield Finding(Weight.MUST, f"“{t.text}” and its moment do not meet: {off}.", Where(t.said, t.beat, t.word))
