"""One piece of the finished programme, and laying pieces end to end on whole frames."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from enum import StrEnum
from fractions import Fraction

from chapto.clock.rates import ClockError, frames_from_seconds


class Kind(StrEnum):
    """What the picture does."""

    RUN = "run"
    SLOW = "slow"
    HOLD = "hold"
    AGAIN = "again"
    LOOP = "loop"
    CUTAWAY = "cutaway"
    CARD = "card"


STILL = (Kind.HOLD, Kind.CARD)


@dataclass(frozen=True, slots=True)
class PhotoCard:
    """A photo (by id) on a card, perhaps with another one `beside` it; a `push` slowly comes nearer."""

    photo: str
    beside: str = ""
    push: bool = False


@dataclass(frozen=True, slots=True)
class Passage:
    """`frames` watch frames from `watch_in` on, showing `footage` from `mat_in` on at `rate`.

    Times are exact mat seconds; `rate` is mat seconds a watch second (0 for a held picture, below 0 in a loop that goes
    back); `fps` is the programme's; `text` or a `photo` is what stands on a card. Both ranges are half-open: `mat_out`
    and `watch_out` belong to what follows.
    """

    kind: Kind
    footage: str
    mat_in: Fraction
    rate: Fraction
    watch_in: int
    frames: int
    fps: Fraction
    text: str = ""
    photo: PhotoCard | None = None

    def __post_init__(self) -> None:
        if self.frames <= 0 or self.watch_in < 0:
            raise ClockError("A passage needs at least one frame, on or after the start.")
        backwards = self.rate < 0 and self.kind is not Kind.LOOP
        if backwards or (self.rate == 0) != (self.kind in STILL):
            raise ClockError("A held picture has rate 0 and a moving one has a rate above 0.")

    def later(self, frames: int) -> Passage:
        """The same passage, so many watch frames later."""
        # Not through the checks again: it is sound already, and there are thousands.
        moved = object.__new__(Passage)
        for name in Passage.__slots__:
            object.__setattr__(moved, name, getattr(self, name))
        object.__setattr__(moved, "watch_in", self.watch_in + frames)
        return moved

    @property
    def watch_out(self) -> int:
        """The first frame after the passage."""
        return self.watch_in + self.frames

    @property
    def mat_out(self) -> Fraction:
        """The mat time that the frame after the last would show."""
        return self.mat_in + self.rate * self.frames / self.fps

    def mat_at(self, frame: int) -> Fraction:
        """Mat time shown by watch frame `frame` of this passage."""
        if not self.watch_in <= frame < self.watch_out:
            raise ClockError(f"Frame {frame} lies outside the passage {self.watch_in}–{self.watch_out}.")
        return self.mat_in + self.rate * (frame - self.watch_in) / self.fps


@dataclass(frozen=True, slots=True)
class Piece:
    """A passage before it is put on whole frames: `seconds` of watch time, exact."""

    kind: Kind
    footage: str
    mat_in: Fraction
    rate: Fraction
    seconds: Fraction
    text: str = ""
    photo: PhotoCard | None = None


def lay(pieces: Iterable[Piece], fps: Fraction) -> tuple[Passage, ...]:
    """Put pieces end to end on whole frames.

    Edges are rounded from the exact running total, so each is within half a frame of its plan however many
    came before. A piece that rounds to no frame at all is left out.
    """
    total, at = Fraction(0), 0
    laid: list[Passage] = []
    for piece in pieces:
        if piece.seconds < 0:
            raise ClockError("A piece of the programme can't last less than nothing.")
        total += piece.seconds
        end = frames_from_seconds(total, fps)
        if end > at:
            laid.append(
                Passage(
                    piece.kind, piece.footage, piece.mat_in, piece.rate, at, end - at, fps, piece.text, piece.photo
                )
            )  # fmt: skip
        at = end
    return tuple(laid)
