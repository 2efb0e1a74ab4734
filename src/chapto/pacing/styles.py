"""House styles, read from data."""

from __future__ import annotations

import tomllib
from fractions import Fraction
from functools import lru_cache
from pathlib import Path

import msgspec

from chapto.document.mattime import decode_hook
from chapto.errors import ChaptoError


class PacingError(ChaptoError):
    """A house style or a fit that can't be used."""


class HouseStyle(msgspec.Struct, frozen=True, kw_only=True, forbid_unknown_fields=True):
    """Limits and preferences of the fit; see `house_styles.toml` for the units."""

    title: str
    about: str
    base_rate: Fraction
    rates: tuple[Fraction, ...]
    little: Fraction
    longest_hold: Fraction
    longest_pause: Fraction
    breath: Fraction
    lead_in: Fraction
    title_card: Fraction


@lru_cache(maxsize=1)
def house_styles() -> dict[str, HouseStyle]:
    """The shipped styles by name, in the order they are offered."""
    data = tomllib.loads((Path(__file__).parent / "house_styles.toml").read_text("utf-8"))
    return {name: msgspec.convert(row, HouseStyle, dec_hook=decode_hook) for name, row in data.items()}


def house_style(name: str) -> HouseStyle:
    """The style called `name`; `PacingError` says which there are."""
    styles = house_styles()
    if name not in styles:
        raise PacingError(f"There is no house style “{name}”; there are {', '.join(styles)}.")
    return styles[name]
