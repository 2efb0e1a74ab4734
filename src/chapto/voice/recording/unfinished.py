"""Files of recordings: under which name one is begun, and which of them were never finished."""

from __future__ import annotations

import contextlib
import re
import wave
from dataclasses import dataclass
from fractions import Fraction
from pathlib import Path

from chapto.voice.bringing_in import takes_folder
from chapto.voice.recording.microphone import RATE

_NAME = re.compile(r"recording-(?P<subject>[A-Za-z0-9]+)-\d+\.wav")
WHOLE, TALK = "all", "talk"
"""Subjects that are no beat or section: everything that is read, and a talk-through."""
SHORTEST = Fraction(1, 2)
"""Seconds under which nothing can have been said."""


@dataclass(frozen=True)
class Unfinished:
    """A recording that was cut off: its file, of which beat or section (by id, or `WHOLE` or `TALK`), its seconds."""

    path: Path
    subject: str
    seconds: Fraction


def new_recording(project: Path, subject: str) -> Path:
    """A free name for a recording of `subject` among the takes of `project`; `OSError` where the folder can't be."""
    folder = takes_folder(project)
    folder.mkdir(exist_ok=True)
    number = 1
    while (place := folder / f"recording-{subject}-{number}.wav").exists():
        number += 1
    return place


def unfinished(project: Path) -> tuple[Unfinished, ...]:
    """Recordings of `project` that a kill cut off, the oldest first."""
    found = []
    with contextlib.suppress(OSError):
        for place in sorted(takes_folder(project).glob("recording-*.wav"), key=lambda p: p.stat().st_mtime):
            name = _NAME.fullmatch(place.name)
            seconds = _seconds(place)
            if name and seconds >= SHORTEST:
                found.append(Unfinished(place, name["subject"], seconds))
    return tuple(found)


def _seconds(place: Path) -> Fraction:
    try:
        with wave.open(str(place)) as file:
            return Fraction(file.getnframes(), RATE)
    except (OSError, EOFError, wave.Error):
        return Fraction(0)
