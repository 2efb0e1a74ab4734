"""What all checks find in a breakdown, what of it is left as it is, and how things stand."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass, replace
from fractions import Fraction

from chapto.document.breakdown import Breakdown
from chapto.document.reviewing import Waiver
from chapto.pacing.spoken import SpokenLine
from chapto.programme.programme import Programme
from chapto.review.all_checks import CHECKS, Check
from chapto.review.finding import Finding, Weight
from chapto.review.limits import Limit, shipped_limits
from chapto.review.measured import Heard, Watched
from chapto.review.reviewed import NOT_HEARD, NOT_WATCHED, NotChecked, Part, Reviewed

WORSE = Fraction(11, 10)
"""So many times as far from its limit, and something that was left as it is comes up again."""


@dataclass(frozen=True)
class Found:
    """A finding, and the check that found it. Of those that are about the same it is number `nth`. One that is left as
    it is has a `waiver`."""

    check: Check
    finding: Finding
    nth: int = 0
    waiver: Waiver | None = None

    def waiver_for(self, reason: str) -> Waiver:
        """The decision to leave it as it is."""
        x = self.finding
        return Waiver(
            check=self.check.name, reason=reason, beat=x.where.beat, item=x.where.item, quote=x.quote, nth=self.nth,
            value=x.measured,
        )  # fmt: skip


@dataclass(frozen=True)
class Unchecked:
    """A check that could not be made, and why."""

    check: Check
    why: str


@dataclass(frozen=True)
class Review:
    """What was `found`, the worst first and then in the order of the video; what is `waived` stands apart. The checks
    of `unchecked` could not be made."""

    found: tuple[Found, ...]
    waived: tuple[Found, ...] = ()
    unchecked: tuple[Unchecked, ...] = ()

    def count(self, weight: Weight) -> int:
        """How many findings weigh so much."""
        return sum(f.finding.weight is weight for f in self.found)

    @property
    def verdict(self) -> str:
        """How things stand, in a sentence or two."""
        must, should = self.count(Weight.MUST), self.count(Weight.SHOULD)
        better = f" {_things(should)} would make it better." if should else ""
        if must:
            said = f"{_things(must)} must be mended before it is shown.{better}"
        elif should:
            said = f"It can be shown.{better}"
        elif self.found:
            said = "It can be shown; what was found is small."
        elif self.waived:
            said = f"Nothing is open; {_things(len(self.waived)).lower()} {_is(len(self.waived))} left with a reason."
        else:
            said = "Nothing was found that a viewer would stumble over."
        if self.unchecked:
            count = len(self.unchecked)
            said += f" {'One check' if count == 1 else f'{count} checks'} could not be made."
        return said


class Reviewer:
    """Reviews a document again and again: what is found in a section is kept until the section, or what is known
    besides the script, is another."""

    def __init__(self) -> None:
        self._around: tuple[object, ...] = ()
        self._kept: dict[str, tuple[Part, dict[str, tuple[Finding, ...]]]] = {}

    def review(
        self,
        b: Breakdown,
        programme: Programme,
        limits: Mapping[str, Limit] | None = None,
        *,
        voices: Mapping[str, SpokenLine] | None = None,
        heard: Heard | str = NOT_HEARD,
        watched: Watched | str = NOT_WATCHED,
        settled: frozenset[str] = frozenset(),
    ) -> Review:
        """Check a breakdown and its programme, by default with the limits that ship. In the place of what was `heard`
        and `watched` a sentence says why it was not. `settled` are promises that were kept or let go elsewhere."""
        r = Reviewed(b, programme, limits or shipped_limits(), voices or {}, heard, watched, settled)
        self._keep_what_is_the_same(r)
        rows: list[tuple[Check, Finding]] = []
        unchecked = []
        for check in CHECKS:
            try:
                rows += [(check, x) for x in self._of(check, r)]
            except NotChecked as why:
                unchecked.append(Unchecked(check, str(why)))
        found = _with_waivers(rows, b.waivers)

        def order(f: Found) -> tuple[int, Fraction]:
            at = f.finding.at
            return -f.finding.weight, programme.seconds if at is None else at

        ordered = sorted(found, key=order)
        return Review(
            tuple(f for f in ordered if f.waiver is None),
            tuple(f for f in ordered if f.waiver is not None),
            tuple(unchecked),
        )

    def _keep_what_is_the_same(self, r: Reviewed) -> None:
        around = _around(r)
        known = self._kept if _same(around, self._around) else {}
        self._around, self._kept = around, {}
        for part in r.parts:
            kept = known.get(part.section.id)
            # Blocks that did not change are the same objects.
            if kept is None or kept[0].block is not part.block or kept[0].section != part.section:
                kept = part, {}
            self._kept[part.section.id] = part, kept[1]

    def _of(self, check: Check, r: Reviewed) -> Iterable[Finding]:
        found = list(check.find(r)) if check.find is not None else []
        if check.in_part is not None:
            for part, known in self._kept.values():
                if check.name not in known:
                    known[check.name] = tuple(check.in_part(part))
                found += [_later(x, part.start / r.fps) for x in known[check.name]]
        return found


def review(
    b: Breakdown,
    programme: Programme,
    limits: Mapping[str, Limit] | None = None,
    *,
    voices: Mapping[str, SpokenLine] | None = None,
    heard: Heard | str = NOT_HEARD,
    watched: Watched | str = NOT_WATCHED,
    settled: frozenset[str] = frozenset(),
) -> Review:
    """Check a breakdown and its programme once; see `Reviewer`."""
    return Reviewer().review(b, programme, limits, voices=voices, heard=heard, watched=watched, settled=settled)


def _around(r: Reviewed) -> tuple[object, ...]:
    """Everything besides its own words that what is found in a section may depend on."""
    b = r.b
    return (
        r.limits, r.programme.known, b.first, b.second, b.narrators, b.footage, b.rounds, b.positions, b.ruling,
        b.exchanges, b.moments, b.anchors, b.figures, b.marks, b.people, b.style, b.about, r.settled,
    )  # fmt: skip


def _same(one: tuple[object, ...], other: tuple[object, ...]) -> bool:
    return len(one) == len(other) and all(a is z or a == z for a, z in zip(one, other, strict=True))


def _later(x: Finding, by: Fraction) -> Finding:
    if x.where.at is None or not by:
        return x
    more = tuple(w if w.at is None else replace(w, at=w.at + by) for w in x.more)
    return replace(x, where=replace(x.where, at=x.where.at + by), more=more)


def _with_waivers(rows: Iterable[tuple[Check, Finding]], waivers: tuple[Waiver, ...]) -> list[Found]:
    decided = {(w.check, w.beat, w.item, w.quote, w.nth): w for w in waivers}
    counted: dict[tuple[str, str, str, str], int] = {}
    found = []
    for check, x in rows:
        key = check.name, x.where.beat, x.where.item, x.quote
        nth = counted.get(key, 0)
        counted[key] = nth + 1
        waiver = decided.get((*key, nth))
        if waiver is not None and _is_worse(x, waiver):
            waiver = None
        found.append(Found(check, x, nth, waiver))
    return found


def _is_worse(x: Finding, waiver: Waiver) -> bool:
    if x.limit is None or x.measured is None or waiver.value is None:
        return False
    return abs(x.measured - x.limit.value) > WORSE * abs(waiver.value - x.limit.value)


def _things(count: int) -> str:
    return "One thing" if count == 1 else f"{count} things"


def _is(count: int) -> str:
    return "is" if count == 1 else "are"
