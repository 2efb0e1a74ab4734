"""The breakdowns opened last, each with a small picture, in the XDG state folder."""

from __future__ import annotations

import contextlib
import os
import time
from pathlib import Path

import msgspec

from chapto.store.atomic import write_atomically
from chapto.store.errors import StoreError
from chapto.store.home import home_of, state_folder

MOST = 12
PICTURE = "picture.png"


class Recent(msgspec.Struct, frozen=True, kw_only=True):
    """A project file, its title and part, how long its video was (seconds), and when it was looked at last (seconds
    since 1970)."""

    path: str
    title: str
    part: str = ""
    seconds: float = 0.0
    at: float = 0.0

    @property
    def picture(self) -> Path:
        """Where its picture lies, if there is one."""
        return home_of(Path(self.path)) / PICTURE


def recent() -> tuple[Recent, ...]:
    """Those that are still where they were, the last one first; none where the list is damaged."""
    return tuple(one for one in _noted() if os.path.exists(one.path))


def remember(path: Path, *, title: str, part: str, seconds: float, picture: bytes = b"") -> None:
    """Put a project file first in the list; `picture` is a PNG, and without one the last stays. Where nothing can be
    written the list stays as it is."""
    one = Recent(path=os.path.abspath(path), title=title, part=part, seconds=seconds, at=time.time())
    others = [x for x in _noted() if x.path != one.path]
    with contextlib.suppress(OSError, StoreError):
        if picture:
            _write(one.picture, picture)
        _write(_place(), msgspec.json.encode([one, *others][:MOST]))


def _place() -> Path:
    return state_folder() / "recent.json"


def _write(place: Path, data: bytes) -> None:
    place.parent.mkdir(parents=True, exist_ok=True)
    write_atomically(place, data)


def _noted() -> list[Recent]:
    try:
        return msgspec.json.decode(_place().read_bytes(), type=list[Recent])
    except (OSError, msgspec.DecodeError, UnicodeDecodeError, RecursionError):
        return []
