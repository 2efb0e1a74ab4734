"""The user's own names, house styles and rule sets: three TOML files in the XDG config folder, laid over what ships.

Every entry is judged alone: one that makes no sense is left out and said, the others count. `like = "…"` takes what an
entry does not say from another one. Without it that comes from the shipped entry of the same name, or else from the
first that ships: a setting that is new in Chapto never costs anybody their own.
"""

from __future__ import annotations

import os
import tomllib
from collections.abc import Callable, Mapping
from pathlib import Path
from typing import Any, TypeVar

import msgspec
import tomli_w
from platformdirs import user_config_path

from chapto.document.mattime import encode_hook
from chapto.errors import ChaptoError
from chapto.lexicon.lexicon import Lexicon, lexicon_of, shipped_rows
from chapto.matlog.rules import RuleSet, rules_of, shipped_rules
from chapto.pacing.styles import HouseStyle, house_styles, styles_of
from chapto.programme.knowledge import Knowledge, shipped_knowledge
from chapto.store.atomic import write_atomically
from chapto.store.errors import StoreError, plain_reason

Rows = dict[str, Any]
Made = TypeVar("Made", HouseStyle, RuleSet)


def styles_file() -> Path:
    """Where the user's own house styles stand."""
    return user_config_path("chapto") / "styles.toml"


def rules_file() -> Path:
    """Where the user's own rule sets stand."""
    return user_config_path("chapto") / "rules.toml"


def lexicon_file() -> Path:
    """Where the user's own names stand."""
    return user_config_path("chapto") / "lexicon.toml"


def users_knowledge() -> Knowledge:
    """What ships with the user's own laid over it, as their files are now."""
    troubles: list[str] = []
    shipped = shipped_knowledge()
    styles = _overlaid(styles_file(), house_styles(), styles_of, troubles)
    rules = _overlaid(rules_file(), shipped_rules(), rules_of, troubles)
    return Knowledge(_lexicon(lexicon_file(), shipped.lexicon, troubles), styles, rules, tuple(troubles))


def own_rows(path: Path, troubles: list[str]) -> Rows:
    """The tables of one file; none where it is not there, or can't be read, which is said."""
    if not os.path.exists(path):
        return {}
    try:
        return tomllib.loads(path.read_text("utf-8"))
    except OSError as error:
        troubles.append(f"Your own “{path.name}” can't be read: {plain_reason(error)}.")
    except (UnicodeDecodeError, tomllib.TOMLDecodeError, RecursionError) as error:
        troubles.append(f"Your own “{path.name}” can't be read: {error}.")
    return {}


def rows_to_change(path: Path) -> Rows:
    """The tables of one file, to be written back changed; `StoreError` where it can't be read: it is never replaced."""
    troubles: list[str] = []
    rows = own_rows(path, troubles)
    if troubles:
        raise StoreError(f"{troubles[0]} Put it right or away first; nothing was changed.")
    return rows


def write_rows(path: Path, rows: Rows) -> None:
    """Write the tables of one file, whole or not at all; `StoreError` where that can't be done."""
    try:
        path.parent.mkdir(parents=True, exist_ok=True)
    except OSError as error:
        raise StoreError(f"Your own “{path.name}” can't be written to “{path}”: {plain_reason(error)}.") from None
    write_atomically(path, tomli_w.dumps(rows).encode())


def _overlaid(
    path: Path,
    shipped: Mapping[str, Made],
    made_of: Callable[[Rows], dict[str, Made]],
    troubles: list[str],
) -> dict[str, Made]:
    known: dict[str, Made] = dict(shipped)
    for name, row in own_rows(path, troubles).items():
        try:
            known |= made_of({name: _filled(name, row, known)})
        except ChaptoError as error:
            troubles.append(f"In your own “{path.name}”: {error}")
    return known


def _filled(name: str, row: Any, known: Mapping[str, HouseStyle] | Mapping[str, RuleSet]) -> Any:
    """A row with what it does not say taken from the one it is `like`."""
    if not isinstance(row, dict):
        return row
    like = row.get("like", name if name in known else next(iter(known)))
    base = known.get(like) if isinstance(like, str) else None
    if base is None:
        return row
    under: Rows = msgspec.to_builtins(base, enc_hook=encode_hook)
    said = {k: v for k, v in row.items() if k != "like"}
    nested = {k: {**under[k], **v} for k, v in said.items() if k == "weights" and isinstance(v, dict)}
    return {**under, **said, **nested}


def _lexicon(path: Path, shipped: Lexicon, troubles: list[str]) -> Lexicon:
    own = own_rows(path, troubles)
    if not own:
        return shipped
    positions, families = shipped_rows()
    for section, table in own.items():
        entries = {"positions": table} if section == "positions" else table
        if section not in ("positions", "techniques") or not isinstance(entries, dict):
            troubles.append(f"In your own “{path.name}”: “{section}” is neither positions nor techniques.")
            continue
        for family, rows in entries.items():
            for name, row in (rows if isinstance(rows, dict) else {}).items():
                into = positions if section == "positions" else families.setdefault(family, {})
                before = into.get(name)
                into[name] = {**into.get(str(row.get("like", name)), {}), **row} if isinstance(row, dict) else row
                if isinstance(row, dict):
                    into[name].pop("like", None)
                try:
                    lexicon_of(positions, families)
                except ChaptoError as error:
                    troubles.append(f"In your own “{path.name}”: {error}")
                    if before is None:
                        del into[name]
                    else:
                        into[name] = before
    return lexicon_of(positions, families)
