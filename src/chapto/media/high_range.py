"""High dynamic range pictures, as phones film them, brought to what a usual screen shows.

A table of 65³ colours takes the signal of the file to BT.709. Diffuse white lies at 203 cd/m² (ITU-R BT.2408). Greys up
to three quarters of it come out as they are; what is brighter is bent under a shoulder without changing its hue.
Sources: SMPTE ST 2084 (PQ), ITU-R BT.2100 (HLG), BT.2087 (from BT.2020 to BT.709), BT.1886 (the screen's gamma); all
from memory.
"""

from __future__ import annotations

import os
from functools import lru_cache
from pathlib import Path

import numpy as np
from av.video.reformatter import ColorTrc
from numpy.typing import NDArray

from chapto.media.cache import cache_file, part_of

Colours = NDArray[np.float64]
POINTS = 65
"""Colours along each side of the table."""
WHITE = 203.0
"""cd/m² of diffuse white (ITU-R BT.2408)."""
PEAK = 1000.0
"""cd/m² that the brightest light is taken for: what HLG is graded for, and what phones film."""
KNEE = 0.75
"""Light, in shares of diffuse white, from which it is bent."""
GAMMA = 2.4
"""ITU-R BT.1886."""
TO_709 = np.array(
    [[1.660491, -0.587641, -0.072850], [-0.124550, 1.132900, -0.008349], [-0.018151, -0.100579, 1.118730]]
)
"""Linear BT.2020 to linear BT.709 (ITU-R BT.2087)."""
LUMA = np.array([0.2627, 0.6780, 0.0593])
"""Of BT.2020."""
VERSION = 1
CURVES = {ColorTrc.SMPTE2084.value: "pq", ColorTrc.ARIB_STD_B67.value: "hlg"}


def curve_of(transfer: int) -> str | None:
    """The curve a picture's light is kept by, "pq" or "hlg"; None for one of usual range."""
    return CURVES.get(int(transfer))


def pq_light(signal: Colours) -> Colours:
    """cd/m² of a PQ signal of 0…1 (SMPTE ST 2084)."""
    m1, m2, c1, c2, c3 = 2610 / 16384, 2523 / 32, 3424 / 4096, 2413 / 128, 2392 / 128
    root = np.power(np.clip(signal, 0, 1), 1 / m2)
    return np.asarray(10_000 * np.power(np.maximum(root - c1, 0) / (c2 - c3 * root), 1 / m1))


def hlg_light(signal: Colours) -> Colours:
    """cd/m² on a display of `PEAK` of an HLG signal, (…, 3) of 0…1 (ITU-R BT.2100, system gamma 1.2)."""
    a, b, c = 0.17883277, 0.28466892, 0.55991073
    e = np.clip(signal, 0, 1)
    scene = np.where(e <= 0.5, e**2 / 3, (np.exp((e - c) / a) + b) / 12)
    luminance = np.maximum(scene @ LUMA, 1e-9)
    return np.asarray(PEAK * scene * (luminance**0.2)[..., None])


def to_screen(light: Colours) -> Colours:
    """A BT.709 signal of 0…1 for cd/m² in BT.2020, (…, 3)."""
    linear = np.maximum(light / WHITE @ TO_709.T, 0)
    brightest = np.maximum(linear.max(axis=-1, keepdims=True), 1e-9)
    return np.asarray(np.clip(linear * shoulder(brightest) / brightest, 0, 1) ** (1 / GAMMA))


def shoulder(light: Colours) -> Colours:
    """Light in shares of diffuse white brought under 1: itself up to `KNEE`, then a curve that begins as steep and ends
    level where `PEAK` is."""
    top = PEAK / WHITE
    over = np.clip((light - KNEE) / (top - KNEE), 0, 1)
    room = 1 - KNEE
    slope = (top - KNEE) / room
    # A rational curve with f(0) = 0, f'(0) = slope and f(1) = 1.
    bent = slope * over / (1 + (slope - 1) * over)
    return np.where(light <= KNEE, light, KNEE + room * bent)


@lru_cache(maxsize=2)
def table_file(curve: str) -> Path:
    """The table of a curve as a `.cube` file, made once. `OSError` where it can't be kept."""
    place = cache_file("tables", f"{curve}-{POINTS}-{VERSION}", ".cube")
    if not place.exists():
        place.parent.mkdir(parents=True, exist_ok=True)
        part = part_of(place)
        try:
            part.write_text(cube_text(curve), "ascii")
            os.replace(part, place)
        finally:
            part.unlink(missing_ok=True)
    return place


def cube_text(curve: str) -> str:
    """The table as text: red changes fastest."""
    axis = np.linspace(0, 1, POINTS)
    blue, green, red = np.meshgrid(axis, axis, axis, indexing="ij")
    signal = np.stack([red, green, blue], axis=-1).reshape(-1, 3)
    shown = to_screen(pq_light(signal) if curve == "pq" else hlg_light(signal))
    rows = "\n".join(" ".join(f"{v:.6f}" for v in row) for row in shown)
    return f"LUT_3D_SIZE {POINTS}\n{rows}\n"
