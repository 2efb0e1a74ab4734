"""Edits of what was decided about stretches of footage: taken, moved, thrown away, or open again."""

from __future__ import annotations

from fractions import Fraction

from msgspec.structs import replace

from chapto.document.breakdown import Breakdown, by_id, new_id
from chapto.document.condition import Condition, ConditionKind
from chapto.document.edit_log import add_round
from chapto.document.file_rounds import spans_file, without_file_rounds

SHORTEST = Fraction(1, 10)
SAME_SIGNAL = Fraction(1)
"""Mat seconds within which two cameras heard the same whistle."""
SHORTEST_ROUND, LONGEST_ROUND = Fraction(20), Fraction(15 * 60)


def decide(
    b: Breakdown, footage_id: str, kind: ConditionKind, start: Fraction, end: Fraction, *, accepted: bool
) -> Breakdown:
    """With a stretch of a file (seconds into it) taken or thrown away.

    A whistle or buzzer that is taken makes a round in the log with the one before it, or else with the one after it.
    """
    footage = by_id(b.footage, footage_id, "footage")
    start, end = max(start, Fraction(0)), min(end, footage.duration)
    made = Condition(
        id=new_id(b, "c"), footage=footage_id, kind=kind, start=start, end=end, accepted=accepted
    )  # fmt: skip
    b = replace(b, conditions=(*b.conditions, made))
    if accepted and kind is ConditionKind.SIGNAL:
        b = _with_round(b, footage.mat_at(start))
    return b


def signal_times(b: Breakdown) -> tuple[Fraction, ...]:
    """Mat times of all whistles and buzzers that were taken, one where several cameras heard the same."""
    files = {c.id: c for c in b.footage}
    taken = (x for x in b.conditions if x.kind is ConditionKind.SIGNAL and x.accepted)
    times: list[Fraction] = []
    for mat in sorted(files[x.footage].mat_at(x.start) for x in taken):
        if not times or mat - times[-1] > SAME_SIGNAL:
            times.append(mat)
    return tuple(times)


def _with_round(b: Breakdown, mat: Fraction) -> Breakdown:
    times = signal_times(b)
    here = min(range(len(times)), key=lambda i: abs(times[i] - mat))
    for start, end in ((here - 1, here), (here, here + 1)):
        if start < 0 or end >= len(times):
            continue
        a, z = times[start], times[end]
        fits = SHORTEST_ROUND <= z - a <= LONGEST_ROUND
        logged = (r for r in b.rounds if not any(spans_file(r, c) for c in b.footage))
        if fits and not any(r.start < z and r.end > a for r in logged):
            made = add_round(b, a.limit_denominator(1000), z.limit_denominator(1000))
            known = {r.id for r in b.rounds}
            return without_file_rounds(made, next(r for r in made.rounds if r.id not in known))
    return b


def move_condition(b: Breakdown, condition_id: str, start: Fraction, end: Fraction) -> Breakdown:
    """With other edges, kept inside the file and at least a tenth of a second apart."""
    found = by_id(b.conditions, condition_id, "stretch")
    duration = by_id(b.footage, found.footage, "footage").duration
    start = min(max(start, Fraction(0)), duration - SHORTEST)
    moved = replace(found, start=start, end=min(max(end, start + SHORTEST), duration))
    return replace(b, conditions=tuple(moved if x.id == condition_id else x for x in b.conditions))


def reopen(b: Breakdown, condition_id: str) -> Breakdown:
    """Without the decision: what was found there is proposed again."""
    by_id(b.conditions, condition_id, "stretch")
    return replace(b, conditions=tuple(x for x in b.conditions if x.id != condition_id))
