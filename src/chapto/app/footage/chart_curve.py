"""A curve over time in a box: the highest value in each column of pixels."""

from __future__ import annotations

from typing import Any

import numpy as np
from numpy.typing import NDArray
from PyQt6.QtCore import QPointF, QRectF, Qt
from PyQt6.QtGui import QColor, QPainter, QPen, QPolygonF

Curve = NDArray[np.floating[Any]]


def paint_curve(
    p: QPainter,
    times: Curve,
    values: Curve,
    seconds: float,
    box: QRectF,
    span: tuple[float, float],
    colour: QColor,
    *,
    line: bool,
) -> None:
    """Paint `values` (0…1) at `times` into `box`, which stands for `seconds`, as far as it lies in pixels `span`; as a
    line or filled."""
    first, last = span
    columns = int(last - first)
    if not len(values) or columns < 1:
        return
    edges = (first - box.left() + np.arange(columns + 1)) / box.width() * seconds
    index = np.clip(np.searchsorted(times, edges), 0, len(values) - 1)
    highest = np.maximum.reduceat(values[: index[-1] + 1], index[:-1])
    points = [QPointF(first + i, box.bottom() - float(v) * box.height()) for i, v in enumerate(highest)]
    if line:
        p.setPen(QPen(colour, 1.2))
        p.setBrush(Qt.BrushStyle.NoBrush)
        p.drawPolyline(QPolygonF(points))
    else:
        p.setPen(Qt.PenStyle.NoPen)
        p.setBrush(colour)
        p.drawPolygon(QPolygonF([QPointF(first, box.bottom()), *points, QPointF(last, box.bottom())]))
