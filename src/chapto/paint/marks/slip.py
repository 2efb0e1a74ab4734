"""A mark's slip: paper with its words, laced to the mark, in a place where it hides nothing that matters."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, field
from itertools import product
from math import cos, hypot, pi, sin

import numpy as np
from numpy.typing import NDArray
from PyQt6.QtCore import QPointF, QRectF, Qt
from PyQt6.QtGui import QColor, QFont, QFontMetricsF, QImage, QPainter, QPainterPath

from chapto.document.people import Side
from chapto.paint.colours import INK, INK_SOFT
from chapto.paint.lettering import cut, letters, tell
from chapto.paint.marks.strokes import dot_end, thread
from chapto.paint.places import SAFE
from chapto.paint.plates import blank, painter_on, plate
from chapto.paint.signs import side_sign

HIGH = 0.058
"""Share of the picture's height."""
WIDEST = 0.54
NEAR, FAR, RINGS, TURNS = 62.0, 250.0, 5, 20
"""Units from the mark at which a slip is tried, and how often."""


@dataclass(frozen=True)
class Slip:
    """What stands on a slip."""

    words: str
    fact: str
    side: Side | None
    colour: str


@dataclass
class Ground:
    """What a slip should not lie on: `solid` boxes never, `heads` hardly, `bodies` rather not; `detail` says where the
    picture itself is full, (rows, columns) 0…1."""

    solid: list[QRectF] = field(default_factory=list)
    heads: list[QRectF] = field(default_factory=list)
    bodies: list[QRectF] = field(default_factory=list)
    detail: NDArray[np.float32] | None = None


def slip_image(slip: Slip, picture: tuple[int, int]) -> QImage:
    """The slip as a premultiplied ARGB picture with even sides."""
    height = max(round(picture[1] * HIGH) // 2 * 2, 18)
    bold, plain = letters(height * 0.56), letters(height * 0.56, QFont.Weight.Normal)
    left = height * (0.82 if slip.side is not None else 0.36)
    room = picture[0] * WIDEST - left
    words = cut(slip.words, bold, room) if slip.words else ""
    wide = QFontMetricsF(bold).horizontalAdvance(words)
    gap = height * 0.3 if words and slip.fact else 0.0
    fact = cut(slip.fact, plain, max(room - wide - gap, height)) if slip.fact else ""
    beside = QFontMetricsF(plain).horizontalAdvance(fact)
    width = (int(left + wide + gap + beside + height * 0.4) + 3) // 2 * 2
    image = blank(width, height)
    p = painter_on(image)
    box = QRectF(1, 1, width - 2, height - 2)
    plate(p, box, height * 0.14)
    if slip.side is not None:
        side_sign(p, QPointF(height * 0.45, height / 2), height * 0.15, slip.side, slip.colour)
    both = Qt.AlignmentFlag.AlignVCenter | Qt.AlignmentFlag.AlignLeft
    p.setFont(bold)
    p.setPen(QColor(INK))
    p.drawText(QRectF(left, 0, wide + 4, height), both, words)
    p.setFont(plain)
    p.setPen(QColor(INK_SOFT))
    p.drawText(QRectF(left + wide + gap, 0, beside + 4, height), both, fact)
    p.end()
    tell(image, f"{slip.words} {slip.fact}".strip(), *((bold, plain) if slip.fact else (bold,)))
    return image


def placed(
    size: tuple[int, int], hangs: Sequence[QPointF], picture: tuple[int, int], ground: Ground, unit: float
) -> QRectF:
    """Where a slip of `size` lies that hangs from a mark at `hangs`, one place or several while it is shown: inside the
    middle 90 % (EBU R 95), clear of everything as far as can be."""
    middle = sum(hangs[1:], hangs[0]) / len(hangs)
    best, where = float("inf"), QRectF(0, 0, *size)
    for box in _tries(middle, size, picture, unit):
        cost = _cost(box, hangs, ground, picture, unit)
        if cost < best:
            best, where = cost, box
    return where


def _tries(middle: QPointF, size: tuple[int, int], picture: tuple[int, int], unit: float) -> Iterator[QRectF]:
    low = QPointF(picture[0] * SAFE, picture[1] * SAFE)
    high = QPointF(picture[0] * (1 - SAFE) - size[0], picture[1] * (1 - SAFE) - size[1])

    def kept(x: float, y: float) -> QRectF:
        x, y = min(max(x, low.x()), max(high.x(), low.x())), min(max(y, low.y()), max(high.y(), low.y()))
        return QRectF(round(x / 2) * 2, round(y / 2) * 2, *size)

    for ring, turn in product(range(RINGS), range(TURNS)):
        reach = (NEAR + (FAR - NEAR) * ring / (RINGS - 1)) * unit
        angle = 2 * pi * turn / TURNS
        # Its nearest edge lies at that distance, wherever it hangs.
        x = middle.x() + cos(angle) * (reach + size[0] / 2) - size[0] / 2
        y = middle.y() + sin(angle) * (reach + size[1] / 2) - size[1] / 2
        yield kept(x, y)


def _cost(box: QRectF, hangs: Sequence[QPointF], ground: Ground, picture: tuple[int, int], unit: float) -> float:
    area = box.width() * box.height()

    def covers(boxes: Sequence[QRectF]) -> float:
        return sum(c.width() * c.height() for b in boxes if not (c := box.intersected(b)).isEmpty()) / area

    far = max(_apart(box, at) for at in hangs) / (100 * unit)
    near = min(_apart(box, at) for at in hangs)
    cost = far + (2.0 if near < 24 * unit else 0)
    start = min((lace_start(box, at) for at in hangs), key=lambda s: hypot(s.x() - hangs[0].x(), s.y() - hangs[0].y()))
    crossed = _crossed(start, hangs[0], ground.solid) * 3 + _crossed(start, hangs[0], ground.heads)
    cost += 1.2 * crossed
    cost += 60 * covers(ground.solid) + 14 * covers(ground.heads) + 5 * covers(ground.bodies)
    if ground.detail is not None:
        rows, columns = ground.detail.shape
        top, foot = (int(np.clip(v / picture[1] * rows, 0, rows - 1)) for v in (box.top(), box.bottom()))
        left, right = (int(np.clip(v / picture[0] * columns, 0, columns - 1)) for v in (box.left(), box.right()))
        cost += 4.0 * float(ground.detail[top : foot + 1, left : right + 1].max())
    return cost


def _crossed(one: QPointF, other: QPointF, boxes: Sequence[QRectF]) -> int:
    """How many boxes a lace would go through."""
    steps = [one + (other - one) * (k / 12) for k in range(1, 11)]
    return sum(1 for box in boxes if any(box.contains(at) for at in steps))


def _apart(box: QRectF, at: QPointF) -> float:
    x = max(box.left() - at.x(), 0, at.x() - box.right())
    y = max(box.top() - at.y(), 0, at.y() - box.bottom())
    return hypot(x, y)


def lace(p: QPainter, box: QRectF, at: QPointF, unit: float) -> None:
    """The thread from a slip's edge to where it hangs, with a little sag."""
    start = lace_start(box, at)
    path = QPainterPath(start)
    sag = QPointF(0, 0.06 * hypot(at.x() - start.x(), at.y() - start.y()))
    path.quadTo((start + at) / 2 + sag, at)
    thread(p, path, unit, width=2.0)
    dot_end(p, start, unit)


def lace_start(box: QRectF, at: QPointF) -> QPointF:
    """Where on a slip's edge its lace is tied."""
    if box.left() + 8 <= at.x() <= box.right() - 8:
        return QPointF(at.x(), box.top() if at.y() < box.center().y() else box.bottom())
    x = box.left() if at.x() < box.left() + 8 else box.right()
    return QPointF(x, min(max(at.y(), box.top() + box.height() * 0.3), box.bottom() - box.height() * 0.3))
