"""What is not settled before footage may be shown."""

from __future__ import annotations

from collections.abc import Iterator

from chapto.document.clearance_checks import open_points
from chapto.review.finding import Finding, Reviewed, Weight, Where


def find(r: Reviewed) -> Iterator[Finding]:
    """A finding for each file that is shown, with the weightiest of what is open."""
    shown = {p.footage for p in r.programme.passages} | {x.footage for x in r.programme.insets}
    for c in r.b.footage:
        if c.id in shown and (points := open_points(r.b, c)):
            more = f" {len(points) - 1} more to settle." if len(points) > 1 else ""
            yield Finding(Weight.MUST, f"“{c.name}”: {points[0]}{more}", Where(item=c.id))
