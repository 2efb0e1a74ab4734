"""House styles, read from data."""

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
from chapto.document.script import Allowance
from chapto.errors import ChaptoError

MOST_STRETCHED = Fraction(1, 4)
"""Share by which speech can be made quicker or slower before it sounds made (hearing decides)."""
SHIPPED = Path(__file__).parent / "house_styles.toml"


class PacingError(ChaptoError):
    """A house style or a fit that can't be used."""


class Weights(msgspec.Struct, frozen=True, kw_only=True, forbid_unknown_fields=True):
    """What the fit pays, in points.

    For a second in which the picture stands: `hold`, and so much more for each beyond the seconds of `dearer`. For one
    in which the voice waits: `pause`; by which it hurries: `hurry`; lingers: `linger`. For a second that slowing gains:
    `slow`; that is left out: `skip`; that is shown though nothing happens: `idle`. For one past the exchange's end:
    `beyond`; off the wished length: `length`. For each hold: `stop`; each change of speed: `change`; each word cut:
    `word`.
    """

    hold: float
    dearer: tuple[tuple[float, float], ...] = ()
    stop: float
    pause: float
    hurry: float = 0.4
    linger: float = 1.5
    slow: float
    change: float
    skip: float
    idle: float
    beyond: float
    length: float
    word: float


class HouseStyle(msgspec.Struct, frozen=True, kw_only=True, forbid_unknown_fields=True):
    """Limits and preferences of the fit; see `house_styles.toml` for the units."""

    title: str
    about: str
    base_rate: Fraction
    rates: tuple[Fraction, ...]
    smoothest: Fraction
    longest_hold: Fraction
    longest_pause: Fraction
    longest_silence: Fraction
    breath: Fraction
    lead_in: Fraction
    title_card: Fraction
    weights: Weights
    hurry: Fraction = Fraction(2, 25)
    linger: Fraction = Fraction(2, 25)

    def tempo(self, wished: Fraction) -> Fraction:
        """How many times as fast a recording may be heard that is wished `wished` times as fast."""
        return min(max(wished, 1 - self.linger), 1 + self.hurry)

    def tempo_room(self, tempo: Fraction) -> tuple[Fraction, Fraction]:
        """How many times as fast again a line may be said, at least and at most, that is heard at `tempo` already."""
        return min((1 - self.linger) / tempo, Fraction(1)), max((1 + self.hurry) / tempo, Fraction(1))


@lru_cache(maxsize=1)
def house_styles() -> dict[str, HouseStyle]:
    """The shipped styles by name, in the order they are offered."""
    return styles_of(tomllib.loads(SHIPPED.read_text("utf-8")))


def styles_of(rows: Mapping[str, Any]) -> dict[str, HouseStyle]:
    """The styles in tables by name; `PacingError` says what is wrong with the first that makes no sense."""
    styles = {}
    for name, row in rows.items():
        try:
            style = styles[name] = msgspec.convert(row, HouseStyle, dec_hook=decode_hook)
        except (msgspec.ValidationError, ValueError) as error:
            raise PacingError(f"The house style “{name}” makes no sense: {error}.") from None
        if not 0 < style.base_rate <= 1 or any(not 0 < r < style.base_rate for r in style.rates):
            raise PacingError(f"The rates of the house style “{name}” must lie between 0 and its base rate.")
        if min(style.longest_hold, style.longest_pause, style.longest_silence, style.breath, style.lead_in) < 0:
            raise PacingError(f"A limit of the house style “{name}” is less than nothing.")
        if not (0 <= style.hurry <= MOST_STRETCHED and 0 <= style.linger <= MOST_STRETCHED):
            raise PacingError(
                f"In the house style “{name}” a voice hurries or lingers by {MOST_STRETCHED:.0%} at most."
            )
    return styles


@lru_cache(maxsize=256)
def at_pace(style: HouseStyle, pace: Fraction) -> HouseStyle:
    """`style` with the picture going at `pace` where nothing else is asked for; its own speeds below that stay."""
    slower = {r for r in (*style.rates, style.base_rate) if r < pace}
    return replace(style, base_rate=pace, rates=tuple(sorted(slower, reverse=True)))


def allowing(style: HouseStyle, allow: Allowance, fps: Fraction | None) -> HouseStyle:
    """`style` as it counts for one exchange: without rates that would step (`fps` new pictures a second in its
    footage), with what the exchange is allowed beyond it."""
    smooth = (r for r in style.rates if fps is None or r * fps >= style.smoothest)
    rates = {*smooth, *(r for r in allow.rates if r < style.base_rate)}
    return replace(
        style,
        rates=tuple(sorted(rates, reverse=True)),
        longest_hold=style.longest_hold + allow.hold_seconds,
        longest_pause=style.longest_pause + allow.silence_seconds,
        longest_silence=style.longest_silence + allow.silence_seconds,
    )
