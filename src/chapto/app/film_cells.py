"""Small pictures of footage side by side, each cut to its cell without being squeezed."""

from __future__ import annotations

from PyQt6.QtCore import QRectF
from PyQt6.QtGui import QImage, QPainter


def paint_cell(p: QPainter, cell: QRectF, image: QImage) -> None:
    """The middle of `image`, as much of it as has the shape of `cell`."""
    wide = min(image.width(), image.height() * cell.width() / cell.height())
    high = min(image.height(), image.width() * cell.height() / cell.width())
    p.drawImage(cell, image, QRectF((image.width() - wide) / 2, (image.height() - high) / 2, wide, high))
