"""Where the pictures of a file are full of what stands still: boards, banners, people at the wall. Slips keep off."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path

import numpy as np
from numpy.typing import NDArray

from chapto.errors import Cancelled
from chapto.media.cache import cache_file
from chapto.media.kept_arrays import keep_arrays, kept_arrays
from chapto.media.reader import FrameReader

ROWS, COLUMNS = 18, 32
PICTURES = 9
"""Pictures spread over the file: what is in most of them stands still."""
WIDTH, HEIGHT = 320, 180
FULL = 14.0
"""Mean slope in grey levels a pixel at which a cell is full."""
VERSION = 1


def still_detail(path: Path, fingerprint: str, *, cancelled: Callable[[], bool] = lambda: False) -> NDArray[np.float32]:
    """`ROWS` × `COLUMNS` cells of the upright picture as it was filmed, 0 (empty) … 1; kept in the cache. Raises
    `Cancelled` when stopped and `MediaError` when the file can't be read."""
    known = known_detail(fingerprint)
    if known is not None:
        return known
    found = _measured(path, cancelled)
    _read[_place(fingerprint)] = found
    keep_arrays(_place(fingerprint), {"cells": found})
    return found


def known_detail(fingerprint: str) -> NDArray[np.float32] | None:
    """What was found in a file before; None where nobody looked yet."""
    place = _place(fingerprint)
    if place in _read:
        return _read[place]
    kept = kept_arrays(place, "cells")
    if kept is None or kept["cells"].shape != (ROWS, COLUMNS):
        return None
    _read[place] = np.asarray(kept["cells"], dtype=np.float32)
    return _read[place]


_read: dict[Path, NDArray[np.float32]] = {}


def _place(fingerprint: str) -> Path:
    return cache_file("tracks", f"{fingerprint}-detail-{VERSION}", ".npz")


def _measured(path: Path, cancelled: Callable[[], bool]) -> NDArray[np.float32]:
    import cv2

    reader = FrameReader(path)
    try:
        some = []
        for k in range(PICTURES):
            if cancelled():
                raise Cancelled
            # A key picture near the place is found soonest.
            number = reader.key_before(round((k + 0.5) / PICTURES * (reader.frames - 1)))
            some.append(reader.picture(number, WIDTH, HEIGHT, "gray").to_ndarray()[:HEIGHT, :WIDTH])
    finally:
        reader.close()
    usual = np.asarray(np.median(np.array(some, np.float32), axis=0), dtype=np.float32)
    slope = np.hypot(cv2.Sobel(usual, cv2.CV_32F, 1, 0, scale=0.25), cv2.Sobel(usual, cv2.CV_32F, 0, 1, scale=0.25))
    cells = slope.reshape(ROWS, HEIGHT // ROWS, COLUMNS, WIDTH // COLUMNS).mean(axis=(1, 3))
    return np.asarray(np.clip(cells / FULL, 0, 1), dtype=np.float32)
