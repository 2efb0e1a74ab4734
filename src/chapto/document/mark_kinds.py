"""The kinds of marks, and what each is made of. A new kind is one entry of `RULES` and one file in `paint/marks/`."""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum

from chapto.document.bout import MomentKind


class MarkKind(StrEnum):
    """What a mark means."""

    GRIP = "grip"
    FRAME = "frame"
    FORCE = "force"
    LEVEL = "level"
    KNEE_LINE = "knee line"
    BASE = "base"
    WEIGHT = "weight"
    STEP = "step"
    GAP = "gap"
    PATH = "path"
    SPOTLIGHT = "spotlight"
    WINDOW = "window"
    CLOSER = "closer"
    GHOST = "ghost"
    COVER = "cover"


class Sticks(StrEnum):
    """What a point stays on: a body, the mat, or a place of the picture."""

    BODY = "body"
    MAT = "mat"
    STILL = "still"


class MarkState(StrEnum):
    """How it stands with a grip (shut, loose), a frame (shut: it holds; loose) or a knee line (shut, open)."""

    SHUT = "shut"
    LOOSE = "loose"
    OPEN = "open"


@dataclass(frozen=True)
class MarkRule:
    """What a kind is made of.

    `roles` say of each point what to put down; from `least` points on the mark is whole, and beyond the roles the last
    one is asked for again, up to `most`. With a `figure` a whole athlete may stand in the place of the points. `states`
    are the kind's, the first one by default; `sized`, `zoomed` and `timed` say that it has a radius, a magnification,
    seconds it looks back. One that `takes_both` athletes asks for the first one's point, then for the second one's.
    """

    meaning: str
    roles: tuple[str, ...]
    least: int
    most: int
    sticks: Sticks = Sticks.BODY
    states: tuple[MarkState, ...] = ()
    figure: bool = False
    sized: bool = False
    zoomed: bool = False
    timed: bool = False
    takes_both: bool = False

    def role(self, number: int) -> str:
        """What is put down as point `number` (from 0)."""
        return self.roles[min(number, len(self.roles) - 1)]


K, S, T = MarkKind, MarkState, Sticks
RULES: dict[MarkKind, MarkRule] = {
    K.GRIP: MarkRule("a hand that holds", ("where the hand holds",), 1, 1, states=(S.SHUT, S.LOOSE)),
    K.FRAME: MarkRule(
        "an arm or shin that keeps apart",
        ("where the frame starts", "where it pushes"), 2, 2, states=(S.SHUT, S.LOOSE),
    ),
    K.FORCE: MarkRule("where the push or pull goes", ("where it comes from", "where it goes"), 2, 2),
    K.LEVEL: MarkRule(
        "whose hips are higher", ("the hips of {first}", "the hips of {second}"), 2, 4, takes_both=True
    ),
    K.KNEE_LINE: MarkRule(
        "the line a knee must not cross",
        ("one end of the line", "its other end", "the knee"), 2, 3, states=(S.SHUT, S.OPEN),
    ),
    K.BASE: MarkRule("what the weight stands on", ("a hand, knee or foot on the mat",), 2, 8, figure=True),
    K.WEIGHT: MarkRule("where the weight rests", ("whose weight it is", "where it rests"), 2, 2),
    K.STEP: MarkRule("where a foot goes", ("where the foot stands", "where it goes"), 2, 5, sticks=T.MAT),
    K.GAP: MarkRule("the room between two places", ("one side of the gap", "its other side"), 2, 2),
    K.PATH: MarkRule("the way a point has gone", ("what moves",), 1, 1, timed=True),
    K.SPOTLIGHT: MarkRule("one athlete, the rest dimmed", ("who is meant",), 1, 14, figure=True, sized=True),
    K.WINDOW: MarkRule("a spot, magnified", ("the spot",), 1, 1, sized=True, zoomed=True),
    K.CLOSER: MarkRule("the whole picture comes closer", ("what to come closer to",), 1, 2, zoomed=True),
    K.GHOST: MarkRule("how somebody lay before", ("a point of the body",), 2, 14, figure=True, timed=True),
    K.COVER: MarkRule("made unrecognisable for good", ("the middle of what is covered",), 1, 1, sized=True),
}  # fmt: skip

PROPOSED: dict[MomentKind, MarkKind] = {
    MomentKind.GRIP: K.GRIP,
    MomentKind.FRAME: K.FRAME,
    MomentKind.HIPS: K.LEVEL,
    MomentKind.KNEE_LINE: K.KNEE_LINE,
    MomentKind.BASE: K.BASE,
    MomentKind.SLIP: K.GAP,
    MomentKind.FINISH: K.CLOSER,
    MomentKind.POINT: K.WINDOW,
    MomentKind.LATER: K.WINDOW,
}
"""The kind of mark that a moment of a kind most likely wants."""
