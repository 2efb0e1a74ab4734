"""Slow motion that has too few new pictures to look like motion."""

from __future__ import annotations

from collections.abc import Iterator

from chapto.review.finding import Finding, Reviewed, Weight, Where


def find(r: Reviewed) -> Iterator[Finding]:
    """Stretches that step, or stand."""
    steps, stands = r.limits["pictures-step"], r.limits["pictures-stand"]
    filmed = {c.id: c.fps for c in r.b.footage}
    for p in r.programme.passages:
        if p.footage not in filmed or not p.rate:
            continue
        new = min(abs(p.rate) * filmed[p.footage], r.programme.fps)
        if new >= steps.value:
            continue
        limit, weight = (stands, Weight.SHOULD) if new < stands.value else (steps, Weight.MAY)
        sentence = f"Slow motion {'stands' if weight is Weight.SHOULD else 'steps'}: {limit.said(new)}."
        yield Finding(weight, sentence, Where(r.seconds(p.watch_in)), limit.said(new), limit)
