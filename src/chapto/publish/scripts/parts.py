"""What a script from elsewhere is read as."""

from __future__ import annotations

from dataclasses import dataclass, field
from fractions import Fraction

from chapto.errors import ChaptoError


class ScriptFileError(ChaptoError):
    """A script file that can't be read."""


@dataclass(frozen=True)
class Said:
    """Words that stand together: a line or a cue. `at` are the seconds written beside them, None without any; `pause`
    is the silence before them in seconds, where that is known; `speaker` as it is written."""

    text: str
    at: Fraction | None = None
    pause: float = 0.0
    speaker: str = ""


@dataclass(frozen=True)
class ImportedBeat:
    """A beat to be; `stamps` are numbers of words with the seconds written beside them."""

    text: str
    speaker: str = ""
    stamps: tuple[tuple[int, Fraction], ...] = ()


@dataclass(frozen=True)
class ImportedSection:
    """A heading (empty before the first) and the beats under it."""

    title: str
    beats: tuple[ImportedBeat, ...] = field(default=())


def speakers_of(parts: tuple[ImportedSection, ...]) -> tuple[str, ...]:
    """Who speaks, as it is written, in the order of their first words."""
    return tuple(dict.fromkeys(beat.speaker for part in parts for beat in part.beats if beat.speaker))


def stamps_of(parts: tuple[ImportedSection, ...]) -> tuple[Fraction, ...]:
    """Every time that came with the script, in seconds and in its order."""
    return tuple(at for part in parts for beat in part.beats for _, at in beat.stamps)
