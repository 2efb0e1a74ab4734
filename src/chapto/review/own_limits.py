"""The user's own limits: a TOML file in the XDG config folder, laid over those that ship."""

from __future__ import annotations

from collections.abc import Mapping
from fractions import Fraction
from pathlib import Path

from msgspec.structs import replace
from platformdirs import user_config_path

from chapto.document.bounds import number
from chapto.document.mattime import encode_hook
from chapto.review.limits import Limit, ReviewError, limits_of, shipped_limits
from chapto.store.user_files import own_rows, rows_to_change, write_rows

OWN = "your own"


def limits_file() -> Path:
    """Where the user's own limits stand."""
    return user_config_path("chapto") / "limits.toml"


def users_limits() -> tuple[Mapping[str, Limit], tuple[str, ...]]:
    """The limits as they count, and a sentence for each of the user's that makes no sense and is left out."""
    troubles: list[str] = []
    found: Mapping[str, Limit] = shipped_limits()
    for name, row in own_rows(limits_file(), troubles).items():
        try:
            shipped = shipped_limits().get(name)
            filled = {"unit": shipped.unit, "source": OWN, **row} if shipped and isinstance(row, dict) else row
            found = limits_of({name: filled}, found)
        except ReviewError as error:
            troubles.append(f"In your own “{limits_file().name}”: {error}")
    return found, tuple(troubles)


def set_limit(name: str, value: str) -> Limit:
    """Write a value of one's own for a limit, as it was typed. `ReviewError` where it makes no sense, `StoreError`
    where the file can't be written."""
    shipped = shipped_limits()[name]
    try:
        exact = number(value.replace(",", ".").replace("−", "-"))
    except ValueError as error:
        raise ReviewError(f"{str(error)[:1].upper()}{str(error)[1:]}.") from None
    limit = replace(shipped, value=exact, source=OWN)
    limits_of({name: {"value": str(exact), "unit": limit.unit, "source": OWN}}, shipped_limits())
    rows = {**rows_to_change(limits_file()), name: {"value": encode_hook(exact)}}
    write_rows(limits_file(), rows)
    return limit


def drop_limit(name: str) -> None:
    """Go back to the limit that ships."""
    write_rows(limits_file(), {k: row for k, row in rows_to_change(limits_file()).items() if k != name})


def as_typed(value: Fraction) -> str:
    """A value as it is typed."""
    return f"{float(value):g}"
