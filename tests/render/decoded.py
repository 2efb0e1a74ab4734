"""A rendered file decoded without any of Chapto's own reading, and searched for a picture or a word."""

from __future__ import annotations

from fractions import Fraction
from functools import cached_property
from pathlib import Path

import av
import numpy as np
from numpy.typing import NDArray
from scipy.signal import oaconvolve, resample_poly

from chapto.document.breakdown import Breakdown
from chapto.programme.angles import AngleTrack

RATE = 48_000
COARSER = 3
"""So much coarser a sound is searched for: to a sixteenth of a millisecond."""
WHOLE, LOOKED_AT = (160, 90), (12, 66)
"""Pictures are made small to this size, and compared in these rows: above stand score and cautions, below labels."""


class Decoded:
    """A whole rendered file: small grey pictures with their times, and its mono sound at 48 kHz."""

    def __init__(self, path: Path) -> None:
        pictures, times = [], []
        with av.open(str(path)) as media:
            self.chapters = [(c["metadata"]["title"], float(c["start"] * c["time_base"])) for c in media.chapters()]
            video = media.streams.video[0]
            video.thread_type = "AUTO"
            self.size = (video.width, video.height)
            for frame in media.decode(video):
                pictures.append(small(frame))
                times.append(float(frame.time or 0))
        with av.open(str(path)) as media:
            resampler = av.AudioResampler(format="flt", layout="mono", rate=RATE)
            blocks, self.sound_start = [], 0.0
            for i, sound in enumerate(media.decode(audio=0)):
                if i == 0:
                    self.sound_start = float(sound.time or 0)
                sound.pts = None
                blocks += [out.to_ndarray()[0] for out in resampler.resample(sound)]
        self.pictures = np.array(pictures)
        self.times = np.array(times)
        self.sound = np.concatenate(blocks)

    def shown(self, picture: NDArray[np.float32], near: float) -> tuple[float, float]:
        """From when to when the frames around `near` (±3 s) that look like `picture` are on the screen."""
        inside = np.flatnonzero(np.abs(self.times - near) < 3)
        off = ((self.pictures[inside] - picture) ** 2).reshape(len(inside), -1)
        # Marks lie on a part of the picture: the three quarters that fit best count.
        kept = off.shape[1] * 3 // 4
        errors = np.partition(off, kept, axis=1)[:, :kept].mean(axis=1)
        alike = errors < errors.min() * 1.6 + 0.15
        best = int(np.argmin(np.where(alike, np.abs(self.times[inside] - near), np.inf)))
        first = last = best
        while first > 0 and alike[first - 1]:
            first -= 1
        while last + 1 < len(inside) and alike[last + 1]:
            last += 1
        return float(self.times[inside[first]]), float(self.times[inside[last]]) + 1 / 30

    def heard(self, word: NDArray[np.float32]) -> float:
        """When the sound `word` is heard: the peak of its normalised correlation over the whole programme."""
        sound, looked = self._sixteen, resample_poly(word, 1, COARSER)
        score = oaconvolve(sound, looked[::-1], mode="valid")
        so_far = np.concatenate([[0.0], np.cumsum(sound.astype(np.float64) ** 2)])
        power = np.sqrt(np.maximum(so_far[len(looked) :] - so_far[: -len(looked)], 1e-6))
        return float(np.argmax(score / power)) / (RATE / COARSER) + self.sound_start

    @cached_property
    def _sixteen(self) -> NDArray[np.float32]:
        return np.asarray(resample_poly(self.sound, 1, COARSER), np.float32)


def small(frame: av.VideoFrame) -> NDArray[np.float32]:
    grey = frame.reformat(*WHOLE, "gray", interpolation="AREA").to_ndarray().astype(np.float32)
    return grey[slice(*LOOKED_AT)]


def footage_frame(b: Breakdown, mat: Fraction, folder: Path = Path("/")) -> NDArray[np.float32]:
    """The footage's frame at a mat time, decoded without any of Chapto's own reading; `folder` is the project's."""
    camera = AngleTrack(b).at(mat)
    assert camera is not None
    wanted = float(camera.media_time(mat))
    with av.open(str(folder / camera.path)) as media:
        media.seek(int(max(wanted - 0.5, 0) * 1e6))
        found = None
        for frame in media.decode(video=0):
            if frame.time is not None and frame.time > wanted + 1e-6:
                break
            found = frame
    assert found is not None
    return small(found)


def lag(
    decoded: Decoded, picture: NDArray[np.float32], voice: NDArray[np.float32], start: float, limit: float
) -> float:
    """Seconds between a word (said at `start` of its line's sound `voice`, the next tied one at `limit`) and the
    nearest frame that shows `picture`; 0 while it is on the screen."""
    first = round(start * RATE)
    word = voice[first + 300 : min(first + RATE * 4 // 5, round(limit * RATE) - 2000)]
    said = decoded.heard(word) - 300 / RATE
    on, off = decoded.shown(picture, said)
    return 0.0 if on <= said <= off else min(abs(said - on), abs(said - off))
