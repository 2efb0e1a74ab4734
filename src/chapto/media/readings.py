"""What can be measured in a file's pictures: activity, sharpness, contrast, shake, and how much stands in the way.

Measured on small grey pictures, `RATE_HERTZ` of them a second, so that a proxy is read far faster than it plays.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass, fields
from fractions import Fraction
from pathlib import Path

import numpy as np
from numpy.typing import NDArray

from chapto.errors import Cancelled
from chapto.media.cache import cache_file
from chapto.media.kept_arrays import keep_arrays, kept_arrays
from chapto.media.proxy import proxy_path
from chapto.media.reader import FrameReader

Curve = NDArray[np.float32]
Grey = NDArray[np.float32]
WIDTH, HEIGHT = 320, 180
RATE_HERTZ = 10
SMALL = 4
"""Motion and what stands in the way are measured on pictures this many times smaller still."""
NOISE = 5.0
"""Grey levels (of 255) that sensor noise and compression change in a small picture; less is no motion."""
DIFFERENT = 14.0
"""Grey levels from which a small picture differs from its usual background."""
MOVED_CAMERA = 0.45
"""Where more of the picture than this differs, the camera has moved and there is no usual background."""
STEPS_A_LEVEL = 64
"""Steps a grey level of the small pictures kept."""
VERSION = 1


@dataclass(frozen=True)
class Readings:
    """Curves of one file, each (n,) float32; `at` are seconds into the file.

    - `activity`: share of the picture that moves, camera shake and changes of the whole light taken out;
    - `change`: mean change since the reading before, in grey levels;
    - `sharpness`: mean strength of fine detail, in grey levels;
    - `contrast` and `light`: standard deviation and mean, in grey levels;
    - `shake`: how far the camera jerked since the reading before, in thousandths of the picture's width;
    - `cover`: share of the place where the action usually is that stands behind something near.
    """

    at: Curve
    activity: Curve
    change: Curve
    sharpness: Curve
    contrast: Curve
    light: Curve
    shake: Curve
    cover: Curve


CURVES = tuple(f.name for f in fields(Readings))


def readings(
    path: Path,
    key: str,
    *,
    progress: Callable[[float], None] = lambda share: None,
    cancelled: Callable[[], bool] = lambda: False,
) -> Readings:
    """Readings of the file at `path` with fingerprint `key`, kept in the cache; from the proxy where there is one.

    Raises `Cancelled` when stopped and `MediaError` when the file can't be read.
    """
    cached = cache_file("readings", f"{key}-{VERSION}", ".npz")
    kept = kept_arrays(cached, *CURVES)
    if kept is not None:
        return Readings(**kept)
    found = measure(path, proxy_path(key), progress=progress, cancelled=cancelled)
    keep_arrays(cached, {name: getattr(found, name) for name in CURVES})
    return found


def measure(
    path: Path,
    proxy: Path | None = None,
    *,
    progress: Callable[[float], None] = lambda share: None,
    cancelled: Callable[[], bool] = lambda: False,
) -> Readings:
    """Readings of the file at `path`, its pictures taken from `proxy` if that is a whole one."""
    times: list[float] = []
    smaller: list[NDArray[np.uint16]] = []
    rows: list[tuple[float, float, float]] = []
    for at, share, grey in _grey_pictures(path, proxy):
        if cancelled():
            raise Cancelled
        times.append(at)
        rows.append((_sharpness(grey), float(grey.std()), float(grey.mean())))
        small = grey.reshape(HEIGHT // SMALL, SMALL, WIDTH // SMALL, SMALL).mean(axis=(1, 3))
        smaller.append(np.round(small * STEPS_A_LEVEL).astype(np.uint16))
        if len(times) % 20 == 0:
            progress(share)
    stack = Stack(np.array(smaller))
    shifts = _shifts(stack)
    sharpness, contrast, light = (np.array(c, dtype=np.float32) for c in zip(*rows, strict=True))
    return Readings(
        np.array(times, dtype=np.float32),
        _activity(stack, shifts),
        _change(stack),
        sharpness,
        contrast,
        light,
        np.asarray(np.hypot(shifts[:, 0], shifts[:, 1]) / stack.width * 1000, dtype=np.float32),
        _cover(stack),
    )


class Stack:
    """Small grey pictures, kept as whole numbers so that an hour takes a quarter of a gigabyte."""

    def __init__(self, kept: NDArray[np.uint16]) -> None:
        self._kept = kept
        self.height, self.width = kept.shape[1:]
        self.mean = np.array([float(x.mean()) / STEPS_A_LEVEL for x in kept])
        self.spread = np.array([float(x.std()) / STEPS_A_LEVEL for x in kept])

    def __len__(self) -> int:
        return len(self._kept)

    def __getitem__(self, i: int) -> Grey:
        return np.asarray(self._kept[i], dtype=np.float32) * np.float32(1 / STEPS_A_LEVEL)

    def usual(self) -> Grey:
        """The median of up to 240 pictures spread over the file."""
        return np.asarray(
            np.median(self._kept[:: max(len(self._kept) // 240, 1)], axis=0) / STEPS_A_LEVEL, dtype=np.float32
        )


def _grey_pictures(path: Path, proxy: Path | None) -> Iterator[tuple[float, float, Grey]]:
    """(second, share done, grey picture) about `RATE_HERTZ` times a second, by the file's own time stamps."""
    timing = FrameReader(path)
    reader = timing
    try:
        if proxy is not None and proxy.exists():
            quick = FrameReader(proxy, threads=False)
            if quick.frames == timing.frames:
                reader = quick
            else:
                quick.close()
        last = -1
        end = timing.seconds_at(timing.frames - 1)
        for k in range(int(end * RATE_HERTZ) + 1):
            index = timing.index_at(Fraction(k, RATE_HERTZ))
            if index == last:
                continue
            last = index
            frame = reader.picture(index, WIDTH, HEIGHT, "gray")
            grey = frame.to_ndarray()[:, :WIDTH].astype(np.float32)
            yield float(timing.seconds_at(index)), index / timing.frames, grey
    finally:
        timing.close()
        if reader is not timing:
            reader.close()


def _sharpness(grey: Grey) -> float:
    """Mean absolute Laplacian of the picture."""
    middle = 4 * grey[1:-1, 1:-1] - grey[:-2, 1:-1] - grey[2:, 1:-1] - grey[1:-1, :-2] - grey[1:-1, 2:]
    return float(np.abs(middle).mean())


def _shifts(stack: Stack) -> NDArray[np.float32]:
    """(n, 2) shift in small pixels (down, right) of each picture against the one before: phase correlation."""
    from scipy.fft import irfft2, rfft2

    found = np.zeros((len(stack), 2), np.float32)
    window = np.outer(np.hanning(stack.height), np.hanning(stack.width)).astype(np.float32)
    before = rfft2((stack[0] - stack.mean[0]) * window)
    for i in range(1, len(stack)):
        now = rfft2((stack[i] - stack.mean[i]) * window)
        cross = now * np.conj(before)
        surface = irfft2(cross / (np.abs(cross) + 1e-6 * np.abs(cross).max() + 1e-9), (stack.height, stack.width))
        top = np.unravel_index(int(np.argmax(surface)), surface.shape)
        if surface[top] > 0.12:
            found[i] = [t if t <= n // 2 else t - n for t, n in zip(top, surface.shape, strict=True)]
        before = now
    return found


def _activity(stack: Stack, shifts: NDArray[np.float32]) -> Curve:
    """Share of the small picture that changed since the picture before, after shifting that one into place and
    giving both the same mean and spread."""
    spread = float(np.median(stack.spread))

    def even(i: int) -> Grey:
        return np.asarray((stack[i] - stack.mean[i]) * (spread / max(float(stack.spread[i]), 4.0)), dtype=np.float32)

    found = np.zeros(max(len(stack) - 1, 0), np.float32)
    before = even(0)
    for i in range(1, len(stack)):
        now = even(i)
        down, right = (int(v) for v in shifts[i])
        moved = np.roll(before, (down, right), (0, 1)) if down or right else before
        m = max(abs(down), abs(right)) + 1
        if 2 * m < stack.height - 4:
            found[i - 1] = float((np.abs(now - moved)[m:-m, m:-m] > NOISE).mean())
        before = now
    return _lead(found)


def _change(stack: Stack) -> Curve:
    return _lead(np.array([np.abs(stack[i] - stack[i - 1]).mean() for i in range(1, len(stack))], np.float32))


def _lead(steps: NDArray[np.float32]) -> Curve:
    """Values between readings as one a reading: the first is repeated."""
    led = np.concatenate([steps[:1], steps]) if len(steps) else np.zeros(1)
    return np.asarray(led, dtype=np.float32)


def _cover(stack: Stack) -> Curve:
    """How much of the place of the action is hidden by something near.

    What differs from the file's usual background (its median picture) is somebody. A column in which that reaches
    down to the foot of the picture and up over a third of it is something near the camera. The rest is the
    action. Its place is where it usually is within half a minute, in columns that nothing near hides then.
    """
    from scipy.ndimage import uniform_filter, uniform_filter1d

    found = np.zeros(len(stack), np.float32)
    if len(stack) < 8:
        return found
    height, usual = stack.height, stack.usual()
    near = np.zeros((len(stack), stack.width), bool)
    action = np.zeros(near.shape, np.float32)
    for i in range(len(stack)):
        # A veil over the whole picture is no obstacle: level and spread are made those of the background first.
        stretch = float(usual.std()) / max(float(stack.spread[i]), 1.0)
        level = (stack[i] - stack.mean[i]) * stretch + float(usual.mean())
        differs = uniform_filter((np.abs(level - usual) > DIFFERENT).astype(np.float32), 3) > 0.5
        if differs.mean() > MOVED_CAMERA:
            continue
        near[i] = (differs[int(height * 0.84) :].mean(axis=0) > 0.34) & (differs.mean(axis=0) > 0.3)
        action[i] = np.where(near[i], 0, differs[: int(height * 0.9)].mean(axis=0))
    reach = 60 * RATE_HERTZ
    open_share = uniform_filter1d((~near).astype(np.float32), reach, axis=0, mode="nearest")
    place = uniform_filter1d(action, reach, axis=0, mode="nearest") / np.maximum(open_share, 0.02)
    place = np.maximum(place - 0.5 * place.mean(axis=1, keepdims=True), 0)
    return np.asarray((place * near).sum(axis=1) / np.maximum(place.sum(axis=1), 1e-6), dtype=np.float32)
