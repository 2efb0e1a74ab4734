"""What was decided about stretches of a file: where its picture is no good, where nothing happens."""

from __future__ import annotations

from enum import StrEnum
from fractions import Fraction

import msgspec


class ConditionKind(StrEnum):
    """What is the matter with a stretch of footage."""

    FOGGED = "fogged"
    BLOCKED = "blocked"
    SHAKY = "shaky"
    STOPPED = "stopped"
    IDLE = "nothing happens"
    SIGNAL = "whistle or buzzer"


UNUSABLE = frozenset(
    {ConditionKind.FOGGED, ConditionKind.BLOCKED, ConditionKind.SHAKY, ConditionKind.STOPPED}
)  # fmt: skip
"""Kinds for which another camera is better."""


class Condition(msgspec.Struct, frozen=True, kw_only=True, forbid_unknown_fields=True):
    """A decision about seconds `start ≤ t < end` of a file. They count from the file's own start, so that moving the
    file on the mat clock takes it along. One that is not `accepted` was thrown away and is not proposed again."""

    id: str
    footage: str
    kind: ConditionKind
    start: Fraction
    end: Fraction
    accepted: bool = True
