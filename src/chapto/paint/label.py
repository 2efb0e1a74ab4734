"""A technique label: a slip of paper with ink letters, hung on a short lace."""

from __future__ import annotations

from PyQt6.QtCore import QPointF, QRectF, Qt
from PyQt6.QtGui import QColor, QFontMetricsF, QImage

from chapto.document.people import Side
from chapto.paint.colours import INK
from chapto.paint.lettering import cut, letters, tell
from chapto.paint.plates import blank, painter_on, plate
from chapto.paint.signs import side_sign


def label_height(picture_height: int) -> int:
    """Pixels of one label row, even, for a picture of that height."""
    return max(round(picture_height * 0.066) // 2 * 2, 20)


def label_image(text: str, *, picture: tuple[int, int], by: Side | None = None, colour: str = "") -> QImage:
    """The label as a premultiplied ARGB picture with even sides, never wider than the middle 90 %. It carries the sign
    (disc or square) and the colour of who does what it names, and no sign where that is not known."""
    height = label_height(picture[1])
    font = letters(height * 0.56)
    metrics = QFontMetricsF(font)
    left = height * (0.82 if by is not None else 0.38)
    room = picture[0] * 0.9 - left - height * 0.38
    shown = cut(text, font, room)
    width = (int(metrics.horizontalAdvance(shown) + left + height * 0.38) + 3) // 2 * 2
    image = blank(width, height)
    painter = painter_on(image)
    slip = QRectF(1, 1, width - 2, height - 2)
    plate(painter, slip, height * 0.16)
    if by is not None:
        side_sign(painter, QPointF(height * 0.46, height / 2), height * 0.15, by, colour)
    painter.setFont(font)
    painter.setPen(QColor(INK))
    words = slip.adjusted(left, 0, 0, 0)
    painter.drawText(words, Qt.AlignmentFlag.AlignVCenter | Qt.AlignmentFlag.AlignLeft, shown)
    painter.end()
    tell(image, text, font)
    return image
