"""The way a bout went, drawn: the first's positions above, the second's below, an arc for every change."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from fractions import Fraction

from PyQt6.QtCore import QPointF, QRectF, Qt
from PyQt6.QtGui import QColor, QPainter, QPainterPath, QPen

from chapto.app.theme import text_font
from chapto.document.people import Side
from chapto.matlog.flow import GROUPS, Node, Step
from chapto.paint.colours import INK, INK_SOFT, PAPER
from chapto.paint.signs import side_sign

HEIGHT = 180.0


def paint_flow(
    p: QPainter, found: tuple[Step, ...], box: QRectF, kit: Callable[[Side | None], str]
) -> Iterator[tuple[QRectF, Fraction]]:
    """Paint the steps into `box`; yields a place to press for each, with the mat time it leads to."""
    top, foot = box.top() + 26, box.top() + 146
    wide = (box.width() - 70) / (len(GROUPS) - 1)

    def place(node: Node) -> QPointF:
        group, side = node
        y = {Side.FIRST: top, Side.SECOND: foot, None: (top + foot) / 2}[side]
        return QPointF(box.left() + 30 + GROUPS.index(group) * wide, y)

    for step in found:
        a, z = place(step.start), place(step.end)
        bend = 26.0 if a.y() == z.y() else 0.0
        rise = -bend if a.y() <= (top + foot) / 2 else bend
        path = QPainterPath(a)
        path.cubicTo(a + QPointF((z.x() - a.x()) * 0.3, rise), z + QPointF((a.x() - z.x()) * 0.3, rise), z)
        p.setPen(QPen(QColor(kit(step.end[1])), 1.2 + 1.2 * step.count))
        p.setBrush(Qt.BrushStyle.NoBrush)
        p.drawPath(path)
        middle = path.pointAtPercent(0.6)
        yield QRectF(middle.x() - 8, middle.y() - 8, 16, 16), step.at
    for node in {n for step in found for n in (step.start, step.end)}:
        _node(p, node, place(node), kit)


def _node(p: QPainter, node: Node, spot: QPointF, kit: Callable[[Side | None], str]) -> None:
    side_sign(p, spot, 6.5, node[1], kit(node[1]) if node[1] else INK_SOFT, edge=PAPER, width=2)
    p.setPen(QColor(INK))
    p.setFont(text_font(12))
    words = "belly" if node[0] == "knee on belly" else node[0]
    width = p.fontMetrics().horizontalAdvance(words) + 6
    name = QRectF(spot.x() - width / 2, spot.y() + (-25 if node[1] is Side.SECOND else 9), width, 16)
    p.fillRect(name, QColor(PAPER))
    p.drawText(name, Qt.AlignmentFlag.AlignCenter, words)
