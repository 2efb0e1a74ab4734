"""Letters on a picture or a widget: fonts by pixels, and words cut to their room."""

from __future__ import annotations

from PyQt6.QtCore import QRectF, Qt
from PyQt6.QtGui import QColor, QFont, QFontMetricsF, QPainter

from chapto.paint.fonts import TEXT, load_fonts

LEFT, RIGHT, MIDDLE = Qt.AlignmentFlag.AlignLeft, Qt.AlignmentFlag.AlignRight, Qt.AlignmentFlag.AlignCenter


def letters(pixels: float, weight: QFont.Weight = QFont.Weight.DemiBold, family: str = TEXT) -> QFont:
    """A font by its height in pixels of the picture."""
    load_fonts()
    font = QFont(family)
    font.setWeight(weight)
    font.setPixelSize(max(round(pixels), 8))
    return font


def cut(text: str, font: QFont, room: float) -> str:
    """The text as far as `room` pixels go, with an ellipsis where it is cut."""
    return QFontMetricsF(font).elidedText(text, Qt.TextElideMode.ElideRight, room)


def write(p: QPainter, box: QRectF, text: str, colour: str, align: Qt.AlignmentFlag = LEFT) -> float:
    """Write one line in the painter's font, cut to `box` and upright in its middle; the pixels it takes."""
    shown = cut(text, p.font(), box.width())
    p.setPen(QColor(colour))
    p.drawText(box, Qt.AlignmentFlag.AlignVCenter | align, shown)
    return QFontMetricsF(p.font()).horizontalAdvance(shown)
