"""Who has to be covered in which footage: people who did not agree."""

from __future__ import annotations

from chapto.document.breakdown import Breakdown
from chapto.document.clearance import Agreement, Person
from chapto.document.footage import Footage
from chapto.document.mark_kinds import MarkKind

NO = (Agreement.REFUSED, Agreement.WITHDRAWN)


def to_cover(b: Breakdown) -> tuple[tuple[Person, Footage], ...]:
    """Everybody who said no, in each file they are seen in that has fewer covers than such people."""
    anchors = {a.id: a.footage for a in b.anchors}
    covers: dict[str, int] = {}
    for m in b.marks:
        if m.kind is MarkKind.COVER and m.anchors:
            covers[anchors[m.anchors[0]]] = covers.get(anchors[m.anchors[0]], 0) + 1
    found = []
    for c in b.footage:
        refused = [p for p in b.people if p.id in c.seen and p.agreement in NO]
        found += [(p, c) for p in refused[covers.get(c.id, 0) :]]
    return tuple(found)
