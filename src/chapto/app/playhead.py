"""Where the creator is looking: in the footage (mat view) or in the programme (watch view). Free of Qt."""

from __future__ import annotations

from dataclasses import dataclass, replace
from enum import StrEnum
from fractions import Fraction
from math import floor

from chapto.clock.rates import frames_from_seconds
from chapto.document.footage import Footage
from chapto.programme.angles import AngleTrack
from chapto.programme.programme import Programme


class View(StrEnum):
    """What the screen shows."""

    MAT = "mat"
    WATCH = "watch"


@dataclass(frozen=True)
class Playhead:
    """`mat` is in mat seconds, `frame` in watch frames. `speed` is that of the footage, `watch_speed` that of the
    programme. `through` counts in the mat view only: the file (by id) looked through where it was running, whatever
    the angle track says; empty for none."""

    view: View = View.WATCH
    mat: Fraction = Fraction(0)
    frame: int = 0
    speed: Fraction = Fraction(1)
    through: str = ""
    watch_speed: Fraction = Fraction(1)

    @property
    def rate(self) -> Fraction:
        """How fast the view that is looked at is played."""
        return self.speed if self.view is View.MAT else self.watch_speed

    def at_speed(self, speed: Fraction) -> Playhead:
        """The view that is looked at at another speed."""
        return replace(self, speed=speed) if self.view is View.MAT else replace(self, watch_speed=speed)

    def camera(self, footage: tuple[Footage, ...], track: AngleTrack) -> Footage | None:
        """The file that the mat view shows; None where nothing was filmed."""
        looked = next((c for c in footage if c.id == self.through and c.covers(self.mat)), None)
        return looked or track.at(self.mat)

    def on_picture(self, footage: tuple[Footage, ...], track: AngleTrack, by: int = 0) -> Playhead:
        """In the mat view: where the picture on show begins, by its file's mean rate, or the one `by` pictures later of
        those that are shown at this speed. While it plays, every picture is asked for under one time."""
        camera = self.camera(footage, track)
        step = max(self.speed, Fraction(1))
        if camera is None:
            return replace(self, mat=self.mat + by * step / 30)
        number = floor(camera.media_time(self.mat) * camera.fps / step) + by
        return replace(self, mat=max(camera.mat_at(number * step / camera.fps), Fraction(0)))

    def seen_mat(self, programme: Programme) -> Fraction:
        """The mat time on the screen."""
        if self.view is View.MAT or not programme.frames:
            return self.mat
        passage = programme.time_map.passage_at(min(self.frame, programme.frames - 1))
        return self.mat if not passage.footage else passage.mat_at(min(self.frame, programme.frames - 1))

    def switched(self, view: View, programme: Programme) -> Playhead:
        """The same picture in the other view: the nearest showing of the mat time, or the frame as it was."""
        if view is self.view:
            return self
        mat = self.seen_mat(programme)
        if view is View.MAT:
            return replace(self, view=view, mat=mat)
        showings = programme.time_map.watched_at(mat) if programme.frames else ()
        near = min(showings, key=lambda s: max(s.start - self.frame, self.frame - s.end + 1, 0), default=None)
        frame = self.frame if near is None else min(max(self.frame, near.start), near.end - 1)
        return replace(self, view=view, frame=frame)

    def moved(self, seconds: Fraction, programme: Programme) -> Playhead:
        """Moved by so many seconds of the view's own clock, kept inside the programme or after mat 0."""
        if self.view is View.MAT:
            return replace(self, mat=max(self.mat + seconds, Fraction(0)))
        frame = self.frame + frames_from_seconds(seconds, programme.fps)
        return replace(self, frame=min(max(frame, 0), max(programme.frames - 1, 0)))
