"""The day on which a breakdown was filmed, as the recorder wrote it into a file."""

from __future__ import annotations

import os
from contextlib import suppress
from functools import partial
from pathlib import Path

import av
import av.error

from chapto.document.breakdown import Breakdown
from chapto.media.known_by_file import KnownByFile
from chapto.media.opening import file_url
from chapto.media.probe import made_at

_known: KnownByFile[str] = KnownByFile(4096)


def filmed_on(b: Breakdown, project: Path) -> str:
    """The day of the first file that says one, as ISO 8601; empty where none is there or says so. Files are looked for
    only where the breakdown has them."""
    for c in b.footage:
        place = Path(os.path.join(project.parent, c.path))
        with suppress(OSError, av.error.FFmpegError, ValueError):
            if place.is_file() and (day := _known.of(place, partial(_day, place))):
                return day
    return ""


def _day(place: Path) -> str:
    with av.open(file_url(place)) as media:
        made = made_at(media)
    return made.date().isoformat() if made is not None else ""
