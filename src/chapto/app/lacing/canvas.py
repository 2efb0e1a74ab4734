"""Where the lacing's parts are drawn: a painter, its axis and rows, and letters that stay in sight."""

from __future__ import annotations

from PyQt6.QtCore import QRectF, Qt
from PyQt6.QtGui import QColor, QFont, QFontMetricsF, QPainter

from chapto.app.axis import Axis
from chapto.app.lacing.detail import thinned
from chapto.app.lacing.model import LacingModel
from chapto.app.lacing.rows import rows_for
from chapto.paint.lettering import cut

LEAST = 9.0
"""Pixels under which nothing can be read."""
_widths: dict[tuple[int, str], float] = {}


def width_of(font: QFont, text: str) -> float:
    """Pixels a text takes in one of the theme's fonts, which are the same objects for good."""
    key = id(font), text
    if key not in _widths:
        if len(_widths) > 20_000:
            _widths.clear()
        _widths[key] = QFontMetricsF(font).horizontalAdvance(text)
    return _widths[key]


class Canvas:
    """A painter over one model at one axis. `chosen` is the beat being written."""

    def __init__(self, painter: QPainter, model: LacingModel, axis: Axis, height: float, chosen: str) -> None:
        self.p, self.model, self.axis, self.chosen = painter, model, axis, chosen
        self.rows = rows_for(height)
        self.from_, self.to = axis.at(0), axis.at(axis.width)
        self.laces = thinned(model.laces_in(self.from_ - 5, self.to + 5), axis.scale)

    def sees(self, start: float, end: float) -> bool:
        """Whether any of it is in view."""
        return end >= self.from_ and start <= self.to

    def between(self, start: float, end: float, top: float, foot: float) -> QRectF:
        """A box over a stretch of the axis, a hair apart from its neighbours."""
        x0 = self.axis.x(start) + 1.5
        return QRectF(x0, top, max(self.axis.x(end) - 1.5 - x0, 1), foot - top)

    def plain(self, x0: float, x1: float, top: float, foot: float, colour: QColor) -> None:
        """A block on whole pixels: quicker where there are hundreds, and as sharp."""
        left = round(x0)
        self.p.setRenderHint(QPainter.RenderHint.Antialiasing, False)
        self.p.fillRect(left, round(top), max(round(x1) - left, 1), round(foot) - round(top), colour)
        self.p.setRenderHint(QPainter.RenderHint.Antialiasing)

    def text(self, box: QRectF, text: str, font: QFont, colour: str, *, right: bool = False) -> float:
        """Text cut to its box, kept in sight when the box begins left of the window; its width."""
        left = max(box.left(), 6.0)
        room = box.right() - left
        if room < LEAST:
            return 0.0
        box = QRectF(left, box.top(), room, box.height())
        whole = width_of(font, text)
        if room < width_of(font, "m…") and whole > room:
            return 0.0
        self.p.setFont(font)
        shown = text if whole <= room else cut(text, font, room)
        self.p.setPen(QColor(colour))
        side = Qt.AlignmentFlag.AlignRight if right else Qt.AlignmentFlag.AlignLeft
        self.p.drawText(box, Qt.AlignmentFlag.AlignVCenter | side, shown)
        return min(whole, room)
