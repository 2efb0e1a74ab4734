"""What was measured of the finished sound and picture: readings that cost time, made elsewhere and handed in."""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum
from fractions import Fraction


class Flaw(StrEnum):
    """What can be the matter with a recording."""

    CLIPPED = "clipped"
    DROPPED = "dropped out"
    HUM = "hum"
    CLICK = "mouth click"


@dataclass(frozen=True)
class HeardFlaw:
    """A flaw in the voice at watch second `at` of a `beat` (by id), in a `take` (by id; empty for the guide voice);
    `value` is in the unit of its limit."""

    kind: Flaw
    at: Fraction
    beat: str
    take: str
    value: float


@dataclass(frozen=True)
class UnderSpeech:
    """A stretch of speech from watch second `start` to `end`: by how many decibels it stands over all else."""

    start: Fraction
    end: Fraction
    decibels: float


@dataclass(frozen=True)
class Room:
    """How loud the room is behind a take (by id), in dB of full scale, and the first beat it speaks."""

    take: str
    beat: str
    level: float


@dataclass(frozen=True)
class Heard:
    """The finished sound: integrated loudness in LUFS, true peak in dBTP, how speech stands over the rest, flaws of the
    voice, and the rooms of the takes. `late` is by how many seconds the voice comes after its words' places."""

    loudness: float
    peak: float
    under: tuple[UnderSpeech, ...] = ()
    flaws: tuple[HeardFlaw, ...] = ()
    rooms: tuple[Room, ...] = ()
    late: tuple[tuple[str, float], ...] = ()


@dataclass(frozen=True)
class Shade:
    """Letters on the picture: what they are of (`key`), and their lowest contrast to what is under them (WCAG 2.x), at
    watch frame `frame`. Their `height` is in pixels of a picture that is 480 pixels wide."""

    key: str
    frame: int
    contrast: float
    height: float


@dataclass(frozen=True)
class Lying:
    """Something painted on the picture, from watch frame `start` to `end`: its box as shares of the picture's sides,
    0…1, and whether it carries letters."""

    key: str
    start: int
    end: int
    box: tuple[float, float, float, float]
    letters: bool = True


@dataclass(frozen=True)
class Watched:
    """The finished picture. `flashes` are (watch frame, flashes in the second that ends there) where there are any.

    `black` and `frozen` are watch frames (half-open) in which the picture is black, or stands although it should move.
    `lying` is all that is painted, and `shades` what was measured of its letters. `heads` are spots (frame, x, y), and
    `boards` those of the footage on the screen.
    """

    flashes: tuple[tuple[int, int], ...] = ()
    black: tuple[tuple[int, int], ...] = ()
    frozen: tuple[tuple[int, int], ...] = ()
    lying: tuple[Lying, ...] = ()
    shades: tuple[Shade, ...] = ()
    heads: tuple[tuple[int, float, float], ...] = ()
    boards: tuple[Lying, ...] = ()
