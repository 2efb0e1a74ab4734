"""A sheet of paper over the darkened window."""

from __future__ import annotations

from PyQt6.QtCore import QPointF, QRect, QRectF
from PyQt6.QtGui import QColor, QPainter, QPen

from chapto.paint.colours import PAPER, PAPER_LINE


def paint_sheet(painter: QPainter, window: QRect, width: float, height: float) -> QRectF:
    """Darken `window` and lay a sheet in its middle; where it lies."""
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    painter.fillRect(window, QColor(16, 23, 21, 190))
    sheet = QRectF(0, 0, width, height)
    sheet.moveCenter(QPointF(window.center()))
    painter.setPen(QPen(QColor(PAPER_LINE), 1))
    painter.setBrush(QColor(PAPER))
    painter.drawRoundedRect(sheet, 8, 8)
    return sheet
