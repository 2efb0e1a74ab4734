"""The sound of a file, decoded once into a cache that can be read anywhere."""

from __future__ import annotations

import os
from collections.abc import Callable
from pathlib import Path

import av
import av.error
import numpy as np
from numpy.typing import NDArray

from chapto.media.cache import Cancelled, cache_file
from chapto.media.probe import MediaError, earliest, frame_stamps, open_media, sound_track

RATE = 48_000
Samples = NDArray[np.float32]


class FootageSound:
    """16-bit stereo at 48 kHz; sample 0 belongs to the file's own second 0."""

    def __init__(self, samples: NDArray[np.int16]) -> None:
        self._samples = samples

    def __len__(self) -> int:
        return len(self._samples)

    def read(self, first: int, count: int) -> Samples:
        """`count` samples from `first` on, (count, 2) float32; silence outside the file."""
        out = np.zeros((count, 2), np.float32)
        a, b = max(first, 0), min(first + count, len(self._samples))
        if a < b:
            out[a - first : b - first] = self._samples[a:b].astype(np.float32) / 32768
        return out


def silent() -> FootageSound:
    """The sound of a file without sound."""
    return FootageSound(np.zeros((0, 2), np.int16))


def load_sound(path: Path, key: str, *, cancelled: Callable[[], bool] = lambda: False) -> FootageSound:
    """The sound of the file at `path`; `key` (its fingerprint) names the cached copy.

    Blocks are placed by their time stamps, so gaps stay gaps. A file without sound is silent.
    """
    cached = cache_file("sound", key, ".s16")
    if not cached.exists():
        decoded = _decode(path, cancelled)
        part = cached.with_suffix(f".{os.getpid()}.part")
        try:
            cached.parent.mkdir(parents=True, exist_ok=True)
            decoded.tofile(part)
            os.replace(part, cached)
        except OSError:
            part.unlink(missing_ok=True)
            return FootageSound(decoded)
    if cached.stat().st_size == 0:
        return silent()
    return FootageSound(np.memmap(cached, dtype=np.int16, mode="r").reshape(-1, 2))


def _decode(path: Path, cancelled: Callable[[], bool]) -> NDArray[np.int16]:
    with open_media(path) as container:
        track = sound_track(container)
        if track is None:
            return np.zeros((0, 2), np.int16)
        start = 0.0
        if container.streams.video:
            video = container.streams.video[0]
            start = float(earliest(container, video, frame_stamps(container, video, path)))
            container.seek(0, backward=True)
        resampler = av.AudioResampler(format="s16", layout="stereo", rate=RATE)
        blocks: list[tuple[int, NDArray[np.int16]]] = []
        at = 0
        try:
            for frame in container.decode(track):
                if cancelled():
                    raise Cancelled
                placed = None if frame.time is None else round((frame.time - start) * RATE)
                if (placed is not None and abs(placed - at) > RATE // 25) or (not blocks and placed is not None):
                    at = placed
                frame.pts = None
                for out in resampler.resample(frame):
                    samples = out.to_ndarray().reshape(-1, 2).astype(np.int16, copy=False)
                    blocks.append((at, samples))
                    at += len(samples)
        except (av.error.FFmpegError, OSError):
            if not blocks:
                raise MediaError(f"The sound of “{path.name}” is damaged and can't be read.") from None
        for out in resampler.resample(None):
            samples = out.to_ndarray().reshape(-1, 2).astype(np.int16, copy=False)
            blocks.append((at, samples))
            at += len(samples)
    whole = np.zeros((max((a + len(s) for a, s in blocks), default=0), 2), np.int16)
    for place, samples in blocks:
        first = max(-place, 0)
        if len(samples) > first:
            whole[place + first : place + len(samples)] = samples[first:]
    return whole
