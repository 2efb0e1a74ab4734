"""Pictures of one file by their time stamps."""

from __future__ import annotations

from fractions import Fraction
from pathlib import Path

import av
import av.error
import numpy as np

from chapto.media.frame_converter import FrameConverter
from chapto.media.frame_stamps import FrameStamps, earliest
from chapto.media.known_stamps import known_stamps
from chapto.media.opening import MediaError, open_media
from chapto.media.probe import picture_track

FURTHER_BACK = (Fraction(0), Fraction(1, 2), Fraction(2), Fraction(10), None)
"""Seconds before the wanted picture from which decoding begins, tried one after another; None is the file's start."""
BACKWARDS_BYTES = 128 * 2**20
"""Decoded pictures kept, at most, where a file is read backwards."""
STEP_BACK = 4
"""Going back by so many pictures at most counts as reading backwards."""
FORWARD = 48
"""Frames decoded straight on rather than seeking, where no key frame lies between."""


class FrameReader:
    """Decodes any frame of a file, quickest in order. Not for use by two threads at once."""

    def __init__(self, path: Path, *, stamps: FrameStamps | None = None, threads: bool = True) -> None:
        self.path = path
        self._container = open_media(path)
        self._stream = picture_track(self._container, path)
        self._stream.thread_type = "AUTO" if threads else "SLICE"
        self.stamps = stamps or known_stamps(self._container, self._stream, path)
        self.start = earliest(self._container, self._stream, self.stamps)
        self.aspect = self._stream.sample_aspect_ratio or Fraction(1)
        self._decoder: object = None
        self._landed: int | None = None
        self._back = 0
        self._at = -1
        self._frame: av.VideoFrame | None = None
        self._asked = -1
        self._behind: dict[int, av.VideoFrame] = {}
        self._shapers: dict[tuple[int, int, str, bool], FrameConverter] = {}

    @property
    def frames(self) -> int:
        """How many pictures there are."""
        return len(self.stamps.pts)

    @property
    def size(self) -> tuple[int, int]:
        """Width and height of its pictures in pixels, as they are stored."""
        return self._stream.codec_context.width, self._stream.codec_context.height

    def index_at(self, seconds: Fraction) -> int:
        """Number of the picture on show `seconds` into the file: the last that started by then."""
        stamp = (seconds + self.start) / self.stamps.base
        # A millionth of a tick of slack keeps a time computed from a stamp on that stamp's picture.
        tick = int(stamp + Fraction(1, 10**6))
        return max(int(np.searchsorted(self.stamps.pts, tick, side="right")) - 1, 0)

    def seconds_at(self, index: int) -> Fraction:
        """When picture `index` starts, in seconds from the file's start."""
        return int(self.stamps.pts[index]) * self.stamps.base - self.start

    def key_before(self, index: int) -> int:
        """Number of the key picture at or before picture `index`."""
        keys = self.stamps.keys
        key = keys[max(int(np.searchsorted(keys, self.stamps.pts[index], side="right")) - 1, 0)]
        return int(np.searchsorted(self.stamps.pts, key))

    def frame(self, index: int) -> av.VideoFrame:
        """Picture number `index` as decoded; a damaged one gives the last whole picture before it."""
        index = min(max(index, 0), self.frames - 1)
        backwards, self._asked = index < self._asked <= index + STEP_BACK, index
        if index not in self._behind:
            self._behind = self._before(index) if backwards else {}
        return self._behind[index] if index in self._behind else self._decoded(index)

    def _before(self, index: int) -> dict[int, av.VideoFrame]:
        """Picture `index` and those before it that are decoded on the way to it, as many as may be kept: the next one
        asked for is likely to be among them."""
        width, height = self.size
        most = max(BACKWARDS_BYTES // max(width * height * 2, 1), 4)
        first = max(self.key_before(index), index - most + 1)
        return {i: self._decoded(i) for i in range(first, index + 1)}

    def _decoded(self, index: int) -> av.VideoFrame:
        if index == self._at and self._frame is not None:
            return self._frame
        target = int(self.stamps.pts[index])
        if not (self._is_ahead(index) and self._decode_to(target)):
            self._find(target)
        if self._frame is None:
            raise MediaError(f"“{self.path.name}” is damaged: no picture at {float(self.seconds_at(index)):.1f} s.")
        self._at = index
        return self._frame

    def picture(
        self, index: int, width: int, height: int, pix_fmt: str = "rgb24", *, mirrored: bool = False
    ) -> av.VideoFrame:
        """Picture `index` upright, left and right changed back if it was filmed `mirrored`, scaled into `width` ×
        `height` with black bars, in `pix_fmt`."""
        frame = self.frame(index)
        key = (width, height, pix_fmt, mirrored)
        if key not in self._shapers:
            rotation = round(frame.rotation / 90) * 90
            self._shapers[key] = FrameConverter(
                width, height, pix_fmt, rotation=rotation, aspect=self.aspect, mirrored=mirrored
            )
        return self._shapers[key].shape(frame)

    def close(self) -> None:
        """Give the file back."""
        self._container.close()

    def _is_ahead(self, index: int) -> bool:
        if self._decoder is None or self._at < 0 or index <= self._at:
            return False
        if index - self._at <= 2:
            return True
        here, target = self.stamps.pts[self._at], self.stamps.pts[index]
        key_between = bool(np.any((self.stamps.keys > here) & (self.stamps.keys <= target)))
        return index - self._at <= FORWARD and not key_between

    def _find(self, target: int) -> None:
        """Seek and decode to `target`, from further back each time the file gives no picture that early.

        MPEG streams have no index: a seek lands by decoding order, which can be behind the picture wanted.
        """
        best: av.VideoFrame | None = None
        tries_at_a_hole = 0
        for i in range(self._back, len(FURTHER_BACK)):
            self._seek(target, FURTHER_BACK[i])
            if self._decode_to(target):
                self._back = i
                return
            best = self._frame if best is None else best
            tries_at_a_hole += self._landed is not None and self._landed <= target
            if tries_at_a_hole == 2:
                break
        self._frame, self._decoder = best, None

    def _seek(self, target: int, back: Fraction | None) -> None:
        """Go to the last key picture at or before `back` seconds before `target`; None is the start of the file."""
        keys, first = self.stamps.keys, int(self.stamps.pts[0])
        wanted = first if back is None else max(target - int(back / self.stamps.base), first)
        key = int(keys[max(int(np.searchsorted(keys, wanted, side="right")) - 1, 0)])
        self._frame, self._at, self._landed = None, -1, None
        try:
            self._container.seek(key if back is not None else min(key, 0), stream=self._stream, backward=True)
        except av.error.FFmpegError:
            self._container.seek(0)
        self._decoder = self._container.decode(self._stream)

    def _decode_to(self, target: int) -> bool:
        """Decode on until the picture stamped `target` is there; whether it is. Where it is not, `_frame` is the last
        whole one before it, or else the first after it."""
        try:
            for frame in self._decoder:  # type: ignore[attr-defined]
                stamp = frame.pts if frame.pts is not None else frame.dts
                if stamp is None or frame.is_corrupt:
                    continue
                if self._landed is None:
                    self._landed = stamp
                if stamp > target and self._frame is not None:
                    break
                self._frame = frame
                if stamp >= target:
                    return bool(stamp == target)
        except (av.error.FFmpegError, OSError):
            pass
        self._decoder = None
        return False
