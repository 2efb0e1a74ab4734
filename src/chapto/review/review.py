"""All checks, and what they find in a breakdown. A check is one file in `checks` and one row here."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Mapping
from dataclasses import dataclass
from fractions import Fraction

from chapto.document.breakdown import Breakdown
from chapto.programme.programme import Programme
from chapto.review.checks import (
    captions_read,
    chapters,
    first_action,
    labels_read,
    marks_shown,
    names_given,
    pace,
    quick_cuts,
    rights,
    scores_true,
    silences,
    slow_motion,
    stills,
    ties_met,
    words_repeated,
)
from chapto.review.finding import Finding, Group, Reviewed, Weight
from chapto.review.limits import Limit, shipped_limits

Find = Callable[[Reviewed], Iterator[Finding]]


@dataclass(frozen=True)
class Check:
    """A check by its `name`: what it is about, and how it finds."""

    name: str
    group: Group
    find: Find


CHECKS = (
    Check("ties met", Group.MEETING, ties_met.find),
    Check("marks shown", Group.MEETING, marks_shown.find),
    Check("pace", Group.TIME, pace.find),
    Check("silences", Group.TIME, silences.find),
    Check("stills", Group.TIME, stills.find),
    Check("slow motion", Group.TIME, slow_motion.find),
    Check("quick cuts", Group.TIME, quick_cuts.find),
    Check("first action", Group.TIME, first_action.find),
    Check("labels read", Group.READING, labels_read.find),
    Check("captions read", Group.READING, captions_read.find),
    Check("scores true", Group.TRUTH, scores_true.find),
    Check("words repeated", Group.WORDS, words_repeated.find),
    Check("rights", Group.CARE, rights.find),
    Check("chapters", Group.FILE, chapters.find),
    Check("names given", Group.FILE, names_given.find),
)


@dataclass(frozen=True)
class Found:
    """A finding, and the check that found it."""

    check: Check
    finding: Finding


@dataclass(frozen=True)
class Review:
    """What was `found`, the worst first and then in the order of the video."""

    found: tuple[Found, ...]

    def count(self, weight: Weight) -> int:
        """How many findings weigh so much."""
        return sum(f.finding.weight is weight for f in self.found)

    @property
    def verdict(self) -> str:
        """How things stand, in a sentence."""
        must, should = self.count(Weight.MUST), self.count(Weight.SHOULD)
        if not self.found:
            return "Nothing was found that a viewer would stumble over."
        better = f" {_things(should)} would make it better." if should else ""
        if must:
            return f"{_things(must)} must be mended before it is shown.{better}"
        if should:
            return f"It can be shown.{better}"
        return "It can be shown; what was found is small."


def review(b: Breakdown, programme: Programme, limits: Mapping[str, Limit] | None = None) -> Review:
    """Check a breakdown and its programme, by default with the limits that ship."""
    r = Reviewed(b, programme, limits or shipped_limits())
    found = [Found(check, finding) for check in CHECKS for finding in check.find(r)]

    def order(f: Found) -> tuple[int, Fraction]:
        at = f.finding.at
        return -f.finding.weight, programme.seconds if at is None else at

    return Review(tuple(sorted(found, key=order)))


def _things(count: int) -> str:
    return "One thing" if count == 1 else f"{count} things"


def as_data(reviewed: Review) -> dict[str, object]:
    """A review as JSON holds it; seconds are numbers."""
    return {"verdict": reviewed.verdict, "found": [_row(f) for f in reviewed.found]}


def _row(f: Found) -> dict[str, object]:
    x, where, limit = f.finding, f.finding.where, f.finding.limit
    return {
        "check": f.check.name,
        "group": str(f.check.group),
        "weight": x.weight.said,
        "sentence": x.sentence,
        "at": None if where.at is None else round(float(where.at), 3),
        "beat": where.beat,
        "word": where.word,
        "item": where.item,
        "value": x.value,
        "limit": None if limit is None else {"value": float(limit.value), "unit": limit.unit, "source": limit.source},
    }
