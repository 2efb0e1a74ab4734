"""The sentences of a draft, read from data."""

from __future__ import annotations

import re
import tomllib
from functools import lru_cache
from pathlib import Path

import msgspec

from chapto.document.script import BeatKind

DATA = Path(__file__).with_name("grammar.toml")
_VERB = re.compile(r"\{[AB]:(\w+)\}")


class Pattern(msgspec.Struct, frozen=True, kw_only=True, forbid_unknown_fields=True):
    """One row of `grammar.toml`, whose head says what its fields mean."""

    text: str
    verb: str = ""
    families: frozenset[str] = frozenset()
    kinds: frozenset[str] = frozenset()
    needs: frozenset[str] = frozenset()
    lacks: frozenset[str] = frozenset()
    cost: float = 0.0
    bare: bool = False
    leads: bool = False
    after: bool = False
    early: bool = False
    alone: bool = False

    @property
    def main_verb(self) -> str:
        """Its verb as it stands for somebody else; empty where it has none."""
        found = _VERB.search(self.text)
        return self.verb or (found[1] if found else "")


class Grammar(msgspec.Struct, frozen=True, kw_only=True, forbid_unknown_fields=True):
    """All of `grammar.toml`."""

    lead: tuple[Pattern, ...]
    attack: tuple[Pattern, ...]
    moment: tuple[Pattern, ...]
    opening: tuple[Pattern, ...]
    closing: tuple[Pattern, ...]
    besides: tuple[Pattern, ...]
    landed: tuple[Pattern, ...]
    stopped: tuple[Pattern, ...]
    half: tuple[Pattern, ...]
    points: tuple[Pattern, ...]
    intro: tuple[Pattern, ...]
    result: tuple[Pattern, ...]
    asks: dict[str, str]


@lru_cache(maxsize=1)
def grammar() -> Grammar:
    """What ships."""
    return msgspec.convert(tomllib.loads(DATA.read_text("utf-8")), Grammar)


def asked(kind: BeatKind) -> str:
    """What an empty beat of a kind asks; empty where it asks nothing of its own."""
    return grammar().asks.get(kind.value, "")
