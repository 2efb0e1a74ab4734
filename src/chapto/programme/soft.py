"""Pictures that come so near that too few lines of the file are left."""

from __future__ import annotations

from collections.abc import Iterator
from fractions import Fraction

from chapto.document.breakdown import Breakdown
from chapto.document.edit_closer import FEWEST_LINES
from chapto.document.mark_kinds import MarkKind
from chapto.pacing.fitted import Lack, Shortfall
from chapto.programme.programme import Programme


def soft_pictures(b: Breakdown, p: Programme) -> Iterator[Shortfall]:
    """Every mark that brings the picture too near, once, at the word it comes with."""
    files = {c.id: c for c in b.footage}
    told: set[str] = set()
    for placed in p.marks:
        mark, lines = placed.mark, files[placed.footage].lines
        shown = lines / mark.zoom if mark.zoom else Fraction(0)
        if mark.kind is not MarkKind.CLOSER or not lines or shown >= FEWEST_LINES or mark.id in told:
            continue
        told.add(mark.id)
        beat, word = (mark.beat, mark.word) if mark.beat else _said_at(p, placed.start / p.fps)
        sentence = (
            f"{float(mark.zoom):g}× shows {int(shown)} lines of “{files[placed.footage].name}”; under "
            f"{FEWEST_LINES} it looks soft. {float(Fraction(lines, FEWEST_LINES)):.2g}× would do."
        )
        yield Shortfall(beat, word, Fraction(0), sentence, Lack.SOFT)


def _said_at(p: Programme, at: Fraction) -> tuple[str, int]:
    before = [w for w in p.words if w.start <= at]
    return (before[-1].beat, before[-1].word) if before else ("", 0)
