"""A title card: words on paper, between the two athletes' threads."""

from __future__ import annotations

from PyQt6.QtCore import QPointF, QRectF, Qt
from PyQt6.QtGui import QColor, QFont, QImage, QPainter, QPen

from chapto.paint.colours import INK, INK_SOFT, PAPER, PAPER_LINE
from chapto.paint.fonts import TEXT, load_fonts


def card_image(title: str, under: str, *, picture: tuple[int, int], threads: tuple[str, str] | None) -> QImage:
    """The card, RGB32, `picture` (width, height) in size; `threads` are the athletes' colours, None for a
    card without laces."""
    load_fonts()
    width, height = picture
    image = QImage(width, height, QImage.Format.Format_RGB32)
    image.fill(QColor(PAPER))
    painter = QPainter(image)
    painter.setRenderHints(QPainter.RenderHint.Antialiasing | QPainter.RenderHint.TextAntialiasing)
    if threads is not None:
        _threads(painter, width, height, threads)
    font = QFont(TEXT)
    font.setWeight(QFont.Weight.DemiBold)
    font.setPixelSize(round(height * 0.085))
    painter.setFont(font)
    painter.setPen(QColor(INK))
    rows = under.count("\n") + 1
    line = 1.45 * height * 0.042
    foot = min(height * 0.56, height * 0.74 - rows * line)
    box = QRectF(width * 0.1, height * 0.1, width * 0.8, foot - height * 0.1)
    below = QRectF(width * 0.1, foot + height * 0.025, width * 0.8, height * 0.76 - foot)
    flags = Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignBottom | Qt.TextFlag.TextWordWrap
    painter.drawText(box, flags, title)
    font.setWeight(QFont.Weight.Medium)
    font.setPixelSize(round(height * 0.042))
    painter.setFont(font)
    painter.setPen(QColor(INK_SOFT))
    painter.drawText(below, Qt.AlignmentFlag.AlignLeft | Qt.TextFlag.TextWordWrap, under)
    painter.end()
    return image


def _threads(painter: QPainter, width: int, height: int, threads: tuple[str, str]) -> None:
    """Two rails and the laces between them, at the foot of the card."""
    top, foot = height * 0.80, height * 0.90
    painter.setPen(QPen(QColor(PAPER_LINE), max(height / 240, 1.5)))
    for y in (top, foot):
        painter.drawLine(QPointF(width * 0.1, y), QPointF(width * 0.9, y))
    step = width * 0.8 / 24
    for i in range(25):
        lean = step * 0.9 if i % 6 == 3 else 0.0
        painter.setPen(QPen(QColor(threads[i % 2]), max(height / 180, 2.0)))
        x = width * 0.1 + i * step
        painter.drawLine(QPointF(min(x + lean, width * 0.9), top), QPointF(x, foot))
