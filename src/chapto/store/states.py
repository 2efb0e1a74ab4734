"""The last saved states of a project, kept compressed, for when its file is damaged or a wrong turn was taken."""

from __future__ import annotations

import contextlib
import os
import zlib
from dataclasses import dataclass
from pathlib import Path

from chapto.document.breakdown import Breakdown
from chapto.store.errors import StoreError
from chapto.store.schema import decode, digest

KEPT = 10
"""Saved states kept of a project."""
STATES = "states"


@dataclass(frozen=True)
class State:
    """One saved state: `number` counts up, `digest` is that of the file, `at` seconds since 1970."""

    place: Path
    number: int
    digest: str
    at: float

    def bytes(self) -> bytes:
        """The file as it was saved then; `StoreError` where it is damaged too."""
        try:
            data = zlib.decompress(self.place.read_bytes())
        except (OSError, zlib.error):
            data = b""
        if digest(data) != self.digest:
            raise StoreError("That earlier state is damaged; take another.")
        return data

    def read(self) -> Breakdown:
        """The document of that state; `StoreError` where it is damaged too."""
        return decode(self.bytes(), "earlier state")


def keep_state(home: Path, data: bytes) -> None:
    """Keep the bytes of a project file as its newest state. Best effort: a full disk only costs the copy."""
    known = states_of(home)
    mark = digest(data)
    if known and known[0].digest == mark:
        return
    number = known[0].number + 1 if known else 1
    with contextlib.suppress(OSError):
        folder = home / STATES
        folder.mkdir(parents=True, exist_ok=True)
        part = folder / f".{os.getpid()}.part"
        part.write_bytes(zlib.compress(data, 6))
        os.replace(part, folder / f"{number:08d}-{mark}.z")
        for old in known[KEPT - 1 :]:
            old.place.unlink(missing_ok=True)


def states_of(home: Path) -> tuple[State, ...]:
    """The states kept, the newest first."""
    found = []
    with contextlib.suppress(OSError):
        for place in (home / STATES).glob("*-*.z"):
            number, _, mark = place.stem.partition("-")
            if number.isdigit() and len(mark) == 64:
                found.append(State(place, int(number), mark, place.stat().st_mtime))
    return tuple(sorted(found, key=lambda s: -s.number))
