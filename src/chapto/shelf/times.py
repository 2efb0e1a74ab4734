"""How long the stages took: noted on this machine only, and only if the creator asked for it."""

from __future__ import annotations

import os
from collections import defaultdict
from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from datetime import date
from pathlib import Path

import msgspec

from chapto.shelf.errors import ShelfError
from chapto.shelf.home import times_file
from chapto.store.atomic import write_atomically
from chapto.store.errors import plain_reason

LONGEST_NOTE = 24 * 3600.0


class TimeNote(msgspec.Struct, frozen=True, kw_only=True):
    """So many `seconds` of work on a `day` (ISO 8601), in a `stage` of the breakdown at `path`. Its video was `length`
    watch seconds long then."""

    day: str
    path: str
    stage: str
    seconds: float
    length: float = 0.0


def note_time(shelf: Path, note: TimeNote) -> None:
    """Add a note. `ShelfError` where it can't be written. Two processes may do so at once: a line goes in whole."""
    place = times_file(shelf)
    try:
        shelf.mkdir(parents=True, exist_ok=True)
        handle = os.open(place, os.O_CREAT | os.O_APPEND | os.O_WRONLY, 0o600)
        try:
            # A line that a kill cut off must not spoil the next one.
            os.write(handle, b"\n" + msgspec.json.encode(note) + b"\n")
        finally:
            os.close(handle)
    except OSError as error:
        raise ShelfError(f"Times can't be noted in “{place}”: {plain_reason(error)}.") from None


def read_times(shelf: Path) -> tuple[TimeNote, ...]:
    """All notes; lines that make no sense are passed by."""
    try:
        lines = times_file(shelf).read_bytes().splitlines()
    except OSError:
        return ()
    found = []
    for line in lines:
        try:
            note = msgspec.json.decode(line, type=TimeNote)
            date.fromisoformat(note.day)
        except (msgspec.DecodeError, UnicodeDecodeError, ValueError):
            continue
        if 0 < note.seconds <= LONGEST_NOTE:
            found.append(note)
    return tuple(found)


def forget_times(shelf: Path, kept: Iterable[TimeNote]) -> None:
    """Keep only these notes."""
    write_atomically(times_file(shelf), b"".join(msgspec.json.encode(n) + b"\n" for n in kept))


@dataclass(frozen=True)
class Effort:
    """One breakdown: seconds by stage, the length of its video in watch seconds, and the day of its last note."""

    path: str
    by_stage: Mapping[str, float]
    length: float
    day: date

    @property
    def seconds(self) -> float:
        """All of it."""
        return sum(self.by_stage.values())

    @property
    def a_minute(self) -> float | None:
        """Seconds of work a finished minute; None without a video."""
        return self.seconds / (self.length / 60) if self.length >= 1 else None


def efforts(notes: Iterable[TimeNote]) -> tuple[Effort, ...]:
    """By breakdown, the earliest finished first."""
    stages: dict[str, dict[str, float]] = defaultdict(lambda: defaultdict(float))
    lengths: dict[str, tuple[str, float]] = {}
    for n in sorted(notes, key=lambda n: n.day):
        stages[n.path][n.stage] += n.seconds
        lengths[n.path] = (n.day, n.length or lengths.get(n.path, ("", 0.0))[1])
    made = [
        Effort(path, dict(by), lengths[path][1], date.fromisoformat(lengths[path][0])) for path, by in stages.items()
    ]
    return tuple(sorted(made, key=lambda e: (e.day, e.path)))
