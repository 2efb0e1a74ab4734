"""Under which rules the bout was held, what the referee gave, and how it ended."""

from __future__ import annotations

from enum import StrEnum
from fractions import Fraction

import msgspec

from chapto.document.people import Side


class PositionSpan(msgspec.Struct, frozen=True, kw_only=True, forbid_unknown_fields=True):
    """What the two are in for mat seconds `start ≤ t < end`: a position of the lexicon (by id), and who has its upper
    or attacking part; None where nobody has. What no span covers is unsure."""

    start: Fraction
    end: Fraction
    position: str
    top: Side | None = None


class CallKind(StrEnum):
    """What the referee called: points (0 where he waved them off), or what has a column of its own."""

    POINTS = "points"
    ADVANTAGE = "advantage"
    PENALTY = "penalty"
    NEAR_SUBMISSION = "near submission"
    EDGE = "edge"


class RefereeCall(msgspec.Struct, frozen=True, kw_only=True, forbid_unknown_fields=True):
    """What the referee called for `side` at mat time `at`. `points` belong to the kind *points* alone, and are below 0
    where they were taken away. *Edge*: stopped or moved in at the edge of the mat."""

    id: str
    at: Fraction
    side: Side
    points: int = 0
    note: str = ""
    kind: CallKind = CallKind.POINTS


class ClockStop(msgspec.Struct, frozen=True, kw_only=True, forbid_unknown_fields=True):
    """The bout's clock stood for mat seconds `start ≤ t < end`."""

    start: Fraction
    end: Fraction


class Result(msgspec.Struct, frozen=True, kw_only=True, forbid_unknown_fields=True):
    """How it ended: for whom (None: a draw), by what ("points", "submission", "decision", …)."""

    winner: Side | None
    how: str


class OvertimeTurn(msgspec.Struct, frozen=True, kw_only=True, forbid_unknown_fields=True):
    """One turn from a set position: who attacked, mat start and end, whether it ended by submission; without one the
    other escaped at `end`."""

    attacker: Side
    start: Fraction
    end: Fraction
    finished: bool = False


class Ruling(msgspec.Struct, frozen=True, kw_only=True, forbid_unknown_fields=True):
    """Everything the officials decided: the rule set (by name), its length in seconds, points, stops, result."""

    rules: str = "positional"
    length: Fraction = msgspec.field(default_factory=lambda: Fraction(300))
    points: tuple[RefereeCall, ...] = ()
    stops: tuple[ClockStop, ...] = ()
    result: Result | None = None
    overtime: tuple[OvertimeTurn, ...] = ()
