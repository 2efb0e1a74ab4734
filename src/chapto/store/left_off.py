"""Where the creator left off in a project: stage, place, zoom and sizes of panes. Kept beside its journal."""

from __future__ import annotations

import contextlib
from pathlib import Path

import msgspec

from chapto.store.atomic import write_atomically
from chapto.store.errors import StoreError
from chapto.store.home import home_of

FILE = "left-off.json"


class LeftOff(msgspec.Struct, frozen=True, kw_only=True):
    """`stage` and `view` by name, `mat` in mat seconds and `frame` in watch frames. `zooms` has pixels a second and the
    first second in view of each time axis. `panes` has the pixels of each part of a split; both go by name."""

    stage: str = ""
    view: str = ""
    mat: float = 0.0
    frame: int = 0
    zooms: dict[str, tuple[float, float]] = {}
    panes: dict[str, list[int]] = {}


def left_off(project: Path) -> LeftOff | None:
    """What was noted for a project file; None where nothing was, or it can't be read."""
    try:
        return msgspec.json.decode((home_of(project) / FILE).read_bytes(), type=LeftOff)
    except (OSError, msgspec.DecodeError, UnicodeDecodeError, RecursionError, ValueError):
        return None


def note_left_off(project: Path, now: LeftOff) -> None:
    """Note it; where nothing can be written, nothing is."""
    with contextlib.suppress(OSError, StoreError):
        home = home_of(project)
        home.mkdir(parents=True, exist_ok=True)
        write_atomically(home / FILE, msgspec.json.encode(now))
