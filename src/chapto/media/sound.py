"""The sound of a file, decoded once into a cache that can be read anywhere."""

from __future__ import annotations

import contextlib
import math
import os
from collections.abc import Callable
from pathlib import Path
from typing import Protocol

import av
import av.error
import numpy as np
from numpy.typing import NDArray

from chapto.errors import Cancelled
from chapto.media.cache import cache_file, part_of, used_now
from chapto.media.frame_stamps import FrameStamps, earliest
from chapto.media.known_stamps import known_stamps
from chapto.media.opening import MediaError, open_media
from chapto.media.probe import sound_track
from chapto.media.sound_file import BLOCK, RATE, Block, DamagedSound, SoundReader, SoundWriter
from chapto.store.errors import plain_reason

__all__ = ["RATE", "FootageSound", "load_sound"]

OUTLASTS = 60
"""Seconds of sound kept before and behind the picture. What stamps say lies farther off is no sound of this bout."""
LONGEST_ALONE = 24 * 3600
"""Seconds kept of a file without a picture."""
SLIP = RATE // 25
"""Samples by which a stamp may differ from where the sound has come to before it counts as a gap."""
Samples = NDArray[np.float32]


class _Blocks(Protocol):
    """Where seconds of sound come from."""

    length: int

    def block(self, number: int) -> Block | None:
        """Second `number`, (`RATE`, 2) int16; None for silence."""


class _InMemory:
    def __init__(self, samples: NDArray[np.int16]) -> None:
        self._samples, self.length = samples, len(samples)

    def block(self, number: int) -> Block | None:
        found = self._samples[number * BLOCK : (number + 1) * BLOCK]
        if len(found) == BLOCK:
            return found
        return np.concatenate([found, np.zeros((BLOCK - len(found), 2), np.int16)])


class FootageSound:
    """16-bit stereo at 48 kHz; sample 0 belongs to the file's own second 0. `on_damage` is told, once and in whatever
    thread reads, when the cache file turns out to be damaged; what can't be read is silent."""

    def __init__(self, samples: NDArray[np.int16] | None = None, *, blocks: _Blocks | None = None) -> None:
        self._blocks = blocks or _InMemory(samples if samples is not None else np.zeros((0, 2), np.int16))
        self.on_damage: Callable[[], object] = lambda: None
        self.is_damaged = False

    def __len__(self) -> int:
        return self._blocks.length

    def read(self, first: int, count: int) -> Samples:
        """`count` samples from `first` on, (count, 2) float32; silence outside the file."""
        out = np.zeros((count, 2), np.float32)
        at, end = max(first, 0), min(first + count, len(self))
        while at < end:
            number, inside = divmod(at, BLOCK)
            n = min(BLOCK - inside, end - at)
            block = self._block(number)
            if block is not None:
                out[at - first : at - first + n] = block[inside : inside + n].astype(np.float32) / 32768
            at += n
        return out

    def _block(self, number: int) -> Block | None:
        try:
            return self._blocks.block(number)
        except DamagedSound:
            if not self.is_damaged:
                self.is_damaged = True
                self.on_damage()
            return None


def load_sound(
    path: Path,
    key: str,
    *,
    cancelled: Callable[[], bool] = lambda: False,
    remade: Callable[[], object] = lambda: None,
    anew: bool = False,
) -> FootageSound:
    """The sound of the file at `path`; `key` (its fingerprint) names the cached copy. `remade` hears that a damaged
    copy had to be made again, and `anew` says that one turned out to be damaged while it was read.

    Blocks are placed by their time stamps, so gaps stay gaps. A file without sound is silent. Memory stays bounded:
    decoded seconds go to disk at once. Raises `Cancelled` when stopped and `MediaError` when it can't be read, or when
    there is no room for it.
    """
    cached = cache_file("sound", key, ".s16")
    if anew and cached.exists():
        cached.unlink(missing_ok=True)
        remade()
    if cached.exists():
        with contextlib.suppress(OSError):
            try:
                found = FootageSound(blocks=SoundReader(cached))
            except DamagedSound:
                cached.unlink(missing_ok=True)
                remade()
            else:
                used_now(cached)
                return found
    return keep_sound(cached, lambda writer: _decode(path, writer, cancelled), f"The sound of “{path.name}”")


def keep_sound(cached: Path, fill: Callable[[SoundWriter], object], what: str) -> FootageSound:
    """What `fill` writes, kept at `cached` under a name of its own until it is whole. `MediaError` where it can't be
    kept, which calls it `what`; what `fill` raises goes on."""
    part = part_of(cached)
    try:
        cached.parent.mkdir(parents=True, exist_ok=True)
        writer = SoundWriter(part)
        try:
            fill(writer)
            writer.finish()
        finally:
            writer.close()
        os.replace(part, cached)
        return FootageSound(blocks=SoundReader(cached))
    except (OSError, DamagedSound) as error:
        why = plain_reason(error) if isinstance(error, OSError) else "it was damaged at once"
        raise MediaError(f"{what} can't be kept in {cached.parent}: {why}.") from None
    finally:
        part.unlink(missing_ok=True)


def _start_and_limit(path: Path) -> tuple[float, int]:
    """The stamp that is second 0 of the file, and the last sample that is kept."""
    with open_media(path) as container:
        if not container.streams.video:
            return 0.0, LONGEST_ALONE * RATE
        video = container.streams.video[0]
        stamps = known_stamps(container, video, path)
        start = float(earliest(container, video, stamps))
        return start, round((_last_second(stamps) - start + OUTLASTS) * RATE)


def _decode(path: Path, writer: SoundWriter, cancelled: Callable[[], bool]) -> None:
    start, limit = _start_and_limit(path)
    # Opened anew rather than sought back: where sound lies before the first picture, a seek misses it.
    with open_media(path) as container:
        track = sound_track(container)
        if track is None:
            return
        placing = _Placing(writer, start, limit)
        try:
            for frame in container.decode(track):
                if cancelled():
                    raise Cancelled
                placing.take(frame)
        except av.error.FFmpegError:
            if not placing.any:
                raise MediaError(f"The sound of “{path.name}” is damaged and can't be read.") from None
        placing.end()


class _Placing:
    """Puts decoded frames where their stamps say, at 48 kHz stereo, whatever they change to on the way."""

    def __init__(self, writer: SoundWriter, start: float, limit: int) -> None:
        self._writer, self._start, self._limit = writer, start, limit
        self._resampler: av.AudioResampler | None = None
        self._kind: tuple[str, str, int] | None = None
        self._at = 0
        self.any = False

    def take(self, frame: av.AudioFrame) -> None:
        kind = (frame.format.name, frame.layout.name, frame.sample_rate)
        if kind != self._kind:
            self.end()
            self._resampler = av.AudioResampler(format="s16", layout="stereo", rate=RATE)
            self._kind = kind
        time = frame.time
        if time is not None and math.isfinite(time):
            placed = round((time - self._start) * RATE)
            if abs(placed - self._at) > SLIP or not self.any:
                self._at = placed
        frame.pts = None
        assert self._resampler is not None
        self._put(self._resampler.resample(frame))

    def end(self) -> None:
        """What the resampler still holds."""
        if self._resampler is not None:
            self._put(self._resampler.resample(None))
            self._resampler = None

    def _put(self, frames: list[av.AudioFrame]) -> None:
        for out in frames:
            samples = out.to_ndarray().reshape(-1, 2).astype(np.int16, copy=False)
            self.any = True
            if -OUTLASTS * RATE <= self._at <= self._limit:
                self._writer.put(self._at, samples)
            self._at += len(samples)


def _last_second(stamps: FrameStamps) -> float:
    return float(int(stamps.pts[-1]) * stamps.base)
