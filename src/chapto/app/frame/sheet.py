"""A sheet of paper over the darkened window."""

from __future__ import annotations

from PyQt6.QtCore import QPointF, QRect, QRectF
from PyQt6.QtGui import QPainter

from chapto.paint.colours import DEEP, see_through
from chapto.paint.plates import plate


def paint_sheet(painter: QPainter, window: QRect, width: float, height: float) -> QRectF:
    """Darken `window` and lay a sheet in its middle; where it lies."""
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    painter.fillRect(window, see_through(DEEP, 190))
    sheet = QRectF(0, 0, width, height)
    sheet.moveCenter(QPointF(window.center()))
    plate(painter, sheet, 8)
    return sheet
