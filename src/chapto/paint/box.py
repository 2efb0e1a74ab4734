"""A small picture laid over the frame."""

from __future__ import annotations

from dataclasses import dataclass

from PyQt6.QtGui import QImage


@dataclass(frozen=True)
class Box:
    """A picture with its corner; `x` and `y` are even. `key` tells equal boxes."""

    key: str
    x: int
    y: int
    image: QImage
