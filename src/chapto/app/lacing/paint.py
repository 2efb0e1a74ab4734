"""The whole lacing, from the ground up."""

from __future__ import annotations

from collections.abc import Sequence

from PyQt6.QtCore import QPointF, QRectF, Qt
from PyQt6.QtGui import QColor, QPainter

from chapto.app.lacing.band_paint import draw_bands
from chapto.app.lacing.canvas import Canvas
from chapto.app.lacing.lace_paint import draw_laces, draw_offered
from chapto.app.lacing.mat_paint import draw_mat_rail, draw_pins
from chapto.app.lacing.model import Control, Scored
from chapto.app.lacing.watch_paint import draw_under_the_rail
from chapto.app.theme import number_font, text_font
from chapto.paint.colours import INK, ON_DARK_SOFT, PAPER, SPRUCE
from chapto.paint.plates import plate

EMPTY = "Here mat time above and watch time below are laced together."


def draw_lacing(
    c: Canvas,
    control: Sequence[Control],
    scored: Sequence[Scored],
    selected: tuple[str, int] | None,
) -> None:
    """Grounds, rails, bands, words, laces. `selected` is the tied word whose lace is brought out."""
    r = c.rows
    c.p.fillRect(QRectF(0, 0, c.axis.width, r.rail_top), QColor(SPRUCE))
    c.p.fillRect(QRectF(0, r.rail_top, c.axis.width, r.height - r.rail_top), QColor(PAPER))
    if not c.model.bands:
        c.p.setFont(text_font(15))
        c.p.setPen(QColor(ON_DARK_SOFT))
        middle = QRectF(0, r.mat_foot, c.axis.width, r.rail_top - r.mat_foot)
        c.p.drawText(middle, Qt.AlignmentFlag.AlignCenter, EMPTY)
    draw_mat_rail(c, control, scored)
    draw_bands(c)
    draw_under_the_rail(c)
    draw_offered(c)
    draw_laces(c, selected)
    draw_pins(c, c.model.pins_in(c.from_, c.to))


def beside_pointer(painter: QPainter, width: float, place: QPointF, text: str) -> None:
    """A slip with numbers beside the pointer, inside a widget of that width."""
    painter.setFont(number_font(15, 500))
    wide = painter.fontMetrics().horizontalAdvance(text) + 16
    box = QRectF(min(place.x() + 12, width - wide - 4), max(place.y() - 32, 2), wide, 24)
    plate(painter, box, 4)
    painter.setPen(QColor(INK))
    painter.drawText(box, Qt.AlignmentFlag.AlignCenter, text)
