"""What marks do to the picture itself, as the screen and the render both carry it out."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray
from PyQt6.QtCore import QRectF


@dataclass(frozen=True)
class Blur:
    """A round spot made unrecognisable: middle and radius in pixels of the programme's picture."""

    x: float
    y: float
    radius: float


@dataclass(frozen=True)
class Veil:
    """The picture dimmed to spruce: `mask` says by how much, 0…255, at a fourth of its size."""

    mask: NDArray[np.uint8]


@dataclass(frozen=True)
class Magnified:
    """What lies in `source` is shown in `target`, both in pixels of the programme's picture."""

    source: QRectF
    target: QRectF


Effect = Blur | Veil | Magnified
CELLS = 5
"""A covered spot keeps so many shades along its side: too few to tell anybody by."""
EDGE = 1.12
"""The cover reaches a little beyond the spot's radius, since its edge is soft."""
