"""The way out where a picture comes too near for its file."""

from __future__ import annotations

from collections.abc import Iterator
from fractions import Fraction
from functools import partial

from chapto.document.edit_closer import FEWEST_LINES, STEP
from chapto.document.edit_marks import change_mark
from chapto.document.mark_kinds import MarkKind
from chapto.programme.ways.way import Trouble, Try


def sharper(t: Trouble) -> Iterator[Try]:
    """Less near, so that enough lines are left."""
    for mark in t.b.marks:
        if mark.kind is not MarkKind.CLOSER or (mark.beat, mark.word) != (t.lack.beat, t.lack.word):
            continue
        lines = t.b.camera(t.b.anchor(mark.anchors[0]).footage).lines
        zoom = Fraction(lines * STEP // FEWEST_LINES, STEP)
        if 1 < zoom < mark.zoom:
            change = partial(change_mark, mark_id=mark.id, zoom=zoom)
            yield Try("sharper", f"Come only {float(zoom):g}× as near", change)
