"""Rounds that stand for a whole file: made when it is brought in, until somebody says where the rounds really are."""

from __future__ import annotations

from msgspec.structs import replace

from chapto.document.bout import Round
from chapto.document.breakdown import Breakdown
from chapto.document.footage import Footage


def spans_file(r: Round, footage: Footage) -> bool:
    """Whether a round is just one file from end to end, and nobody said more of it."""
    return (r.start, r.end) == (footage.mat_in, footage.mat_out) and r.first is None and r.second is None


def without_file_rounds(b: Breakdown, real: Round) -> Breakdown:
    """Without the rounds that only stand for a file, where they overlap the `real` round."""
    kept = tuple(
        r
        for r in b.rounds
        if r.id == real.id
        or not (r.start < real.end and r.end > real.start)
        or not any(spans_file(r, c) for c in b.footage)
    )
    return replace(b, rounds=kept)


def with_rounds_of(before: Breakdown, after: Breakdown) -> Breakdown:
    """`after`, in which files lie elsewhere on the mat clock than `before`, with the rounds that stand for them moved
    along. One that comes to lie over another round for half of its length goes: two cameras saw the same round."""
    now = {c.id: c for c in after.footage}
    moved = [(c, now[c.id]) for c in before.footage if c.id in now and now[c.id] != c]
    following = {r.id: new for r in before.rounds for old, new in moved if spans_file(r, old)}
    rounds = [r for r in after.rounds if r.id not in following]
    for r in after.rounds:
        if r.id in following:
            c = following[r.id]
            at = replace(r, start=c.mat_in, end=c.mat_out)
            if not any(min(at.end, x.end) - max(at.start, x.start) >= (at.end - at.start) / 2 for x in rounds):
                rounds.append(at)
    return replace(after, rounds=tuple(sorted(rounds, key=lambda r: r.start)))
