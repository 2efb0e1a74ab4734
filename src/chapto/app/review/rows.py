"""The rows of a review as they are listed: groups, what was found, what could not be checked, what is left. Free of
Qt."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from chapto.document.reviewing import Waiver
from chapto.review.finding import Finding, Group
from chapto.review.review import Found, Review

TITLES = {
    Group.NOTES: "What bothered you",
    Group.MEETING: "Words and picture",
    Group.TIME: "Time",
    Group.READING: "Reading",
    Group.SOUND: "Sound",
    Group.PICTURE: "Picture",
    Group.TRUTH: "Truth",
    Group.WORDS: "Words",
    Group.CARE: "Care",
    Group.FILE: "What goes with it",
}
WAITING, LEFT = "Not checked", "Left with a reason"


@dataclass(frozen=True)
class Row:
    """A heading with a `title`; or a finding (`found`), with a reason where it is left; or checks that could not be
    made: their names in `title`, and `why`."""

    title: str = ""
    found: Found | None = None
    why: str = ""

    @property
    def is_heading(self) -> bool:
        """Whether it only stands over others."""
        return self.found is None and not self.why

    @property
    def finding(self) -> Finding | None:
        """What was found."""
        return None if self.found is None else self.found.finding

    @property
    def waiver(self) -> Waiver | None:
        """The decision to leave it as it is."""
        return None if self.found is None else self.found.waiver

    @property
    def is_note(self) -> bool:
        """Whether it is what bothered the creator."""
        return self.found is not None and self.found.check.group is Group.NOTES

    @property
    def key(self) -> tuple[object, ...]:
        """What stays the same as long as it is the same row."""
        if self.found is None:
            return "", self.title, self.why
        x = self.found.finding
        return self.found.check.name, x.where.beat, x.where.item, x.quote, self.found.nth

    @property
    def text(self) -> str:
        """Its sentence."""
        if self.found is not None:
            return self.found.finding.sentence
        return f"{self.title}: {self.why[:1].lower()}{self.why[1:]}" if self.why else self.title


def rows_of(review: Review) -> tuple[Row, ...]:
    """All rows: the groups with the weightiest findings first, then what could not be checked, then what is left."""
    return tuple(_rows(review))


def _rows(review: Review) -> Iterator[Row]:
    groups: dict[Group, list[Found]] = {}
    for f in review.found:
        groups.setdefault(f.check.group, []).append(f)
    order = list(Group)
    for group in sorted(groups, key=lambda g: (-groups[g][0].finding.weight, order.index(g))):
        yield Row(TITLES[group])
        yield from (Row(found=f) for f in groups[group])
    if review.unchecked:
        yield Row(WAITING)
        whys = dict.fromkeys(u.why for u in review.unchecked)
        for why in whys:
            yield Row(", ".join(u.check.name for u in review.unchecked if u.why == why).capitalize(), why=why)
    if review.waived:
        yield Row(LEFT)
        yield from (Row(found=f) for f in review.waived)
