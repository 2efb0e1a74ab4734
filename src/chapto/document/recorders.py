"""Files that one recorder wrote one after another: numbered names, and times that join."""

from __future__ import annotations

import re
from collections.abc import Mapping
from datetime import datetime, timedelta

from chapto.document.breakdown import Breakdown
from chapto.document.edit_footage import change_footage
from chapto.document.footage import Footage

JOIN = timedelta(seconds=5)
"""Between the end of one file and the begin of the next, at most: recorders cut long recordings without a gap, and
their clocks count whole seconds (common practice)."""
_NUMBER = re.compile(r"\d+")


def of_one_recorder(b: Breakdown, began: Mapping[str, datetime]) -> tuple[tuple[str, ...], ...]:
    """Rows of files (by id) that seem to be of one recorder and are not told to be. `began` is when each was begun."""
    alone = [c for c in b.footage if not c.camera and c.id in began]
    rows: list[list[Footage]] = []
    for c in sorted(alone, key=lambda c: began[c.id]):
        row = next((r for r in rows if _follows(r[-1], c, began)), None)
        if row is None:
            rows.append([c])
        else:
            row.append(c)
    return tuple(tuple(c.id for c in row) for row in rows if len(row) > 1)


def as_one_camera(b: Breakdown, files: tuple[str, ...]) -> Breakdown:
    """With files (by id) of one camera, called after the first of them."""
    name = b.camera(files[0]).name
    for footage_id in files:
        b = change_footage(b, footage_id, camera=name)
    return b


def _follows(one: Footage, other: Footage, began: Mapping[str, datetime]) -> bool:
    end = began[one.id] + timedelta(seconds=float(one.duration))
    return abs(began[other.id] - end) <= JOIN and _numbered_after(one.name, other.name)


def _numbered_after(one: str, other: str) -> bool:
    """Whether two names differ in one number only, and that is one more."""
    first, second = _NUMBER.findall(one), _NUMBER.findall(other)
    if _NUMBER.sub("#", one) != _NUMBER.sub("#", other) or len(first) != len(second):
        return False
    apart = [int(z) - int(a) for a, z in zip(first, second, strict=True) if int(a) != int(z)]
    return apart == [1]
