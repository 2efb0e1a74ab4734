"""Positions and techniques, read from data."""

from __future__ import annotations

import tomllib
from collections.abc import Iterable, Mapping
from enum import StrEnum
from functools import cached_property, lru_cache
from pathlib import Path
from typing import Any, TypeVar

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
    """What somebody does: its family, the positions it starts from, the one it lands in, its classes of risk, the
    worst first. In data one class may stand without a list."""

    family: str
    start: tuple[str, ...] = msgspec.field(default=(), name="from")
    to: str = ""
    risk: tuple[str, ...] = ()


Entry = TypeVar("Entry", Position, Technique)


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
        """The sentence for a class of risk, shown at the technique; empty for none. `always` comes once, at the end."""
        return self.risks.get(risk, "")


def lexicon_of(positions: Mapping[str, Any], families: Mapping[str, Mapping[str, Any]]) -> Lexicon:
    """The lexicon in tables: positions by id, techniques by family and id, with the shipped classes of risk.
    `LexiconError` says what is wrong with an entry that makes no sense."""
    risks = _toml(DATA / "risks.toml")
    found = Lexicon(
        [_entry(i, {"id": i}, row, Position) for i, row in positions.items()],
        [_entry(i, {"id": i, "family": f}, row, Technique) for f, rows in families.items() for i, row in rows.items()],
        risks["classes"],
        risks["always"],
    )
    for t in found.techniques.values():
        unknown = [p for p in (*t.start, *([t.to] if t.to else [])) if p not in found.positions]
        unknown += [risk for risk in t.risk if risk not in found.risks]
        if unknown:
            raise LexiconError(f"The technique “{t.en}” names “{unknown[0]}”, which is not in the lexicon.")
    return found


def shipped_rows() -> tuple[dict[str, Any], dict[str, dict[str, Any]]]:
    """The tables that ship, to lay others over: positions, and techniques by family."""
    return dict(_toml(DATA / "positions.toml")), {f: dict(r) for f, r in _toml(DATA / "techniques.toml").items()}


@lru_cache(maxsize=1)
def shipped_lexicon() -> Lexicon:
    """The lexicon as it comes with Chapto."""
    return lexicon_of(*shipped_rows())


def _entry(name: str, known: dict[str, str], row: Any, kind: type[Entry]) -> Entry:
    try:
        if isinstance(row.get("risk"), str):
            row = {**row, "risk": [row["risk"]] if row["risk"] else []}
        return msgspec.convert({**known, **row}, kind)
    except (msgspec.ValidationError, TypeError, ValueError, AttributeError) as error:
        raise LexiconError(f"“{name}” makes no sense: {error}.") from None


@lru_cache(maxsize=4)
def _toml(path: Path) -> dict[str, Any]:
    return tomllib.loads(path.read_text("utf-8"))
