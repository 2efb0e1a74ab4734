"""The whole lacing, from the ground up."""

from __future__ import annotations

from collections.abc import Sequence

from PyQt6.QtCore import QRectF
from PyQt6.QtGui import QColor

from chapto.app.lacing.band_paint import draw_bands
from chapto.app.lacing.canvas import Canvas
from chapto.app.lacing.lace_paint import draw_laces
from chapto.app.lacing.mat_paint import draw_mat_rail, draw_pins
from chapto.app.lacing.model import Control, Scored
from chapto.app.lacing.watch_paint import draw_under_the_rail
from chapto.paint.colours import PAPER, SPRUCE


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
    draw_mat_rail(c, control, scored)
    draw_bands(c)
    draw_under_the_rail(c)
    draw_laces(c, selected)
    draw_pins(c, c.model.pins_in(c.from_, c.to))
