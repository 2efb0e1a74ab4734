"""One file from one camera and its place on the mat clock."""

from __future__ import annotations

from fractions import Fraction

import msgspec

from chapto.document.mattime import exact


class Footage(msgspec.Struct, frozen=True, kw_only=True, forbid_unknown_fields=True):
    """A media file. `path` is relative to the project file; times are exact seconds.

    `mat = offset + (1 + drift) · t`, where `t` counts from the file's own start (its earliest time stamp).
    """

    id: str
    name: str
    path: str
    fingerprint: str
    duration: Fraction
    fps: Fraction
    offset: Fraction = exact("0")
    drift: Fraction = exact("0")

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
