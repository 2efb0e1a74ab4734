"""Letters on a picture or a widget: fonts by pixels, and words cut to their room."""

from __future__ import annotations

from PyQt6.QtCore import QRectF, Qt
from PyQt6.QtGui import QColor, QFont, QFontMetricsF, QImage, QPainter

from chapto.paint.fonts import TEXT, load_fonts

WORDS, SMALLEST = "words", "smallest letters"
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


def tell(image: QImage, words: str, *fonts: QFont) -> None:
    """Note on a picture which words stand on it, and in which fonts, for what looks at it."""
    image.setText(WORDS, words)
    image.setText(SMALLEST, str(min(font.pixelSize() for font in fonts)))


def told(image: QImage) -> tuple[str, float] | None:
    """The words that stand on a picture and the height of its smallest letters in pixels; None where there are none."""
    high = image.text(SMALLEST)
    return (image.text(WORDS), float(high)) if high else None
