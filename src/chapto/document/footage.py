"""One file from one camera and its place on the mat clock; which camera is used when."""

from __future__ import annotations

from fractions import Fraction

import msgspec

from chapto.document.clearance import Clearance
from chapto.document.mattime import exact


class Footage(msgspec.Struct, frozen=True, kw_only=True, forbid_unknown_fields=True):
    """A media file. `path` is relative to the project file; times are exact seconds.

    `mat = offset + (1 + drift) · t`, where `t` counts from the file's own start (its earliest time stamp). Files of one
    recorder share a `camera`; a `mirrored` one is shown and rendered turned back. `aspect` is the width of the upright
    picture by its height, `lines` that height in pixels; 0 where nobody looked yet. A `steady` one has the shaking of
    the camera taken out. `seen` are ids of people.
    """

    id: str
    name: str
    path: str
    fingerprint: str
    duration: Fraction
    fps: Fraction
    offset: Fraction = exact("0")
    drift: Fraction = exact("0")
    camera: str = ""
    mirrored: bool = False
    aspect: Fraction = exact("0")
    lines: int = 0
    steady: bool = False
    clearance: Clearance = Clearance()
    seen: tuple[str, ...] = ()

    @property
    def camera_name(self) -> str:
        """The camera it was filmed with: the one named, else one of its own."""
        return self.camera or self.name

    @property
    def mat_in(self) -> Fraction:
        """Mat time of the file's start."""
        return self.offset

    @property
    def mat_out(self) -> Fraction:
        """Mat time of the file's end (half-open)."""
        return self.offset + (1 + self.drift) * self.duration

    def covers(self, mat: Fraction) -> bool:
        """Whether the file has a picture for `mat`."""
        return self.mat_in <= mat < self.mat_out

    def media_time(self, mat: Fraction) -> Fraction:
        """Seconds into the file at which `mat` was filmed."""
        return (mat - self.offset) / (1 + self.drift)

    def mat_at(self, seconds: Fraction) -> Fraction:
        """Mat time of second `seconds` of the file."""
        return self.offset + (1 + self.drift) * seconds


class Angle(msgspec.Struct, frozen=True, kw_only=True, forbid_unknown_fields=True):
    """The creator's choice of a camera (by name) for mat seconds `start ≤ t < end`."""

    start: Fraction
    end: Fraction
    camera: str


def cameras_of(footage: tuple[Footage, ...]) -> tuple[str, ...]:
    """The names of all cameras, in the order of their first file."""
    return tuple(dict.fromkeys(c.camera_name for c in footage))
