"""What the user set for all breakdowns, in the XDG config folder."""

from __future__ import annotations

from pathlib import Path

import msgspec
from msgspec.structs import replace
from platformdirs import user_config_path

from chapto.store.atomic import write_atomically
from chapto.store.errors import StoreError, plain_reason

SMALLEST_CACHE, LARGEST_CACHE = 1, 500
SMALLEST_LETTERS, LARGEST_LETTERS = 0.85, 1.6


class Settings(msgspec.Struct, frozen=True, kw_only=True):
    """`proxy_gigabytes` is how much all proxies may take (10^9 bytes each); `quiet` the share of a file's usual
    activity under which nothing happens; `reaction` the seconds from seeing to pressing a key. `microphone` is the id
    of the one used last, and `gym_heard` whether the gym is in the headphones while recording. `listener` is the folder
    of a model that recognises speech, and `delays` are the seconds by which each microphone (by id) hears late.
    `folders` is where a file of each kind (a word) was chosen last. `letters` is the size of all letters of the window,
    1 as shipped; `volume`, 0 to 1, is how loud it plays, unless it is `muted`.
    `creator` is the name that stands beside one's own footage."""

    proxy_gigabytes: int = 20
    quiet: float = 0.35
    reaction: float = 0.4
    microphone: str = ""
    gym_heard: bool = True
    listener: str = ""
    delays: dict[str, float] = msgspec.field(default_factory=dict)
    folders: dict[str, str] = msgspec.field(default_factory=dict)
    letters: float = 1.0
    creator: str = ""
    volume: float = 1.0
    muted: bool = False


def settings_path() -> Path:
    """Where they are kept."""
    return user_config_path("chapto") / "settings.json"


def load_settings() -> Settings:
    """The settings; what is missing, damaged or out of range is as shipped."""
    try:
        found = msgspec.json.decode(settings_path().read_bytes(), type=Settings)
    except (OSError, msgspec.DecodeError, UnicodeDecodeError, RecursionError):
        return Settings()
    return within_bounds(found)


def within_bounds(found: Settings) -> Settings:
    """The settings with every number in its range."""
    return replace(
        found,
        proxy_gigabytes=min(max(found.proxy_gigabytes, SMALLEST_CACHE), LARGEST_CACHE),
        quiet=min(max(found.quiet, 0.05), 1.0),
        reaction=min(max(found.reaction, 0.0), 1.5),
        volume=min(max(found.volume, 0.0), 1.0),
        letters=min(max(found.letters, SMALLEST_LETTERS), LARGEST_LETTERS),
    )


def save_settings(settings: Settings) -> None:
    """Keep the settings; `StoreError` where that can't be done."""
    place = settings_path()
    try:
        place.parent.mkdir(parents=True, exist_ok=True)
    except OSError as error:
        raise StoreError(f"Your settings can't be kept in {place.parent}: {plain_reason(error)}.") from None
    write_atomically(place, msgspec.json.encode(settings) + b"\n")
