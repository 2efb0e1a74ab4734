"""Slips of paper with letters on them, the ground of every word on the picture and of much in the window."""

from __future__ import annotations

from PyQt6.QtCore import QPointF, QRectF, Qt
from PyQt6.QtGui import QBrush, QColor, QFont, QFontMetricsF, QImage, QPainter, QPen

from chapto.document.people import Side
from chapto.paint.colours import INK, INK_SOFT, PAPER, PAPER_LINE, TIES
from chapto.paint.fonts import load_fonts
from chapto.paint.lettering import cut, letters, tell
from chapto.paint.places import SAFE
from chapto.paint.signs import side_sign
from chapto.programme.programme import TieState


def blank(width: int, height: int) -> QImage:
    """A clear premultiplied ARGB picture."""
    image = QImage(width, height, QImage.Format.Format_ARGB32_Premultiplied)
    image.fill(0)
    return image


def painter_on(image: QImage) -> QPainter:
    """A painter with smooth edges."""
    load_fonts()
    painter = QPainter(image)
    painter.setRenderHints(QPainter.RenderHint.Antialiasing | QPainter.RenderHint.TextAntialiasing)
    return painter


def plate(
    p: QPainter,
    box: QRectF,
    corner: float,
    fill: str | QColor | QBrush = PAPER,
    edge: str | QColor = PAPER_LINE,
    width: float = 1,
) -> None:
    """A slip of paper, or of another colour; without an `edge` its line is left out."""
    p.setPen(QPen(QColor(edge), width) if edge else Qt.PenStyle.NoPen)
    p.setBrush(fill if isinstance(fill, QBrush) else QColor(fill))
    p.drawRoundedRect(box, corner, corner)


def name_image(name: str, under: str, side: Side | None, colour: str, picture: tuple[int, int]) -> QImage:
    """A name with a second, smaller line, at most 44 % of the picture wide."""
    unit = picture[1] * 0.105
    font, small = letters(unit * 0.42), letters(unit * 0.32, QFont.Weight.Medium)
    room = picture[0] * 0.44 - unit * 1.0
    title = cut(name, font, room)
    line = cut(under, small, room)
    wide = max(QFontMetricsF(font).horizontalAdvance(title), QFontMetricsF(small).horizontalAdvance(line))
    width, height = int(wide + unit * 1.0 + 3) // 2 * 2, int(unit) // 2 * 2
    image = blank(width, height)
    p = painter_on(image)
    plate(p, QRectF(1, 1, width - 2, height - 2), height * 0.1)
    middle = height / 2 if not line else height * 0.36
    side_sign(p, QPointF(height * 0.4, middle), height * 0.13, side, colour)
    p.setFont(font)
    p.setPen(QColor(INK))
    left = height * 0.72
    both = Qt.AlignmentFlag.AlignVCenter | Qt.AlignmentFlag.AlignLeft
    p.drawText(QRectF(left, height * 0.06, width, height * (0.6 if line else 0.88)), both, title)
    p.setFont(small)
    p.setPen(QColor(INK_SOFT))
    p.drawText(QRectF(left, height * 0.6, width, height * 0.3), both, line)
    p.end()
    tell(image, name, *((font, small) if line else (font,)))
    return image


def caution_image(text: str, picture: tuple[int, int]) -> QImage:
    """A line of care, broken over as many lines as it needs, as wide as the safe area, with an amber edge."""
    unit = picture[1] * 0.036
    font = letters(unit, QFont.Weight.Medium)
    width = int(picture[0] * (1 - 2 * SAFE)) // 2 * 2 - 4
    flags = Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignVCenter | Qt.TextFlag.TextWordWrap
    inner = QRectF(0, 0, width - unit * 2.2, picture[1])
    high = QFontMetricsF(font).boundingRect(inner, flags, text).height()
    height = int(high + unit * 1.3 + 1) // 2 * 2
    image = blank(width, height)
    p = painter_on(image)
    plate(p, QRectF(1, 1, width - 2, height - 2), unit * 0.25)
    p.fillRect(QRectF(1, unit * 0.3, unit * 0.3, height - unit * 0.6), QColor(TIES[TieState.LATE]))
    p.setFont(font)
    p.setPen(QColor(INK))
    p.drawText(QRectF(unit * 1.2, 0, width - unit * 2.0, height), flags, text)
    p.end()
    tell(image, text, font)
    return image


def head_image(title: str, picture: tuple[int, int]) -> QImage:
    """A title on a slip of paper, over as many lines as it needs."""
    unit = min(picture) * 0.062
    font = letters(unit, QFont.Weight.Bold)
    flags = Qt.AlignmentFlag.AlignCenter | Qt.TextFlag.TextWordWrap
    room = QRectF(0, 0, picture[0] * (1 - 2 * SAFE) - unit * 1.4, picture[1] * 0.3)
    words = QFontMetricsF(font).boundingRect(room, flags, title)
    width, height = (int(v + 3) // 2 * 2 for v in (words.width() + unit * 1.4, words.height() + unit * 0.7))
    image = blank(width, height)
    p = painter_on(image)
    plate(p, QRectF(1, 1, width - 2, height - 2), unit * 0.2)
    p.setFont(font)
    p.setPen(QColor(INK))
    p.drawText(QRectF(0, 0, width, height), flags, title)
    p.end()
    tell(image, title, font)
    return image
