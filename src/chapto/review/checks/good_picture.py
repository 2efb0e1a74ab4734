"""Stretches that are fogged, blocked or shaky and are shown although another camera saw them well."""

from __future__ import annotations

from collections.abc import Iterator
from fractions import Fraction
from functools import partial

from chapto.clock.passage import Passage
from chapto.document.breakdown import Breakdown
from chapto.document.condition import UNUSABLE, ConditionKind
from chapto.document.edit_angles import put_angle
from chapto.document.footage import Angle, Footage
from chapto.review.finding import Finding, Mend, Weight, mend_by
from chapto.review.reviewed import Reviewed

Bad = dict[str, list[tuple[Fraction, Fraction, ConditionKind]]]


def find(r: Reviewed) -> Iterator[Finding]:
    """Each such stretch that is shown for longer than the limit, where it is shown first."""
    limit, bad = r.limits["bad-picture"], _bad(r.b)
    files = {c.id: c for c in r.b.footage}
    for footage, stretches in bad.items():
        passages = [p for p in r.programme.passages if p.footage == footage] if stretches else []
        for start, end, kind in stretches:
            shown = [(p, x) for p in passages if (x := _within(p, start, end))]
            seconds = sum((x for _, x in shown), Fraction(0))
            if seconds <= limit.value:
                continue
            here, name = shown[0][0], files[footage].name
            other = _seen_well(r.b, bad, files[footage], (max(start, here.mat_in), min(end, here.mat_out)))
            into = max(start - here.mat_in, Fraction(0)) / here.rate if here.rate > 0 else Fraction(0)
            at = r.seconds(here.watch_in) + into
            where = r.where(at, footage)
            saw = f", though “{other.name}” saw it" if other else ""
            sentence = f"“{name}” is {kind.value} for {limit.said(seconds)} that are shown{saw}."
            weight = Weight.SHOULD if other else Weight.MAY
            # Marks are drawn on one camera's picture; they would be lost with it.
            marked = any(
                m.footage == footage and m.start < p.watch_out and m.end > p.watch_in
                for p, _ in shown
                for m in r.programme.marks
            )
            mend = _other_camera(other, start, end) if other and not marked else None
            yield Finding(weight, sentence, where, f"{name} {kind.value}", seconds, limit, mend)


def _within(p: Passage, start: Fraction, end: Fraction) -> Fraction:
    """Watch seconds for which a passage shows something of a stretch of mat time."""
    first = float(p.mat_in)
    last = first + float(p.rate) * p.frames / float(p.fps)
    if max(first, last) < float(start) - 1 or min(first, last) > float(end) + 1:
        return Fraction(0)
    if not p.rate:
        return p.frames / p.fps if start <= p.mat_in < end else Fraction(0)
    low, high = min(p.mat_in, p.mat_out), max(p.mat_in, p.mat_out)
    return max(min(high, end) - max(low, start), Fraction(0)) / abs(p.rate)


def _bad(b: Breakdown) -> Bad:
    """Mat seconds of every file with a picture that is no good."""
    found: Bad = {}
    for c in b.footage:
        found[c.id] = [
            (c.mat_at(x.start), c.mat_at(x.end), x.kind)
            for x in b.conditions
            if x.footage == c.id and x.accepted and x.kind in UNUSABLE and x.kind is not ConditionKind.STOPPED
        ]
    return found


def _seen_well(b: Breakdown, bad: Bad, here: Footage, span: tuple[Fraction, Fraction]) -> Footage | None:
    """Another camera's file with a good picture of all of it."""
    first, last = span
    for c in b.footage:
        if c.camera_name == here.camera_name or not c.covers(first) or last > c.mat_out:
            continue
        if not any(start < last and end > first for start, end, _ in bad[c.id]):
            return c
    return None


def _other_camera(other: Footage, start: Fraction, end: Fraction) -> Mend:
    angle = Angle(start=max(start, other.mat_in), end=min(end, other.mat_out), camera=other.camera_name)
    return mend_by(f"Show it from “{other.camera_name}”", partial(put_angle, angle=angle))
