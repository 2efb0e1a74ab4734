"""A caption painted into the picture, for where nobody can switch one on."""

from __future__ import annotations

from PyQt6.QtCore import QRectF, Qt
from PyQt6.QtGui import QColor, QFontMetricsF, QImage

from chapto.paint.colours import DEEP, ON_DARK
from chapto.paint.lettering import letters, tell
from chapto.paint.places import SAFE
from chapto.paint.plates import blank, painter_on, plate

HIGH = 0.052
"""Height of its letters as a share of the picture's shorter side: on a phone held upright they are as large as those of
a printed page at arm's length (common practice)."""


def caption_image(text: str, picture: tuple[int, int]) -> QImage:
    """The caption on a dark plate, at most as wide as the safe area, broken where it was or where it has to be."""
    unit = min(picture) * HIGH
    font = letters(unit)
    flags = Qt.AlignmentFlag.AlignCenter | Qt.TextFlag.TextWordWrap
    room = QRectF(0, 0, picture[0] * (1 - 2 * SAFE) - unit * 1.4, picture[1])
    words = QFontMetricsF(font).boundingRect(room, flags, text)
    width, height = (int(v + 3) // 2 * 2 for v in (words.width() + unit * 1.4, words.height() + unit * 0.7))
    image = blank(width, height)
    p = painter_on(image)
    ground = QColor(DEEP)
    ground.setAlpha(225)
    plate(p, QRectF(0, 0, width, height), unit * 0.22, ground, "")
    p.setFont(font)
    p.setPen(QColor(ON_DARK))
    p.drawText(QRectF(0, 0, width, height), flags, text)
    p.end()
    tell(image, text, font)
    return image
