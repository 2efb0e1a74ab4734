"""What the hall sounds like: room, steps, falls, whistle and buzzer, heard by each camera in its own way."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray
from scipy.signal import butter, fftconvolve, sosfilt

from chapto.demo.motion import Motion
from chapto.demo.shots import Shot

RATE = 48_000
Sound = NDArray[np.float32]

START, STOP = 4.0, 231.6
FALLS = ((38.75, 1.0), (40.2, 0.35), (88.4, 0.25), (109.0, 0.5), (128.0, 0.25), (146.6, 0.9), (173.6, 0.5),
         (195.6, 0.4), (207.2, 0.5), (223.0, 0.3))  # fmt: skip
"""(mat seconds, strength) of bodies meeting the mat."""


def _band(noise: NDArray[np.float64], low: float, high: float) -> NDArray[np.float64]:
    out: NDArray[np.float64] = sosfilt(butter(2, [low, high], "bandpass", fs=RATE, output="sos"), noise)
    return out


def _add(world: NDArray[np.float64], at: float, sound: NDArray[np.float64]) -> None:
    i = round(at * RATE)
    if 0 <= i < len(world):
        n = min(len(sound), len(world) - i)
        world[i : i + n] += sound[:n]


def world_sound(seconds: float, motion: Motion, *, bout: bool) -> NDArray[np.float64]:
    """Mono sound of the place at 48 kHz, `seconds` long, with nothing of any camera in it.

    Each source draws from a generator of its own, so that the same second sounds the same whatever is asked for.
    """
    seed = 2026 if bout else 7
    rng, hums, talks, swells = (np.random.default_rng([seed, k]) for k in range(4))
    n = round(seconds * RATE)
    t = np.arange(n) / RATE
    hum = _band(hums.standard_normal(n), 90, 900) * 0.012
    talk = _band(talks.standard_normal(n), 250, 2400) * 0.016
    swell = np.interp(t, np.arange(0, seconds + 2, 1.3), swells.uniform(0.3, 1.0, int((seconds + 2) / 1.3) + 1))
    world: NDArray[np.float64] = hum + talk * swell**2
    for at, strength in FALLS if bout else ((5.2, 0.3), (13.6, 0.3), (21.4, 0.5), (30.2, 0.25)):
        k = np.arange(round(0.5 * RATE)) / RATE
        body = np.sin(2 * np.pi * (62 - 26 * k) * k) * np.exp(-k * 13) * 0.55
        slap = _band(rng.standard_normal(len(k)), 300, 2600) * np.exp(-k * 38) * 0.5
        _add(world, at, strength * (body + slap))
    _scuffs(world, motion, seconds, np.random.default_rng([seed, 4]))
    if bout:
        _add(world, START, _buzzer())
        _add(world, STOP, _whistle(rng))
        for at in (41.5, 110.5, 130.0, 149.8, 211.9, 232.3):
            k = np.arange(round(2.2 * RATE)) / RATE
            cheer = _band(rng.standard_normal(len(k)), 500, 3200) * np.sin(np.pi * k / 2.2) ** 2 * 0.05
            _add(world, at, cheer)
    echo = np.zeros(round(0.32 * RATE))
    echo[0] = 1.0
    tail = np.arange(len(echo) - 400) / RATE
    echo[400:] = np.random.default_rng([seed, 5]).standard_normal(len(tail)) * np.exp(-tail * 16) * 0.012
    return fftconvolve(world, echo)[:n]  # type: ignore[no-any-return]


def _scuffs(world: NDArray[np.float64], motion: Motion, seconds: float, rng: np.random.Generator) -> None:
    """Cloth and feet: a soft burst wherever an ankle or wrist moves fast."""
    before: NDArray[np.float64] | None = None
    for at in np.arange(0.2, seconds - 0.3, 0.2):
        people = motion.joints(float(at))
        now = np.array([p for j in people for p in (*j.ankles, *j.wrists)])
        if before is not None:
            speed = float(np.linalg.norm(now - before, axis=1).max()) / 0.2
            if speed > 0.55:
                k = np.arange(round(0.09 * RATE)) / RATE
                burst = _band(rng.standard_normal(len(k)), 900, 5200) * np.sin(np.pi * k / 0.09)
                _add(world, float(at) + rng.uniform(0, 0.1), burst * min(speed, 3.0) * 0.02)
        before = now


def _buzzer() -> NDArray[np.float64]:
    k = np.arange(round(1.1 * RATE)) / RATE
    tone = sum(np.sin(2 * np.pi * 415 * m * k) / m for m in (1, 2, 3, 5))
    edge = np.clip(np.minimum(k / 0.02, (1.1 - k) / 0.05), 0, 1)
    return np.asarray(tone * edge * 0.16)


def _whistle(rng: np.random.Generator) -> NDArray[np.float64]:
    k = np.arange(round(0.8 * RATE)) / RATE
    trill = 2950 + 90 * np.sin(2 * np.pi * 31 * k)
    tone = np.sin(2 * np.pi * np.cumsum(trill) / RATE) + 0.15 * rng.standard_normal(len(k))
    edge = np.clip(np.minimum(k / 0.03, (0.8 - k) / 0.08), 0, 1)
    return np.asarray(tone * edge * 0.22)


def heard_by(shot: Shot, world: NDArray[np.float64]) -> Sound:
    """The world as the camera's microphone and clock take it down: mono 48 kHz float32, the file's length."""
    rng = np.random.default_rng(100 + shot.seed)
    n = round(shot.seconds * RATE)
    at = (shot.mat_in + (1 + shot.drift) * (np.arange(n) / RATE) - shot.sound_delay) * RATE
    sound = np.interp(at, np.arange(len(world)), world, left=0.0, right=0.0) * shot.sound_gain
    sound = sound + rng.standard_normal(n) * shot.sound_noise
    return np.clip(sound, -0.98, 0.98).astype(np.float32)
