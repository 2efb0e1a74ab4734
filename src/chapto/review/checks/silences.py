"""Stretches in which nobody speaks for too long."""

from __future__ import annotations

from collections.abc import Iterator
from itertools import pairwise

from chapto.clock.passage import STILL
from chapto.pacing.fitted import Lack
from chapto.programme.placed import PlacedWord
from chapto.review.finding import Finding, Weight, Where
from chapto.review.mends import best_way
from chapto.review.reviewed import Part, Reviewed


def find(part: Part) -> Iterator[Finding]:
    """Silences between two words of a section; it weighs more where the picture stands meanwhile."""
    limit, fps = part.limits["silence-longest"], part.r.fps
    for one, other in pairwise(part.block.words):
        if other.start - one.end > limit.value:
            stands = any(
                p.kind in STILL and p.watch_in / fps < other.start and p.watch_out / fps > one.end
                for p in part.block.passages
            )
            yield _silence(part.r, one, other, stands=stands)


def between(r: Reviewed) -> Iterator[Finding]:
    """Silences from the last word of one section to the first of the next; what is shown clean is meant to be watched
    without words."""
    limit = r.limits["silence-longest"]
    sections = {s.id: s for s in r.b.script}
    spoken = [x for x in r.programme.blocks if x.block.words]
    for before, after in pairwise(spoken):
        one_section, other_section = (sections.get(x.block.section) for x in (before, after))
        if (one_section and (one_section.once_more or one_section.as_filmed)) or (
            other_section and (other_section.show_first or other_section.as_filmed)
        ):
            continue
        one, other = before.words[-1], after.words[0]
        if other.start - one.end > limit.value:
            stands = any(
                p.kind in STILL and r.seconds(p.watch_in) < other.start and r.seconds(p.watch_out) > one.end
                for p in (*before.passages, *after.passages)
            )
            yield _silence(r, one, other, stands=stands)


def _silence(r: Reviewed, one: PlacedWord, other: PlacedWord, *, stands: bool) -> Finding:
    limit = r.limits["silence-longest"]
    silent = other.start - one.end
    sentence = f"Nobody speaks for {limit.said(silent)} after “{one.text.strip('.,;:!?')}”."
    lacks = {s.beat for s in r.programme.shortfalls if s.lack is Lack.SILENT}
    beat = next((w.beat for w in (one, other) if w.beat in lacks), "")
    mend = best_way(r, beat, (Lack.SILENT,)) if beat else None
    weight = Weight.SHOULD if stands else Weight.MAY
    return Finding(weight, sentence, Where(one.end, one.beat, one.word), one.text, silent, limit, mend)
