"""House styles, read from data; a user's own stand in a file of their own."""

from __future__ import annotations

import tomllib
from fractions import Fraction
from functools import lru_cache
from pathlib import Path

import msgspec
from msgspec.structs import replace
from platformdirs import user_config_path

from chapto.document.mattime import decode_hook
from chapto.document.script import Allowance
from chapto.errors import ChaptoError

SHIPPED = Path(__file__).parent / "house_styles.toml"


class PacingError(ChaptoError):
    """A house style or a fit that can't be used."""


class Weights(msgspec.Struct, frozen=True, kw_only=True, forbid_unknown_fields=True):
    """What the fit pays, in points: a second held, each stop, a second the voice waits, a second gained by slowing, a
    change of speed, a second skipped, a second shown in which nothing happens, a second shown past the exchange's end,
    a second off the wished length, a word cut."""

    hold: float
    stop: float
    pause: float
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


@lru_cache(maxsize=1)
def house_styles() -> dict[str, HouseStyle]:
    """The shipped styles by name, in the order they are offered."""
    return read_styles(SHIPPED)


def read_styles(path: Path) -> dict[str, HouseStyle]:
    """The styles in a TOML file; `PacingError` says what is wrong with it."""
    try:
        data = tomllib.loads(path.read_text("utf-8"))
        styles = {name: msgspec.convert(row, HouseStyle, dec_hook=decode_hook) for name, row in data.items()}
    except (OSError, UnicodeDecodeError, tomllib.TOMLDecodeError) as error:
        raise PacingError(f"The house styles in “{path.name}” can't be read: {error}.") from None
    except (msgspec.ValidationError, ValueError) as error:
        raise PacingError(f"A house style in “{path.name}” makes no sense: {error}.") from None
    for name, style in styles.items():
        if not 0 < style.base_rate <= 1 or any(not 0 < r < style.base_rate for r in style.rates):
            raise PacingError(f"The rates of the house style “{name}” must lie between 0 and its base rate.")
        if min(style.longest_hold, style.longest_pause, style.longest_silence, style.breath, style.lead_in) < 0:
            raise PacingError(f"A limit of the house style “{name}” is less than nothing.")
    return styles


def users_file() -> Path:
    """Where the user's own styles stand, written like the shipped ones."""
    return user_config_path("chapto") / "styles.toml"


def all_styles() -> dict[str, HouseStyle]:
    """Shipped styles and the user's own, whose names win; the shipped ones alone while the user's can't be read."""
    try:
        return {**house_styles(), **_own()}
    except PacingError:
        return house_styles()


def trouble_with_own() -> str:
    """What is wrong with the file of the user's own styles; nothing when it can be read or is not there."""
    try:
        _own()
    except PacingError as error:
        return str(error)
    return ""


def _own() -> dict[str, HouseStyle]:
    own = users_file()
    try:
        changed = own.stat().st_mtime_ns
    except OSError:
        return {}
    return _read_once(own, changed)


@lru_cache(maxsize=4)
def _read_once(path: Path, changed: int) -> dict[str, HouseStyle]:
    return read_styles(path)


def allowing(style: HouseStyle, allow: Allowance, fps: Fraction | None) -> HouseStyle:
    """`style` as it counts for one exchange: without rates that would step (`fps` new pictures a second in its
    footage), with what the exchange is allowed beyond it."""
    smooth = (r for r in style.rates if fps is None or r * fps >= style.smoothest)
    rates = {*smooth, *(r for r in allow.rates if r < style.base_rate)}
    return replace(
        style,
        rates=tuple(sorted(rates, reverse=True)),
        longest_hold=style.longest_hold + allow.hold,
        longest_pause=style.longest_pause + allow.silence,
        longest_silence=style.longest_silence + allow.silence,
    )


def house_style(name: str) -> HouseStyle:
    """The style called `name`; `PacingError` says which there are."""
    styles = all_styles()
    if name not in styles:
        raise PacingError(f"There is no house style “{name}”; there are {', '.join(styles)}.")
    return styles[name]
