"""Positions and techniques, read from data that a user can add to in a file of their own."""

from __future__ import annotations

import tomllib
from collections.abc import Iterable, Mapping
from enum import StrEnum
from functools import cached_property, lru_cache
from pathlib import Path
from typing import Any

import msgspec

from chapto.errors import ChaptoError

DATA = Path(__file__).parent / "data"


class LexiconError(ChaptoError):
    """A lexicon file that can't be used."""


class School(StrEnum):
    """Which name is shown where a thing has several."""

    ENGLISH = "English"
    JAPANESE = "Japanese"
    SHORT = "short"


class Named(msgspec.Struct, frozen=True, kw_only=True):
    """What has names: English always, Japanese-derived and short or numbered ones where the trade uses them."""

    id: str
    en: str
    ja: str = ""
    short: str = ""
    alias: tuple[str, ...] = ()
    wrong: tuple[str, ...] = ()

    def name(self, school: School = School.ENGLISH) -> str:
        """Its name in a school, the English one where that school has none."""
        return {School.JAPANESE: self.ja, School.SHORT: self.short}.get(school, "") or self.en

    def names(self) -> tuple[str, ...]:
        """Every right name, the English one first."""
        return tuple(n for n in (self.en, self.ja, self.short, *self.alias) if n)


class Position(Named, frozen=True, kw_only=True, forbid_unknown_fields=True):
    """What the two are in. `control` is which part controls ("top", "bottom", "none"), `level` how dominant it is, 0
    to 10; `group` is what rule sets ask for; `top` and `bottom` name the two parts."""

    group: str
    control: str
    level: int
    family: str = ""
    top: str = "on top"
    bottom: str = "under"
    key: str = ""


class Technique(Named, frozen=True, kw_only=True, forbid_unknown_fields=True):
    """What somebody does: its family, the positions it starts from, the one it lands in, its risk class if any."""

    family: str
    start: tuple[str, ...] = msgspec.field(default=(), name="from")
    to: str = ""
    risk: str = ""


class Lexicon:
    """All positions and techniques by id."""

    def __init__(
        self,
        positions: Iterable[Position],
        techniques: Iterable[Technique],
        risks: Mapping[str, str],
        always: str,
    ) -> None:
        self.positions = {p.id: p for p in positions}
        self.techniques = {t.id: t for t in techniques}
        self.risks, self.always = dict(risks), always

    def position(self, position_id: str) -> Position | None:
        """The position with that id."""
        return self.positions.get(position_id)

    @cached_property
    def by_name(self) -> dict[str, Technique]:
        """Techniques by every right name, in small letters; the first of two with one name counts."""
        found: dict[str, Technique] = {}
        for t in self.techniques.values():
            for name in t.names():
                found.setdefault(name.casefold(), t)
        return found

    def technique_named(self, name: str) -> Technique | None:
        """The technique of exactly that name or id, whatever its capitals."""
        return self.by_name.get(name.strip().casefold()) or self.techniques.get(name.strip())

    def caution(self, risk: str) -> str:
        """The caution for a risk class; empty for none."""
        return f"{self.risks[risk]} {self.always}" if risk in self.risks else ""


def read_lexicon(extra: Path | None = None) -> Lexicon:
    """The shipped lexicon, with a user's TOML file laid over it: tables `positions` and `techniques.FAMILY`, entries as
    in the shipped files. `LexiconError` says what is wrong with that file."""
    positions: dict[str, Any] = _toml(DATA / "positions.toml")
    families: dict[str, Any] = _toml(DATA / "techniques.toml")
    risks = _toml(DATA / "risks.toml")
    if extra is not None and extra.exists():
        own = _toml(extra)
        positions |= own.get("positions", {})
        for family, entries in own.get("techniques", {}).items():
            families[family] = {**families.get(family, {}), **entries}
    try:
        found = Lexicon(
            [msgspec.convert({"id": i, **row}, Position) for i, row in positions.items()],
            [
                msgspec.convert({"id": i, "family": f, **row}, Technique)
                for f, rows in families.items()
                for i, row in rows.items()
            ],
            risks["classes"],
            risks["always"],
        )
    except (msgspec.ValidationError, TypeError, AttributeError) as error:
        raise LexiconError(f"The lexicon “{(extra or DATA).name}” has an entry that makes no sense: {error}.") from None
    for t in found.techniques.values():
        unknown = [p for p in (*t.start, *([t.to] if t.to else [])) if p not in found.positions]
        if unknown or (t.risk and t.risk not in found.risks):
            raise LexiconError(
                f"The technique “{t.en}” names “{(unknown or [t.risk])[0]}”, which is not in the lexicon."
            )
    return found


@lru_cache(maxsize=1)
def shipped_lexicon() -> Lexicon:
    """The lexicon as it comes with Chapto."""
    return read_lexicon()


def _toml(path: Path) -> dict[str, Any]:
    try:
        return tomllib.loads(path.read_text("utf-8"))
    except (OSError, UnicodeDecodeError, tomllib.TOMLDecodeError) as error:
        raise LexiconError(f"The lexicon “{path.name}” can't be read: {error}.") from None
