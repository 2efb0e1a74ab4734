"""The whole picture coming closer to a place of it: the mark that does so, put at a word."""

from __future__ import annotations

from fractions import Fraction

from chapto.document.breakdown import Breakdown
from chapto.document.edit_marks import add_mark, put_anchor
from chapto.document.mark_kinds import MarkKind, Sticks
from chapto.document.marks import Until

GENTLE = Fraction(3, 2)
FEWEST_LINES = 480
"""Lines of the file that are shown at least; fewer look soft (common practice)."""
STEP = 20


def come_closer(
    b: Breakdown,
    beat_id: str,
    word: int,
    footage_id: str,
    mat: Fraction,
    place: tuple[float, float],
    *,
    zoom: Fraction = GENTLE,
    ease: Fraction = Fraction(1, 2),
) -> Breakdown:
    """With the picture of a file coming closer from a word on to the end of its beat, within `ease` seconds.

    `place` is 0…1 of the picture as it is at `mat`. It comes only as near as the file has the lines for it.
    """
    lines = b.camera(footage_id).lines
    most = max(Fraction(lines * STEP // FEWEST_LINES, STEP), Fraction(11, 10)) if lines else zoom
    made = put_anchor(b, footage_id, mat, place, sticks=Sticks.STILL)
    anchor = made.anchors[-1].id
    near = min(zoom, most)
    return add_mark(
        made, MarkKind.CLOSER, anchors=(anchor,), beat=beat_id, word=word, until=Until.BEAT, zoom=near, ease=ease
    )  # fmt: skip
