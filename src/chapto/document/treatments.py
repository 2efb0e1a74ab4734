"""What the picture does under a beat. A new treatment is one struct here, one motion in `pacing.motions`, and its words
in `app.write.treatments`; mypy lists the places, as every match over treatments ends in `assert_never`."""

from __future__ import annotations

from fractions import Fraction
from typing import Self

import msgspec

from chapto.document.bounds import FASTEST, LONGEST_WAIT, SHORTEST_LOOP, SLOWEST, is_time
from chapto.document.mattime import exact


class PictureTreatment(msgspec.Struct, frozen=True):
    """What every treatment answers."""

    def moments(self) -> tuple[str, ...]:
        """Ids of the moments it names."""
        return ()

    def cameras(self) -> tuple[str, ...]:
        """Names of the cameras it asks for; others are found by the angle track."""
        return ()

    def photos(self) -> tuple[str, ...]:
        """Ids of the photos it shows."""
        return ()

    def without(self, moment: str) -> Self | None:
        """What is left of it when a moment is no more; None when nothing is."""
        return self

    def problem(self) -> str:
        """What is wrong with it, a sentence; empty when nothing is."""
        return ""


class Run(PictureTreatment, frozen=True, tag="run", forbid_unknown_fields=True):
    """The picture runs at full speed."""


class Slow(PictureTreatment, frozen=True, tag="slow", forbid_unknown_fields=True):
    """The picture runs at `rate` (mat seconds a watch second, above 0 and under 1)."""

    rate: Fraction = exact("1/2")

    def problem(self) -> str:
        """Rates have bounds."""
        return _rate_problem(self.rate)


class Hold(PictureTreatment, frozen=True, tag="hold", forbid_unknown_fields=True):
    """The picture holds on `moment` (by id; where it is when none) while the beat is said."""

    moment: str = ""

    def moments(self) -> tuple[str, ...]:
        """The moment held, if one is named."""
        return (self.moment,) if self.moment else ()

    def photos(self) -> tuple[str, ...]:
        """Ids of the photos it shows."""
        return ()

    def without(self, moment: str) -> Hold:
        """It holds where the picture is."""
        return Hold() if moment == self.moment else self


class Again(PictureTreatment, frozen=True, tag="again", forbid_unknown_fields=True):
    """The picture goes back by `back` mat seconds and runs again at `rate`, `times` times over. It is seen from
    `camera` (by name) where one is named."""

    back: Fraction = exact("5")
    rate: Fraction = exact("1/2")
    times: int = 1
    camera: str = ""

    def cameras(self) -> tuple[str, ...]:
        """The one it is seen from."""
        return (self.camera,) if self.camera else ()

    def problem(self) -> str:
        """It goes back by something, and not for ever."""
        if not 0 < self.back <= LONGEST_WAIT or not 1 <= self.times <= 9:
            return "Going back needs some seconds, and one to nine times."
        return _rate_problem(self.rate)


class Loop(PictureTreatment, frozen=True, tag="loop", forbid_unknown_fields=True):
    """The last `seconds` (mat seconds) go round at `rate` until the words are out: each time from the start, or
    `to_and_fro`. They are seen from `camera` (by name) where one is named."""

    seconds: Fraction = exact("3")
    rate: Fraction = exact("1/2")
    to_and_fro: bool = False
    camera: str = ""

    def cameras(self) -> tuple[str, ...]:
        """The one it is seen from."""
        return (self.camera,) if self.camera else ()

    def problem(self) -> str:
        """What goes round has a length, and not a few pictures only."""
        if not SHORTEST_LOOP <= self.seconds <= LONGEST_WAIT:
            return "What goes round needs half a second at least."
        return _rate_problem(self.rate)


class Skip(PictureTreatment, frozen=True, tag="skip", forbid_unknown_fields=True):
    """The picture jumps ahead to `moment` (by id) before the beat."""

    moment: str

    def moments(self) -> tuple[str, ...]:
        """The moment it leads to."""
        return (self.moment,) if self.moment else ()

    def photos(self) -> tuple[str, ...]:
        """Ids of the photos it shows."""
        return ()

    def without(self, moment: str) -> Skip | None:
        """Without the moment it leads to there is nowhere to skip to: the fit decides."""
        return None if moment == self.moment else self


class GoTo(PictureTreatment, frozen=True, tag="go to", forbid_unknown_fields=True):
    """The picture goes to mat time `at`, ahead or back, and on from there at `rate` (0: it stands) while the beat is
    said; the exchange goes on where it has got to. It is seen from `camera` (by name) if one is named."""

    at: Fraction
    rate: Fraction = exact("1")
    camera: str = ""

    def cameras(self) -> tuple[str, ...]:
        """The one it is seen from."""
        return (self.camera,) if self.camera else ()

    def problem(self) -> str:
        """It leads somewhere."""
        if not is_time(self.at):
            return "The picture can't go to a time that there is not."
        return _rate_problem(self.rate) if self.rate else ""


class Pace(PictureTreatment, frozen=True, tag="pace", forbid_unknown_fields=True):
    """From here on, until another one says otherwise, the picture goes at `rate` where the fit decides; 0 gives it back
    to the house style."""

    rate: Fraction = exact("1/2")

    def problem(self) -> str:
        """Rates have bounds."""
        return _rate_problem(self.rate) if self.rate else ""


class Cutaway(PictureTreatment, frozen=True, tag="cutaway", forbid_unknown_fields=True):
    """Other footage, from mat time `at` on at `rate`, for `seconds` of watch time (0: while the beat is said); as an
    `inset` it is a small second picture, and the first goes on. It is seen from `camera` (by name) if one is named."""

    at: Fraction
    rate: Fraction = exact("1")
    seconds: Fraction = exact("0")
    inset: bool = False
    camera: str = ""

    def cameras(self) -> tuple[str, ...]:
        """The one it is seen from."""
        return (self.camera,) if self.camera else ()

    def problem(self) -> str:
        """It comes from somewhere and ends."""
        if not 0 <= self.seconds <= LONGEST_WAIT or not is_time(self.at):
            return "A cutaway can't last less than nothing or over an hour, or come from nowhere."
        return _rate_problem(self.rate)


class SideBySide(PictureTreatment, frozen=True, tag="side by side", forbid_unknown_fields=True):
    """Two attempts started together, from the mat times `one` and `other` on, at `rate`, while the beat is said; each
    seen from the `camera` and `other_camera` (by name) that is named. The same time from two cameras is one attempt
    seen twice."""

    one: Fraction
    other: Fraction
    rate: Fraction = exact("1")
    camera: str = ""
    other_camera: str = ""

    def cameras(self) -> tuple[str, ...]:
        """Those they are seen from."""
        return tuple(c for c in (self.camera, self.other_camera) if c)

    def problem(self) -> str:
        """Both come from somewhere."""
        if not is_time(self.one) or not is_time(self.other):
            return "Two tries side by side can't come from nowhere."
        return _rate_problem(self.rate)


class ShowPhoto(PictureTreatment, frozen=True, tag="photo", forbid_unknown_fields=True):
    """A photo (by id) in the place of the picture, for `seconds` of watch time (0: while the beat is said); with
    another one `beside` it, each in one half. A `push` slowly comes nearer. As an `inset` it is small, and the footage
    goes on."""

    photo: str
    beside: str = ""
    push: bool = False
    inset: bool = False
    seconds: Fraction = exact("0")

    def photos(self) -> tuple[str, ...]:
        """Those it shows."""
        return tuple(p for p in (self.photo, self.beside) if p)

    def problem(self) -> str:
        """It ends."""
        if not 0 <= self.seconds <= LONGEST_WAIT:
            return "A photo can't last less than nothing or over an hour."
        return "A small photo has none beside it." if self.inset and self.beside else ""


class TextCard(PictureTreatment, frozen=True, tag="card", forbid_unknown_fields=True):
    """A card with `text` while the beat is said."""

    text: str


Treatment = Run | Slow | Hold | Again | Loop | Skip | GoTo | Pace | Cutaway | SideBySide | ShowPhoto | TextCard


def left_to_the_fit(treatment: Treatment | None) -> bool:
    """Whether the fit decides how the picture moves under a beat. A small second picture leaves that open."""
    small = isinstance(treatment, Cutaway | ShowPhoto) and treatment.inset
    return treatment is None or isinstance(treatment, Pace) or small


def _rate_problem(rate: Fraction) -> str:
    return "" if SLOWEST <= rate <= FASTEST else f"The picture can't run at {rate}×."
