"""The picture that stands for a video: a frame of it, and a title on a slip of paper where least happens."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray
from PyQt6.QtCore import QPointF, QRectF, Qt
from PyQt6.QtGui import QColor, QFont, QFontMetricsF, QImage, QPainter, QPen

from chapto.paint.colours import INK, PAPER, PAPER_LINE
from chapto.paint.lettering import letters
from chapto.paint.plates import painter_on, plate

SIZE = (1280, 720)
SIZES = (116, 104, 94, 84)
"""Pixels of the letters. At 168 pixels' width, as lists show it, the smallest are 11 high."""
ROOM = 0.62
"""Share of the width a title takes at most."""
LINES = 3
MARGIN = 40
CORNERS = ((0, 0), (1, 0), (0, 1), (1, 1))
"""Left or right, top or foot."""
COVERS, SMALLER = 4.0, 0.3
"""How much it counts that a slip lies over the two, and that its letters are smaller."""
EVERYBODY = QRectF(0, 0, 0, 0)


@dataclass(frozen=True)
class _Slip:
    """A title as it could stand: its font, its lines, and where its paper lies."""

    font: QFont
    lines: tuple[str, ...]
    box: QRectF


def thumbnail_image(frame: QImage, title: str, laces: tuple[str, str], bodies: QRectF = EVERYBODY) -> QImage:
    """`frame` at 1280×720 with the title; without one the frame alone. `laces` are the two athletes' colours, `bodies`
    is where the two are (0…1 of the frame)."""
    made = frame.scaled(
        *SIZE, Qt.AspectRatioMode.KeepAspectRatioByExpanding, Qt.TransformationMode.SmoothTransformation
    )
    whole = made.size()
    made = made.copy((made.width() - SIZE[0]) // 2, (made.height() - SIZE[1]) // 2, *SIZE)
    made = made.convertToFormat(QImage.Format.Format_RGB32)
    if title.strip():
        there = QRectF(
            bodies.x() * whole.width() - (whole.width() - SIZE[0]) / 2,
            bodies.y() * whole.height() - (whole.height() - SIZE[1]) / 2,
            bodies.width() * whole.width(),
            bodies.height() * whole.height(),
        )
        _paint(made, _best(made, title.strip(), there), laces)
    return made


def fits(title: str) -> bool:
    """Whether a title can be read where it is small."""
    return any(_broken(title, QFontMetricsF(letters(size, QFont.Weight.Bold))) for size in SIZES)


def _broken(title: str, metrics: QFontMetricsF) -> list[str] | None:
    """The title over as few lines as its room allows; None where `LINES` are not enough."""
    lines: list[str] = []
    for word in title.split():
        longer = f"{lines[-1]} {word}" if lines else word
        if lines and metrics.horizontalAdvance(longer) <= SIZE[0] * ROOM:
            lines[-1] = longer
        else:
            lines.append(word)
    fit = len(lines) <= LINES and all(metrics.horizontalAdvance(line) <= SIZE[0] * ROOM for line in lines)
    return lines if fit else None


def _best(image: QImage, title: str, there: QRectF) -> _Slip:
    """The slip that hides least of the two and of what else happens, with letters as large as that allows."""
    detail = _detail(image)
    mean = max(float(detail.mean()), 1e-6)

    def cost(slip: _Slip) -> float:
        rows = slice(max(int(slip.box.top() / 8), 0), int(slip.box.bottom() / 8) + 1)
        columns = slice(max(int(slip.box.left() / 8), 0), int(slip.box.right() / 8) + 1)
        hidden = slip.box.intersected(there)
        share = hidden.width() * hidden.height() / max(there.width() * there.height(), 1.0)
        smaller = (SIZES[0] - slip.font.pixelSize()) / SIZES[0]
        return COVERS * share + float(detail[rows, columns].mean()) / mean * 0.3 + SMALLER * smaller

    return min(_slips(title), key=cost)


def _slips(title: str) -> list[_Slip]:
    found = []
    for size in SIZES:
        font = letters(size, QFont.Weight.Bold)
        metrics = QFontMetricsF(font)
        lines = _broken(title, metrics)
        if lines is None and size == SIZES[-1]:
            lines = [metrics.elidedText(title, Qt.TextElideMode.ElideRight, SIZE[0] * ROOM)]
        if lines is None:
            continue
        width = max(metrics.horizontalAdvance(line) for line in lines) + size * 0.6
        height = size * (1.02 * len(lines) + 0.45)
        for right, foot in CORNERS:
            left = SIZE[0] - MARGIN - width if right else MARGIN
            top = SIZE[1] - MARGIN - height if foot else MARGIN
            found.append(_Slip(font, tuple(lines), QRectF(left, top, width, height)))
    return found


def _paint(image: QImage, slip: _Slip, laces: tuple[str, str]) -> None:
    p = painter_on(image)
    _laces(p, slip.box, laces)
    plate(p, slip.box, 10, PAPER, PAPER_LINE, 2)
    p.setFont(slip.font)
    p.setPen(QColor(INK))
    size = slip.font.pixelSize()
    for i, line in enumerate(slip.lines):
        row = QRectF(slip.box.left() + size * 0.3, slip.box.top() + size * (0.18 + 1.02 * i), slip.box.width(), size)
        p.drawText(row, Qt.AlignmentFlag.AlignVCenter | Qt.AlignmentFlag.AlignLeft, line)
    p.end()


def _laces(p: QPainter, box: QRectF, colours: tuple[str, str]) -> None:
    """Two laces on which the slip hangs, from the edge of the picture it is nearest to."""
    top = box.center().y() < SIZE[1] / 2
    for i, colour in enumerate(colours):
        x = box.left() + box.width() * (0.14 + 0.1 * i)
        ends = (0.0, box.top() + 6) if top else (box.bottom() - 6, float(SIZE[1]))
        p.setPen(QPen(QColor(colour), 9, cap=Qt.PenCapStyle.FlatCap))
        p.drawLine(QPointF(x, ends[0]), QPointF(x, ends[1]))


def _detail(image: QImage) -> NDArray[np.float32]:
    """How much changes from pixel to pixel, in cells of 8×8."""
    small = image.convertToFormat(QImage.Format.Format_Grayscale8)
    bits = small.constBits()
    assert bits is not None
    grey = np.frombuffer(bits.asstring(small.sizeInBytes()), np.uint8).reshape(small.height(), small.bytesPerLine())
    rows = grey[: SIZE[1], : SIZE[0]].astype(np.float32)
    change = np.abs(np.diff(rows, axis=0, append=rows[-1:])) + np.abs(np.diff(rows, axis=1, append=rows[:, -1:]))
    return np.asarray(change.reshape(SIZE[1] // 8, 8, SIZE[0] // 8, 8).mean(axis=(1, 3)), dtype=np.float32)
