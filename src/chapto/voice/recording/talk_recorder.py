"""Records a talk: the sound into one file, what is done meanwhile into another beside it, each whole at any moment."""

from __future__ import annotations

import os
import time
from bisect import bisect_right
from collections.abc import Callable
from dataclasses import dataclass
from fractions import Fraction
from pathlib import Path

from msgspec.structs import replace

from chapto.document.talks import Act, Acted, Done, Moved, Pointed, Span
from chapto.publish.talks.events_file import Row, head, line_of, read_events
from chapto.voice.recording.meter import Meter
from chapto.voice.recording.microphone import Microphone
from chapto.voice.recording.phrase_before import phrase_before
from chapto.voice.recording.recorder import Recorder, Recording

EVENTS = ".events"
OFF = 0.1
"""Mat seconds by which a picture that runs may differ from what its clock says before that is written down."""


def events_of(recording: Path) -> Path:
    """Where what was done during a recording is written."""
    return recording.with_suffix(EVENTS)


@dataclass(frozen=True)
class Talked:
    """A finished recording, and what was done during it."""

    recording: Recording
    done: Done


class TalkRecorder:
    """Records from `microphone` into a new WAV file at `path` as soon as it is made; `OSError` where that can't be.
    What is told to it counts from the beginning of the sound. `ended_early` is called as by `Recorder`."""

    def __init__(
        self,
        microphone: Microphone,
        path: Path,
        *,
        ended_early: Callable[[], object] = lambda: None,
        clock: Callable[[], float] = time.monotonic,
    ) -> None:
        self._sound, self._path = path, events_of(path)
        self._file = os.open(self._path, os.O_WRONLY | os.O_CREAT | os.O_EXCL | os.O_CLOEXEC, 0o600)
        self._shown: list[Moved] = []
        self._over: list[tuple[float, float]] = []
        self._at = Fraction(0)
        try:
            os.write(self._file, head())
            self._recorder = Recorder(microphone, path, ended_early=ended_early, clock=clock)
        except OSError:
            os.close(self._file)
            self._path.unlink(missing_ok=True)
            raise

    @property
    def seconds(self) -> float:
        """Seconds since the sound began, pauses of the take left out."""
        return self._recorder.elapsed

    @property
    def meter(self) -> Meter:
        """How loud it comes in."""
        return self._recorder.meter

    def pause(self, paused: bool) -> None:
        """Keep nothing for a while, or go on."""
        self._recorder.paused = paused

    def picture(
        self, mat: Fraction, camera: str, rate: Fraction, playing: bool, fro: Span | None = None
    ) -> None:  # fmt: skip
        """What is on the screen now; written down where it is not what was to be expected."""
        at = self._now()
        last = self._shown[-1] if self._shown else None
        if last is not None and (last.camera, last.rate, last.playing, last.fro) == (camera, rate, playing, fro):
            # A picture that turns round is off both ways.
            off = OFF * (2 if fro else 1) if playing else 0.001
            if abs(float(last.mat_at(at) - mat)) < off:
                return
        shown = mat.limit_denominator(48_000)
        if fro is not None:
            shown = min(max(shown, fro[0]), fro[1])
        row = Moved(at=at, mat=shown, camera=camera, rate=rate, playing=playing, fro=fro)
        self._write(row)
        self._shown.append(row)

    def shown_at(self, second: Fraction) -> Moved | None:
        """What was on the screen at a second, as a row that begins there; None before anything was."""
        i = bisect_right(self._shown, second, key=lambda m: m.at)
        if not i:
            return self._shown[0] if self._shown else None
        last = self._shown[i - 1]
        return replace(last, at=second, mat=last.mat_at(second))

    def phrase_before(self, second: float) -> float:
        """Where the phrase before a second began that was not said again since; looks into the file, which takes a
        moment. `OSError` where it can't be read."""
        found = phrase_before(self._sound, second)
        while over := [a for a, z in self._over if a <= found < z]:
            found = phrase_before(self._sound, min(over))
        return found

    def point(self, x: float, y: float, pressed: bool) -> None:
        """Where the pointer is, 0…1 of the picture as it was filmed."""
        place = (min(max(v, 0.0), 1.0) for v in (x, y))
        self._write(Pointed(at=self._now(), x=round(next(place), 5), y=round(next(place), 5), pressed=pressed))

    def act(self, act: Act) -> None:
        """A key that says something about the take."""
        self._write(Acted(at=self._now(), act=act))

    def again(self, since: float) -> None:
        """What was said since a second is said again from now on."""
        at = self._now()
        self._write(Acted(at=at, act=Act.AGAIN, since=min(Fraction(round(since * 1000), 1000), at)))
        self._over.append((since, float(at)))

    def stop(self) -> Talked:
        """End the recording."""
        recording = self._recorder.stop()
        if self._file >= 0:
            os.close(self._file)
            self._file = -1
        return Talked(recording, read_events(self._path))

    def _now(self) -> Fraction:
        # Never before what was written already, and in milliseconds: nobody acts more exactly.
        self._at = max(self._at, Fraction(round(self.seconds * 1000), 1000))
        return self._at

    def _write(self, row: Row) -> None:
        if self._file >= 0 and not self._recorder.paused:
            os.write(self._file, line_of(row))
