"""What happened on the mat clock: rounds, exchanges, moments."""

from __future__ import annotations

from enum import StrEnum
from fractions import Fraction

import msgspec

from chapto.document.people import Athlete, Side


class Outcome(StrEnum):
    """How an exchange ended for the one who began it."""

    LANDED = "landed"
    STOPPED = "stopped"
    HALF = "half"


class MomentKind(StrEnum):
    """Why a point on the mat clock is worth pointing at."""

    GRIP = "grip"
    FRAME = "frame"
    HIPS = "hips"
    KNEE_LINE = "knee line"
    BASE = "base"
    SLIP = "slip"
    FINISH = "finish"
    POINT = "point"
    LATER = "come back"


class Round(msgspec.Struct, frozen=True, kw_only=True, forbid_unknown_fields=True):
    """A stretch between start and stop: mat seconds, half-open. Where others than the breakdown's two are on the mat,
    `first` and `second` say who."""

    id: str
    name: str
    start: Fraction
    end: Fraction
    first: Athlete | None = None
    second: Athlete | None = None


NO_RISK = "none"
"""What the creator says of a technique that can hurt nobody."""


class Exchange(msgspec.Struct, frozen=True, kw_only=True, forbid_unknown_fields=True):
    """An attack and its answers: mat seconds, half-open. `risk` is the class of risk that the creator said for a
    technique the lexicon does not know; empty while nobody has said."""

    id: str
    start: Fraction
    end: Fraction
    technique: str = ""
    by: Side | None = None
    outcome: Outcome | None = None
    risk: str = ""


class Moment(msgspec.Struct, frozen=True, kw_only=True, forbid_unknown_fields=True):
    """A point on the mat clock, in mat seconds."""

    id: str
    at: Fraction
    kind: MomentKind = MomentKind.POINT
    note: str = ""
