"""Rule sets, read from data that a user can add to in a file of their own."""

from __future__ import annotations

import contextlib
import os
import tomllib
from functools import lru_cache
from pathlib import Path

import msgspec
from platformdirs import user_config_path

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


def users_file() -> Path:
    """Where a user's own rule sets are kept: `rules.toml` in the XDG config folder."""
    return user_config_path("chapto") / "rules.toml"


def all_rules() -> dict[str, RuleSet]:
    """The shipped rule sets and the user's own, which go before shipped ones of the same name.

    A user's file that can't be used is left out here; `read_rules(users_file())` says what is wrong with it.
    """
    own: dict[str, RuleSet] = {}
    if os.path.exists(users_file()):
        with contextlib.suppress(MatlogError):
            own = read_rules(users_file())
    return {**shipped_rules(), **own}


def rule_set(name: str) -> RuleSet:
    """The rule set called `name`; `MatlogError` says which there are."""
    known = all_rules()
    if name not in known:
        raise MatlogError(f"There is no rule set “{name}”; there are {', '.join(known)}.")
    return known[name]
