"""Still pictures: PNG, JPEG, WebP and the like, turned upright as the camera noted (EXIF)."""

from __future__ import annotations

from pathlib import Path

import numpy as np
from numpy.typing import NDArray

from chapto.media.opening import MediaError

SUFFIXES = (".png", ".jpg", ".jpeg", ".webp")
MOST_BYTES = 200_000_000
MOST_SIDE = 2560
"""Pixels of the longer side that are kept: more than any programme shows."""


def is_photo(path: Path) -> bool:
    """Whether a file is called like a still picture."""
    return path.suffix.lower() in SUFFIXES


def read_photo(path: Path) -> NDArray[np.uint8]:
    """The picture as (height, width, 3) RGB, upright, its longer side at most `MOST_SIDE`.

    Raises `MediaError` for what is no picture, or can't be read.
    """
    whole, _ = _read(path)
    return whole


def photo_size(path: Path) -> tuple[int, int]:
    """Width and height in pixels of the upright picture; raises like `read_photo`."""
    _, size = _read(path)
    return size


def _read(path: Path) -> tuple[NDArray[np.uint8], tuple[int, int]]:
    import cv2

    try:
        if path.stat().st_size > MOST_BYTES:
            most = MOST_BYTES // 1_000_000
            raise MediaError(f"“{path.name}” is larger than {most} MB; that can't be used as a photo.")
        data = np.frombuffer(path.read_bytes(), np.uint8)
    except OSError as error:
        raise MediaError(f"“{path.name}” can't be read: {error.strerror}.") from None
    try:
        found = cv2.imdecode(data, cv2.IMREAD_COLOR) if len(data) else None
    except cv2.error:
        found = None
    if found is None:
        raise MediaError(f"“{path.name}” is no picture that can be read; PNG, JPEG and WebP can.")
    height, width = found.shape[:2]
    share = MOST_SIDE / max(height, width)
    if share < 1:
        size = (max(round(width * share), 1), max(round(height * share), 1))
        found = cv2.resize(found, size, interpolation=cv2.INTER_AREA)
    return np.asarray(cv2.cvtColor(found, cv2.COLOR_BGR2RGB), dtype=np.uint8), (width, height)
