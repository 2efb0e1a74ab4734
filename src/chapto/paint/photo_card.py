"""Photos in the place of the picture, alone or two beside each other, and small ones over it."""

from __future__ import annotations

from collections.abc import Sequence

from PyQt6.QtCore import QRectF, Qt
from PyQt6.QtGui import QColor, QFont, QImage, QPainter

from chapto.paint.colours import DEEP, INK_SOFT, PAPER
from chapto.paint.fonts import TEXT, load_fonts

NEARER = 0.12
"""By this share a photo is larger at the end of a slow push-in."""
MAT = 0.035
"""Paper round a photo, as a share of the picture's height."""


def photo_card(photos: Sequence[tuple[str, QImage | None]], size: tuple[int, int], pushed: float = 0.0) -> QImage:
    """One photo, or two in halves, each whole and on a mat of paper, on a picture of `size`: RGB32. `photos` have their
    names, which are said where a picture is missing; `pushed` is how much of the push-in is done, 0…1."""
    load_fonts()
    width, height = size
    made = QImage(width, height, QImage.Format.Format_RGB32)
    made.fill(QColor(DEEP))
    painter = QPainter(made)
    painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
    margin = height * MAT * 2
    room = (width - margin * (len(photos) + 1)) / len(photos)
    for i, (name, image) in enumerate(photos):
        box = QRectF(margin + i * (room + margin), margin, room, height - 2 * margin)
        _one(painter, box, name, image, height * MAT / 2, pushed)
    painter.end()
    return made


def _one(painter: QPainter, box: QRectF, name: str, image: QImage | None, paper: float, pushed: float) -> None:
    if image is None:
        painter.fillRect(box, QColor(PAPER))
        font = QFont(TEXT)
        font.setPixelSize(max(round(box.height() * 0.04), 8))
        painter.setFont(font)
        painter.setPen(QColor(INK_SOFT))
        flags = Qt.AlignmentFlag.AlignCenter | Qt.TextFlag.TextWordWrap
        painter.drawText(box, flags, f"The photo “{name}” is missing.")
        return
    share = min((box.width() - 2 * paper) / image.width(), (box.height() - 2 * paper) / image.height())
    w, h = image.width() * share, image.height() * share
    place = QRectF(box.center().x() - w / 2, box.center().y() - h / 2, w, h)
    painter.fillRect(place.adjusted(-paper, -paper, paper, paper), QColor(PAPER))
    zoom = 1 + NEARER * pushed
    inner_w, inner_h = image.width() / zoom, image.height() / zoom
    source = QRectF((image.width() - inner_w) / 2, (image.height() - inner_h) / 2, inner_w, inner_h)
    painter.drawImage(place, image, source)


def photo_box(image: QImage, size: tuple[int, int]) -> QImage:
    """A photo with its edge of paper, as large as it fits into `size` (even sides), for laying over the picture."""
    edge = 2
    share = min((size[0] - 2 * edge) / image.width(), (size[1] - 2 * edge) / image.height())
    w, h = (max(round(v * share) // 2 * 2, 2) for v in (image.width(), image.height()))
    made = QImage(w + 2 * edge, h + 2 * edge, QImage.Format.Format_ARGB32_Premultiplied)
    made.fill(QColor(PAPER))
    painter = QPainter(made)
    painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
    painter.drawImage(QRectF(edge, edge, w, h), image)
    painter.end()
    return made
