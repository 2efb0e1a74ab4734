"""The control strip as a box in the video: the round's strip on a dark plate, and a marker where the picture is."""

from __future__ import annotations

from fractions import Fraction

from PyQt6.QtCore import QRectF
from PyQt6.QtGui import QColor, QImage, QPainter

from chapto.document.bout import Round
from chapto.document.breakdown import Breakdown
from chapto.document.people import Side
from chapto.lexicon.lexicon import Lexicon
from chapto.paint.colours import DEEP, PAPER
from chapto.paint.control import control_blocks, paint_control

WIDE, HIGH = 0.42, 0.075
"""Share of the picture's width and height that the strip takes."""


def strip_size(picture: tuple[int, int]) -> tuple[int, int]:
    """Even width and height in pixels for a picture of that size."""
    return round(picture[0] * WIDE) // 2 * 2, round(picture[1] * HIGH) // 2 * 2


def control_image(b: Breakdown, within: Round, picture: tuple[int, int], lexicon: Lexicon) -> QImage:
    """The strip of one round, premultiplied ARGB, `strip_size` pixels."""
    width, height = strip_size(picture)
    image = QImage(width, height, QImage.Format.Format_ARGB32_Premultiplied)
    image.fill(0)
    p = QPainter(image)
    p.setRenderHint(QPainter.RenderHint.Antialiasing)
    plate = QColor(DEEP)
    plate.setAlpha(200)
    p.setBrush(plate)
    p.setPen(QColor(0, 0, 0, 0))
    p.drawRoundedRect(QRectF(0, 0, width, height), 4, 4)
    start, length = float(within.start), float(within.end - within.start)
    blocks = [x for x in control_blocks(b, lexicon) if x.end > start and x.start < start + length]
    area = QRectF(4, 3, width - 8, height - 6)
    kits = (b.athlete(Side.FIRST, within.start).kit_colour, b.athlete(Side.SECOND, within.start).kit_colour)
    paint_control(p, blocks, area, lambda mat: 4 + (mat - start) / length * (width - 8), kits, names=False)
    p.end()
    return image


def marker_place(within: Round, mat: Fraction, picture: tuple[int, int]) -> int:
    """Even pixel of the marker inside the strip."""
    width, _ = strip_size(picture)
    return int(4 + float((mat - within.start) / (within.end - within.start)) * (width - 10)) // 2 * 2


def marker_image(picture: tuple[int, int]) -> QImage:
    """The marker: a slip of paper as high as the strip."""
    image = QImage(2, strip_size(picture)[1], QImage.Format.Format_ARGB32_Premultiplied)
    image.fill(QColor(PAPER))
    return image
