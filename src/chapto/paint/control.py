"""The control strip: who controls, above the line or below it, and how dominant the position is.

Painted the same on the screen and into a picture.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass

from PyQt6.QtCore import QLineF, QPointF, QRectF, Qt
from PyQt6.QtGui import QBrush, QColor, QFont, QPainter, QPen

from chapto.document.breakdown import Breakdown
from chapto.document.people import Side
from chapto.lexicon.lexicon import Lexicon
from chapto.matlog.control import controller
from chapto.paint.colours import ON_DARK, ON_DARK_SOFT, SPRUCE_LINE, readable_on
from chapto.paint.lettering import cut, letters
from chapto.paint.plates import plate
from chapto.paint.signs import side_sign

HIGHEST = 9


@dataclass(frozen=True, slots=True)
class ControlBlock:
    """One position: mat seconds, its name, who controls (None: nobody) and how dominant it is, 0 to 10."""

    start: float
    end: float
    name: str
    side: Side | None
    level: int
    top: Side | None


def control_blocks(b: Breakdown, lexicon: Lexicon) -> tuple[ControlBlock, ...]:
    """The position track of `b` as blocks."""
    blocks = []
    for p in b.positions:
        known = lexicon.position(p.position)
        side, level = controller(p.position, p.top, lexicon)
        name = known.en if known else p.position
        blocks.append(ControlBlock(float(p.start), float(p.end), name, side, level, p.top))
    return tuple(blocks)


def paint_control(
    p: QPainter,
    blocks: Sequence[ControlBlock],
    box: QRectF,
    x: Callable[[float], float],
    kits: tuple[str, str],
    *,
    names: bool = True,
) -> None:
    """Paint `blocks` into `box`; `x` gives the pixel of a mat second, `kits` both kit colours. `names` puts the
    positions' names where there is room."""
    middle = box.center().y()
    half = box.height() / 2
    for block in blocks:
        a, z = max(x(block.start), box.left()), min(x(block.end), box.right())
        if z <= a:
            continue
        side = block.side
        kit = kits[0 if side is Side.FIRST else 1] if side else SPRUCE_LINE
        height = half * block.level / HIGHEST if side else 5.0
        top = middle - height if side is not Side.SECOND else middle
        shape = QRectF(a + 0.5, top - (0 if side else -2.5), max(z - a - 1, 1.5), height)
        plate(p, shape, 2, kit, "")
        if names:
            _name(p, block, shape, box, kit if side else "", middle)
    p.setPen(QPen(QColor(ON_DARK_SOFT), 1))
    p.drawLine(QLineF(box.left(), middle, box.right(), middle))


def paint_unsure(p: QPainter, box: QRectF, a: float, z: float) -> None:
    """A stretch of a round in which nothing is known."""
    p.fillRect(QRectF(a, box.top(), z - a, box.height()), QBrush(QColor(SPRUCE_LINE), Qt.BrushStyle.BDiagPattern))


def _name(p: QPainter, block: ControlBlock, shape: QRectF, box: QRectF, kit: str, middle: float) -> None:
    font = letters(12, QFont.Weight.Medium)
    p.setFont(font)
    inside = shape.height() >= 15 and bool(kit)
    room = shape.width() - (18 if inside else 6)
    shown = cut(block.name, font, room)
    if len(shown) < 4:
        return
    if inside:
        colour = readable_on(kit)
        sign = QPointF(shape.left() + 9, shape.center().y())
        side_sign(p, sign, 3.4, block.side, colour)
        p.setPen(QColor(colour))
        p.drawText(shape.adjusted(16, 0, 0, 0), Qt.AlignmentFlag.AlignVCenter, shown)
        return
    p.setPen(QColor(ON_DARK if kit else ON_DARK_SOFT))
    above = block.side is Side.SECOND
    line = QRectF(shape.left() + 3, middle - 17 if above else middle + 2, shape.width(), 15)
    p.drawText(line, Qt.AlignmentFlag.AlignVCenter, shown)
