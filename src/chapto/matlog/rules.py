"""Rule sets, read from data."""

from __future__ import annotations

import tomllib
from collections.abc import Mapping
from functools import lru_cache
from pathlib import Path
from typing import Any

import msgspec

from chapto.errors import ChaptoError

KINDS = (
    "takedown", "takedown past the guard", "sweep", "sweep past the guard", "pass", "knee on belly", "mount", "back",
)  # fmt: skip
STEPS = ("warning", "advantage", "2 points", "3 points", "4 points", "out")
"""What a penalty can lead to."""
NOTICE = "Worked out from your log by these rules as data; the event's own current rules and its referee decide."


class MatlogError(ChaptoError):
    """A rule set or a log that can't be used."""


class RuleSet(
    msgspec.Struct, frozen=True, kw_only=True, forbid_unknown_fields=True, rename={"control_seconds": "hold"}
):
    """One rule set; see `rule_sets.toml` for what the fields mean."""

    title: str
    control_seconds: float
    points: dict[str, int]
    edition: str = ""
    usual_length: int = 0
    counts_from: str = "start"
    pull: int = 0
    pull_counts: str = "always"
    sweep_to_turtle: bool = False
    takedown_to_back: bool = True
    body_triangle_is_back: bool = True
    penalties: tuple[str, ...] = ()
    overtime: bool = False
    overtime_pairs: int = 3
    overtime_riding: int = 60
    overtime_starts: tuple[str, ...] = ("back-control", "spider-web")

    def __post_init__(self) -> None:
        unknown = [k for k in self.points if k not in KINDS]
        if unknown or self.counts_from not in ("start", "half") or self.control_seconds < 0:
            raise ValueError(f"“{(unknown or [self.counts_from])[0]}” is not known to rule sets")
        if self.pull_counts not in ("always", "first half", "second half"):
            raise ValueError(f"“{self.pull_counts}” is no time for a penalty")
        if odd := [step for step in self.penalties if step not in STEPS]:
            raise ValueError(f"“{odd[0]}” is nothing that a penalty leads to")
        if min(self.overtime_pairs, self.overtime_riding, self.usual_length) < 0:
            raise ValueError("times and numbers of turns are never below 0")


def rules_of(rows: Mapping[str, Any]) -> dict[str, RuleSet]:
    """The rule sets in tables by name; `MatlogError` says what is wrong with the first that makes no sense."""
    made = {}
    for name, row in rows.items():
        try:
            made[name] = msgspec.convert(row, RuleSet)
        except (msgspec.ValidationError, ValueError) as error:
            raise MatlogError(f"The rule set “{name}” makes no sense: {error}.") from None
    return made


@lru_cache(maxsize=1)
def shipped_rules() -> dict[str, RuleSet]:
    """The rule sets that come with Chapto."""
    return rules_of(tomllib.loads((Path(__file__).parent / "rule_sets.toml").read_text("utf-8")))


def rule_set(name: str, rules: Mapping[str, RuleSet]) -> RuleSet:
    """The rule set called `name`; `MatlogError` says which there are."""
    if name not in rules:
        raise MatlogError(f"There is no rule set “{name}”; there are {', '.join(rules)}.")
    return rules[name]
