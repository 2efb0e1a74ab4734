"""How letters stand out from what is under them, measured on the finished picture."""

from __future__ import annotations

import cv2
import numpy as np
from numpy.typing import NDArray

from chapto.render.flashing import luminance

WORST = 25
"""Per cent of the ground that may be nearer to the letters than what is measured: a sign beside them, soft edges."""
CORE = 25
"""Per cent of the letters that are as far from the ground as what is measured: the middle of their strokes."""
INK = 1
"""Per cent of all that is as far from the ground as the letters, at least."""
LIKE = 0.25
"""Share of the way from the ground to the letters within which something is of the letters."""
MOST = 0.35
"""Share of the whole that letters take at most."""
FEWEST = 0.015
"""Share of a stretch that letters take where there are any."""
EDGE = 5
"""Pixels round the letters, to both sides, that belong to their softened edges."""
WIDE = 1.5
"""Width of a stretch by its height."""


def lowest_contrast(rgb: NDArray[np.uint8]) -> float:
    """Contrast ratio, 1…21 (W3C WCAG 2.x), of letters on their ground: (rows, columns, 3) sRGB in which letters take
    the smaller part. Where the ground varies, the stretch counts in which it is most like the letters."""
    light = luminance(rgb.astype(np.float64) / 255)
    seen = np.sqrt(light)
    middle = float(np.median(seen))
    inks = [float(x) for x in np.percentile(seen, (INK, 100 - INK)) if abs(x - middle) > 1e-3]
    # What takes much of the place is another ground.
    inks = [x for x in inks if (np.abs(seen - x) < LIKE * abs(middle - x)).mean() < MOST]
    if not inks:
        return 1.0
    ink = max(inks, key=lambda x: _ratio(x**2, middle**2))
    letters = np.abs(seen - ink) < LIKE * abs(middle - ink)
    near = cv2.dilate(letters.astype(np.uint8), np.ones((EDGE, EDGE), np.uint8)) > 0
    rows, columns = seen.shape
    wide = max(round(WIDE * rows), 8)
    found = []
    for first in range(0, max(columns - wide // 2, 1), max(wide // 2, 1)):
        part = slice(first, first + wide)
        mine, ground = light[:, part][letters[:, part]], light[:, part][~near[:, part]]
        if mine.size < FEWEST * letters[:, part].size or not ground.size:
            continue
        dark = ink < middle
        worst = np.percentile(ground, WORST if dark else 100 - WORST)
        found.append(_ratio(float(np.percentile(mine, CORE if dark else 100 - CORE)), float(worst)))
    return min(found, default=1.0)


def _ratio(a: float, b: float) -> float:
    return float((max(a, b) + 0.05) / (min(a, b) + 0.05))
