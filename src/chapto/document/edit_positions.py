"""Edits of the position track: no overlaps, edges shared."""

from __future__ import annotations

from fractions import Fraction
from typing import Any

from msgspec.structs import replace

from chapto.document.bout_rules import CallKind, ClockStop, OvertimeTurn, PositionSpan, RefereeCall
from chapto.document.breakdown import Breakdown, DocumentError, by_id, new_id
from chapto.document.people import Side

SHORTEST = Fraction(1, 10)


def put_position(b: Breakdown, span: PositionSpan) -> Breakdown:
    """With a span; what it covers gives way, and the same position side by side becomes one."""
    kept = [part for p in b.positions for part in _outside(p, span.start, span.end)]
    joined: list[PositionSpan] = []
    for p in sorted((*kept, span), key=lambda p: p.start):
        last = joined[-1] if joined else None
        if last and last.end == p.start and (last.position, last.top) == (p.position, p.top):
            joined[-1] = replace(last, end=p.end)
        else:
            joined.append(p)
    return replace(b, positions=tuple(joined))


def position_from(b: Breakdown, mat: Fraction, position: str, top: Side | None) -> Breakdown:
    """With a position from `mat` on: to the next change, or to the end of the round, whichever comes first."""
    limits = [r.end for r in b.rounds if r.start <= mat < r.end]
    limits += [p.start for p in b.positions if p.start > mat]
    here = position_at(b, mat)
    if here is not None:
        limits.append(here.end)
    end = min(limits, default=max((c.mat_out for c in b.footage), default=mat + 1))
    if end - mat < SHORTEST:
        raise DocumentError("There is no room for a position here: the next one begins at once.")
    return put_position(b, PositionSpan(start=mat, end=end, position=position, top=top))


def control_from(b: Breakdown, mat: Fraction, top: Side | None) -> Breakdown:
    """With the upper or attacking part given to somebody else from `mat` on, the position staying."""
    here = position_at(b, mat)
    if here is None:
        raise DocumentError("Say first what the two are in; then who controls.")
    if mat - here.start < SHORTEST:
        return put_position(b, replace(here, top=top))
    return put_position(b, replace(here, start=mat, top=top))


def move_edge(b: Breakdown, edge: Fraction, to: Fraction) -> Breakdown:
    """With an edge moved, on both sides where two spans share it; never past the spans' other ends."""
    before = next((p for p in b.positions if p.end == edge), None)
    after = next((p for p in b.positions if p.start == edge), None)
    low = before.start + SHORTEST if before else max((p.end for p in b.positions if p.end < edge), default=Fraction(0))
    high = after.end - SHORTEST if after else min((p.start for p in b.positions if p.start > edge), default=to)
    if before is None and after is None:
        return b
    to = min(max(to, low), high)
    moved = [replace(p, end=to) if p is before else replace(p, start=to) if p is after else p for p in b.positions]
    return replace(b, positions=tuple(moved))


def change_position(b: Breakdown, mat: Fraction, **changes: Any) -> Breakdown:
    """With the span at `mat` renamed or given to another side."""
    here = position_at(b, mat)
    return b if here is None else put_position(b, replace(here, **changes))


def clear_position(b: Breakdown, mat: Fraction) -> Breakdown:
    """With the span at `mat` unsure again."""
    return replace(b, positions=tuple(p for p in b.positions if not p.start <= mat < p.end))


def position_at(b: Breakdown, mat: Fraction) -> PositionSpan | None:
    """The span at `mat`; None where it is unsure."""
    return next((p for p in b.positions if p.start <= mat < p.end), None)


def call(b: Breakdown, mat: Fraction, side: Side, kind: CallKind, *, note: str = "") -> Breakdown:
    """With a call of the referee's that gives no points."""
    made = RefereeCall(id=new_id(b, "g"), at=mat, side=side, note=note, kind=kind)
    return replace(b, ruling=replace(b.ruling, points=tuple(sorted((*b.ruling.points, made), key=lambda c: c.at))))


def give_points(b: Breakdown, mat: Fraction, side: Side, points: int, *, note: str = "") -> Breakdown:
    """With points that the referee gave."""
    made = RefereeCall(id=new_id(b, "g"), at=mat, side=side, points=points, note=note)
    ruling = replace(b.ruling, points=tuple(sorted((*b.ruling.points, made), key=lambda p: p.at)))
    return replace(b, ruling=ruling)


def take_points_back(b: Breakdown, points_id: str) -> Breakdown:
    """Without points that the referee was said to have given."""
    by_id(b.ruling.points, points_id, "referee's points")
    return replace(b, ruling=replace(b.ruling, points=tuple(p for p in b.ruling.points if p.id != points_id)))


def stop_clock(b: Breakdown, start: Fraction, end: Fraction) -> Breakdown:
    """With the bout's clock standing from `start` to `end`; stops that touch are one."""
    stops: list[ClockStop] = []
    for s in sorted((*b.ruling.stops, ClockStop(start=start, end=end)), key=lambda s: s.start):
        if stops and s.start <= stops[-1].end:
            stops[-1] = replace(stops[-1], end=max(stops[-1].end, s.end))
        else:
            stops.append(s)
    return change_ruling(b, stops=tuple(stops))


def add_turn(b: Breakdown, attacker: Side, start: Fraction, end: Fraction, *, finished: bool) -> Breakdown:
    """With one turn of overtime."""
    turn = OvertimeTurn(attacker=attacker, start=start, end=end, finished=finished)
    return change_ruling(b, overtime=tuple(sorted((*b.ruling.overtime, turn), key=lambda t: t.start)))


def change_ruling(b: Breakdown, **changes: Any) -> Breakdown:
    """With other rules, stops, result or overtime."""
    return replace(b, ruling=replace(b.ruling, **changes))


def _outside(p: PositionSpan, start: Fraction, end: Fraction) -> list[PositionSpan]:
    parts = (replace(p, end=min(p.end, start)), replace(p, start=max(p.start, end)))
    return [x for x in parts if x.end > x.start]
