"""Draw the demo's photos: `python -m chapto.demo.make_photos`. Somebody took them by the mat while the bout ran."""

from __future__ import annotations

import sys
from dataclasses import replace
from pathlib import Path

import cv2

from chapto.demo.generate import Drawer
from chapto.demo.raster import Camera
from chapto.demo.shots import BOUT

PHOTOS = Path(__file__).parent / "photos"
BY_THE_MAT = Camera((-1.5, -3.1, 1.0), (0.05, 0.05, 0.5), 1650, 1200, 800)
TAKEN = {"first-try": 87.2, "second-try": 105.4}
"""Mat seconds by file name."""


def make_photos() -> None:
    """Write both as JPEG."""
    shot = replace(BOUT[0], camera=BY_THE_MAT, board=None)
    drawer = Drawer(shot)
    PHOTOS.mkdir(exist_ok=True)
    for name, t in TAKEN.items():
        picture = cv2.cvtColor(drawer.picture(t), cv2.COLOR_RGB2BGR)
        cv2.imwrite(str(PHOTOS / f"{name}.jpg"), picture, [cv2.IMWRITE_JPEG_QUALITY, 84])


if __name__ == "__main__":
    make_photos()
    sys.exit(0)
