"""What goes into the fit of one exchange and what comes out. All times are exact seconds."""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum
from fractions import Fraction

from chapto.clock.passage import Kind, PhotoCard
from chapto.document.treatments import Treatment


@dataclass(frozen=True, slots=True)
class Stop:
    """Word `word` of a beat belongs to the mat time `mat`. The picture stands there for `hold_seconds` after it; None
    leaves that to the fit."""

    word: int
    mat: Fraction
    hold_seconds: Fraction | None = None


@dataclass(frozen=True, slots=True)
class FitBeat:
    """A beat as the fit sees it, or a part of one that has a treatment of its own: its stops in word order, where its
    treatment leads (the moment a Hold holds on, or a Skip jumps to), and where phrases begin. Where the fit decides the
    picture goes at `pace`, None being the house style's. One that `runs_on` follows without a breath, and one with an
    `overlap` begins so many seconds before the one before it is out."""

    id: str
    stops: tuple[Stop, ...]
    phrases: tuple[int, ...]
    treatment: Treatment | None = None
    hold_at: Fraction | None = None
    pace: Fraction | None = None
    runs_on: bool = False
    overlap: Fraction = Fraction(0)


@dataclass(frozen=True, slots=True)
class FitExchange:
    """The stretch of mat time to show (half-open) and the beats said meanwhile. After its end the picture may run on
    for `room` mat seconds before something else begins; None where nothing does."""

    start: Fraction
    end: Fraction
    beats: tuple[FitBeat, ...]
    room: Fraction | None = None


@dataclass(frozen=True, slots=True)
class Leg:
    """The picture from `mat_in` on, at `rate` (below 0: backwards), for `seconds` of watch time. It is seen from
    `camera` (by name) where one is named; `text` or a `photo` is what stands on a card."""

    kind: Kind
    mat_in: Fraction
    rate: Fraction
    seconds: Fraction
    text: str = ""
    camera: str = ""
    photo: PhotoCard | None = None


@dataclass(frozen=True, slots=True)
class Inset:
    """A second picture from watch second `at` on for `seconds`: mat time `mat_in` on at `rate`, or a `photo` (by id).
    It is small in a corner, or `beside` the first, each in one half."""

    at: Fraction
    seconds: Fraction
    mat_in: Fraction
    rate: Fraction
    beside: bool
    camera: str = ""
    photo: str = ""


@dataclass(frozen=True, slots=True)
class Phrase:
    """Words `first ≤ i < end` of a beat, said without a pause made by the fit; `at` is the watch time of the
    line's second `voice_in`, counted from the start of what it lies in; it lasts to `voice_out`, said `tempo` times as
    fast as measured. One that is not `heard` is in the sound of the footage already."""

    beat: str
    first: int
    end: int
    voice_in: Fraction
    voice_out: Fraction
    at: Fraction
    tempo: Fraction = Fraction(1)
    heard: bool = True

    @property
    def until(self) -> Fraction:
        """The watch second at which it ends."""
        return self.at + (self.voice_out - self.voice_in) / self.tempo

    def heard_at(self, second: Fraction) -> Fraction:
        """The watch second at which a second of its line is heard."""
        return self.at + (second - self.voice_in) / self.tempo

    def runs_on_in(self, after: Phrase) -> bool:
        """Whether the voice goes on into `after` without a seam but its tempo."""
        return self.beat == after.beat and self.voice_out == after.voice_in and self.until == after.at


@dataclass(frozen=True, slots=True)
class PlannedTie:
    """When a tied word is said and when its moment comes on the screen, from the start of the exchange."""

    beat: str
    word: int
    mat: Fraction
    said: Fraction
    shown: Fraction | None


class Lack(StrEnum):
    """What a limit did not allow."""

    LATE = "the words come after the picture"
    PAST = "the picture is past the moment"
    ELSEWHERE = "the picture is elsewhere"
    SILENT = "a silence longer than the style's"
    LENGTH = "longer than wished"
    SOFT = "too few lines of the file are left"
    UNFILMED = "no camera saw the moment"
    BEYOND = "the picture runs into what comes after"
    STILL = "the picture stands too long with nothing drawn on it"


@dataclass(frozen=True, slots=True)
class Shortfall:
    """What the style's limits do not allow at a word: by how many seconds, in a sentence. `granted` seconds more of
    what lacks put it right."""

    beat: str
    word: int
    seconds: Fraction
    sentence: str
    lack: Lack = Lack.LATE
    granted: Fraction = Fraction(0)


@dataclass(frozen=True, slots=True)
class Fitted:
    """The picture and the voice of one exchange, both `seconds` long; `cost` is what the fit paid, in points."""

    legs: tuple[Leg, ...]
    phrases: tuple[Phrase, ...]
    ties: tuple[PlannedTie, ...]
    shortfalls: tuple[Shortfall, ...]
    seconds: Fraction
    insets: tuple[Inset, ...] = ()
    cost: float = 0.0
