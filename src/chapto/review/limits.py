"""The limits of a review, read from data."""

from __future__ import annotations

import tomllib
from collections.abc import Mapping
from fractions import Fraction
from functools import lru_cache
from pathlib import Path
from typing import Any

import msgspec
from msgspec.structs import replace

from chapto.document.mattime import decode_hook
from chapto.errors import ChaptoError

SHIPPED = Path(__file__).parent / "limits.toml"
DECIBELS = "dB"
"""Only levels may be below 0."""


class ReviewError(ChaptoError):
    """A limit that makes no sense."""


class Limit(msgspec.Struct, frozen=True, kw_only=True, forbid_unknown_fields=True):
    """So much of a `unit`, and where that comes from; its `name` is that of its table."""

    value: Fraction
    unit: str
    source: str
    name: str = ""

    def said(self, value: Fraction | float) -> str:
        """A value in the unit of this limit."""
        shown = round(float(value), 1)
        return f"{shown:g} {self.unit}"


def exactly(value: float) -> Fraction:
    """What was measured, to a thousandth."""
    return Fraction(round(value * 1000), 1000)


def limits_of(rows: Mapping[str, Any], default: Mapping[str, Limit]) -> dict[str, Limit]:
    """`default` with the limits of `rows` laid over it; `ReviewError` says what makes no sense."""
    found = dict(default)
    for name, row in rows.items():
        if default and name not in default:
            raise ReviewError(f"There is no limit “{name}”; there are {', '.join(default)}.")
        try:
            limit = msgspec.convert(row, Limit, dec_hook=decode_hook)
        except (msgspec.ValidationError, ValueError, TypeError) as error:
            raise ReviewError(f"The limit “{name}” makes no sense: {error}.") from None
        if limit.value <= 0 and not limit.unit.startswith(DECIBELS):
            raise ReviewError(f"The limit “{name}” has to be above 0.")
        found[name] = replace(limit, name=name)
    return found


@lru_cache(maxsize=1)
def shipped_limits() -> Mapping[str, Limit]:
    """Those that come with Chapto, by name."""
    return limits_of(tomllib.loads(SHIPPED.read_text("utf-8")), {})
