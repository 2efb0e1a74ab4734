"""Putting points down, one after another: what is asked for next. Free of Qt."""

from __future__ import annotations

from dataclasses import dataclass, replace
from fractions import Fraction

from chapto.document.joints import Joint
from chapto.document.mark_kinds import RULES, MarkKind
from chapto.document.people import Side


@dataclass(frozen=True)
class Put:
    """A point that was put down on a footage at a mat time; `anchor` is one that was there already and is shared."""

    footage: str
    mat: Fraction
    x: float
    y: float
    anchor: str = ""
    joint: Joint | None = None


@dataclass(frozen=True)
class Run:
    """A guided run of clicks: for a mark of a `kind`, or for the figure of one athlete where there is none. A figure
    that is put right keeps its id in `figure`."""

    kind: MarkKind | None
    side: Side | None
    points: tuple[Put, ...] = ()
    skipped: tuple[Joint, ...] = ()
    rests: tuple[Joint, ...] = ()
    figure: str = ""

    @property
    def joint(self) -> Joint | None:
        """The joint that is asked for next; None in a run for a mark, and when all were asked for."""
        if self.kind is not None:
            return None
        done = {p.joint for p in self.points} | set(self.skipped)
        return next((j for j in Joint if j not in done), None)

    @property
    def is_full(self) -> bool:
        """Whether nothing more can be put down."""
        return self.joint is None if self.kind is None else len(self.points) >= RULES[self.kind].most

    @property
    def may_end(self) -> bool:
        """Whether there are points enough."""
        return len(self.points) >= (1 if self.kind is None else RULES[self.kind].least)

    def with_point(self, point: Put) -> Run:
        """With one more point put down."""
        return replace(self, points=(*self.points, replace(point, joint=self.joint) if self.kind is None else point))

    def without_last(self) -> Run:
        """With the last point taken back."""
        return replace(self, points=self.points[:-1])

    def skip(self) -> Run:
        """Without the joint that is asked for: it can't be seen."""
        return self if self.joint is None else replace(self, skipped=(*self.skipped, self.joint))

    def rest(self) -> Run:
        """With the joint put down last resting on the mat, or not."""
        last = self.points[-1].joint if self.points else None
        if last is None:
            return self
        rests = tuple(j for j in self.rests if j is not last) if last in self.rests else (*self.rests, last)
        return replace(self, rests=rests)

    def side_of(self, number: int) -> Side | None:
        """Whose point number `number` is."""
        if self.kind is not None and RULES[self.kind].takes_both:
            return Side.FIRST if number % 2 == 0 else Side.SECOND
        return self.side

    def prompt(self, names: dict[Side, str]) -> str:
        """What to put down now, and how far it has come."""
        if self.kind is None:
            whose = names[self.side] if self.side is not None else ""
            if self.joint is None:
                return f"{whose} is whole. Return keeps the figure."
            done = len(self.points) + len(self.skipped)
            rest = f"  ·  G: the {self.points[-1].joint} rests on the mat" if self.points else ""
            return f"{whose}: put down the {self.joint}  ·  {done + 1} of {len(Joint)}  ·  S: not to be seen{rest}"
        rule, count = RULES[self.kind], len(self.points)
        role = rule.role(count).format(first=names[Side.FIRST], second=names[Side.SECOND])
        more = "  ·  Return ends it" if self.may_end else ""
        return f"{self.kind.capitalize()}: put down {role}  ·  {count + 1} of {max(rule.least, len(rule.roles))}{more}"
