"""Slow motion that has too few new pictures to look like motion."""

from __future__ import annotations

from collections.abc import Iterator
from fractions import Fraction

from msgspec.structs import replace

from chapto.document import edit_script, edit_turns
from chapto.document.breakdown import Breakdown
from chapto.document.script import Beat
from chapto.document.treatments import Again, GoTo, Loop, Pace, Slow, Treatment
from chapto.review.finding import Finding, Mend, Weight, Where, mend_by
from chapto.review.reviewed import Part

SLOWED = (Slow, Again, Loop, GoTo, Pace)


def find(part: Part) -> Iterator[Finding]:
    """Stretches that step, or stand."""
    r = part.r
    steps, stands = r.limits["pictures-step"], r.limits["pictures-stand"]
    filmed = {c.id: c.fps for c in r.b.footage}
    for p in part.block.passages:
        if p.footage not in filmed or not p.rate:
            continue
        new = min(abs(p.rate) * filmed[p.footage], r.fps)
        if new >= steps.value:
            continue
        limit, weight = (stands, Weight.SHOULD) if new < stands.value else (steps, Weight.MAY)
        sentence = f"Slow motion {'stands' if weight is Weight.SHOULD else 'steps'}: {limit.said(new)}."
        start, end = p.watch_in / p.fps, p.watch_out / p.fps
        said = next((w for w in part.block.words if w.end > start and w.start < end), None)
        beat = next((x for x in part.section.beats if said is not None and x.id == said.beat), None)
        where = Where(start, beat.id if beat else "", said.word if said else 0)
        mend = _quicker(beat, abs(p.rate), steps.value / filmed[p.footage]) if beat else None
        yield Finding(weight, sentence, where, "steps", new, limit, mend)


def _quicker(beat: Beat, rate: Fraction, wanted: Fraction) -> Mend | None:
    """The treatment of the beat that is so slow, at the slowest rate that is smooth."""
    if wanted > 1 or not any(isinstance(t, SLOWED) and t.rate == rate for t in beat.treatments()):
        return None
    smooth = next((x for x in (Fraction(1, 4), Fraction(3, 8), Fraction(1, 2), Fraction(3, 4)) if x >= wanted), wanted)

    def quicker(t: Treatment) -> Treatment:
        return replace(t, rate=smooth) if isinstance(t, SLOWED) and t.rate == rate else t

    def change(b: Breakdown) -> Breakdown:
        _, now = b.find_beat(beat.id)
        changed = now.with_treatments(quicker)
        b = edit_script.treat(b, beat.id, changed.treatment)
        for turn in changed.turns:
            b = edit_turns.turn_at(b, beat.id, turn.word, turn.treatment)
        return b

    return mend_by(f"Show it at {float(smooth):g}×", change)
