"""Rule sets, read from data that a user can add to in a file of their own."""

from __future__ import annotations

import tomllib
from functools import lru_cache
from pathlib import Path

import msgspec

from chapto.errors import ChaptoError

KINDS = ("takedown", "sweep", "pass", "knee on belly", "mount", "back")
NOTICE = "Worked out from your log by these rules as data; the event's own current rules and its referee decide."


class MatlogError(ChaptoError):
    """A rule set or a log that can't be used."""


class RuleSet(msgspec.Struct, frozen=True, kw_only=True, forbid_unknown_fields=True):
    """One rule set; see `rule_sets.toml` for what the fields mean."""

    title: str
    hold: float
    points: dict[str, int]
    counts_from: str = "start"
    pull: int = 0
    pull_counts: str = "always"
    overtime: bool = False

    def __post_init__(self) -> None:
        unknown = [k for k in self.points if k not in KINDS]
        if unknown or self.counts_from not in ("start", "half") or self.hold < 0:
            raise ValueError(f"“{(unknown or [self.counts_from])[0]}” is not known to rule sets")
        if self.pull_counts not in ("always", "first half", "second half"):
            raise ValueError(f"“{self.pull_counts}” is no time for a penalty")


def read_rules(path: Path) -> dict[str, RuleSet]:
    """All rule sets in a TOML file by name; `MatlogError` says what is wrong with it."""
    try:
        rows = tomllib.loads(path.read_text("utf-8"))
        return {name: msgspec.convert(row, RuleSet) for name, row in rows.items()}
    except (OSError, UnicodeDecodeError, tomllib.TOMLDecodeError, msgspec.ValidationError) as error:
        raise MatlogError(f"The rule sets in “{path.name}” can't be used: {error}.") from None


@lru_cache(maxsize=1)
def shipped_rules() -> dict[str, RuleSet]:
    """The rule sets that come with Chapto."""
    return read_rules(Path(__file__).parent / "rule_sets.toml")


def rule_set(name: str, own: dict[str, RuleSet] | None = None) -> RuleSet:
    """The rule set called `name`, a user's own before a shipped one; `MatlogError` says which there are."""
    known = {**shipped_rules(), **(own or {})}
    if name not in known:
        raise MatlogError(f"There is no rule set “{name}”; there are {', '.join(known)}.")
    return known[name]
