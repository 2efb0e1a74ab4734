"""One picture of footage on the screen, where its lens says."""

from __future__ import annotations

from PyQt6.QtCore import QRect
from PyQt6.QtGui import QImage, QPainter, QTransform

from chapto.paint.lens import Lens


def lay_picture(painter: QPainter, area: QRect, size: tuple[int, int], lens: Lens, image: QImage) -> None:
    """Paint `image`, the picture of a file as it fills its lens's place, into `area`, which shows a programme's picture
    of `size`."""
    painter.save()
    if not lens.is_plain:
        box = lens.seen()
        painter.setClipRect(_on(area, (box.x(), box.y(), box.width(), box.height()), size))
        m, sx, sy = lens.matrix(), area.width() / size[0], area.height() / size[1]
        there = QTransform(m[0, 0], m[1, 0], m[0, 1], m[1, 1], m[0, 2], m[1, 2])
        into = QTransform(sx, 0, 0, sy, area.x(), area.y())
        back = into.inverted()[0]
        painter.setTransform(back * there * into, combine=True)
    painter.drawImage(_on(area, lens.place, size), image)
    painter.restore()


def _on(area: QRect, place: tuple[float, float, float, float], size: tuple[int, int]) -> QRect:
    """A place in a frame of `size`, on the screen."""
    sx, sy = area.width() / size[0], area.height() / size[1]
    x, y, w, h = place
    return QRect(round(area.x() + x * sx), round(area.y() + y * sy), round(w * sx), round(h * sy))
