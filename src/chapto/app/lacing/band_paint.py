"""Bands between the rails: every passage from its mat stretch to its watch stretch."""

from __future__ import annotations

from functools import lru_cache

from PyQt6.QtCore import QPoint, QPointF, QRectF, Qt
from PyQt6.QtGui import QBrush, QColor, QPainter, QPainterPath, QPen

from chapto.app.lacing.canvas import Canvas
from chapto.app.lacing.detail import Merged, merged
from chapto.app.lacing.model import Band
from chapto.app.theme import number_font, text_font
from chapto.clock.passage import Kind
from chapto.clock.timecode import clock_text
from chapto.paint.colours import INK, PAPER, PASSAGES, SPRUCE, WHITE, readable_on, see_through

HATCHED = {Kind.AGAIN: Qt.BrushStyle.BDiagPattern, Kind.LOOP: Qt.BrushStyle.DiagCrossPattern}
MOVES = (Kind.SLOW, Kind.AGAIN, Kind.LOOP, Kind.CUTAWAY)
SLIM = 15.0
"""Pixels under which a band is drawn with straight sides and without its name."""
SECOND = 5.0
"""Height of the line for a second picture."""


def draw_bands(c: Canvas) -> None:
    """What is in view, in as much detail as can be seen."""
    pieces = merged(c.model.bands_in(c.from_, c.to), c.axis.scale)
    slim = [x for x in pieces if isinstance(x, Merged) or (x.end - x.start) * c.axis.scale < SLIM]
    c.p.setRenderHint(QPainter.RenderHint.Antialiasing, False)
    for band in slim:
        if isinstance(band, Merged):
            _crowd(c, band)
        else:
            _slim(c, band)
    c.p.setRenderHint(QPainter.RenderHint.Antialiasing)
    for band in pieces:
        if not isinstance(band, Merged) and (band.end - band.start) * c.axis.scale >= SLIM:
            _band(c, band)
    for second in c.model.seconds_shown:
        if c.sees(second.start, second.end):
            x0, x1 = c.axis.x(second.start), c.axis.x(second.end)
            line = QRectF(x0 + 1, c.rows.rail_foot - SECOND, max(x1 - x0 - 2, 1), SECOND)
            c.p.fillRect(line, QColor(PAPER))
            c.p.fillRect(line.adjusted(0, 1, 0, 0), QColor(PASSAGES[Kind.CUTAWAY]))


def _crowd(c: Canvas, band: Merged) -> None:
    """Many at once: only what most of them do, straight up and down."""
    r = c.rows
    x0, x1 = round(c.axis.x(band.start)), round(c.axis.x(band.end))
    c.p.fillRect(x0, round(r.mat_foot), max(x1 - x0, 1), round(r.rail_top - r.mat_foot), on_ground(band.kind))
    c.p.fillRect(x0, round(r.rail_top), max(x1 - x0, 1), round(r.rail_foot - r.rail_top), QColor(PASSAGES[band.kind]))


def _slim(c: Canvas, band: Band) -> None:
    """A narrow band, with straight sides."""
    r, p = c.rows, c.p
    x0, x1 = round(c.axis.x(band.start)), round(c.axis.x(band.end))
    p.fillRect(x0, round(r.rail_top), max(x1 - x0, 1), round(r.rail_foot - r.rail_top), QColor(PASSAGES[band.kind]))
    if band.top is not None:
        top = (c.axis.x(x) for x in band.top)
        left, right = (round(x) for x in top)
        p.setPen(Qt.PenStyle.NoPen)
        p.setBrush(faint(band.kind))
        foot, head = round(r.rail_top), round(r.mat_foot)
        p.drawConvexPolygon(QPoint(left, head), QPoint(right, head), QPoint(x1, foot), QPoint(x0, foot))


@lru_cache(maxsize=16)
def on_ground(kind: Kind) -> QColor:
    """The same colour as it looks on the bare ground: without mixing, which takes longer."""
    over, ground = faint(kind), QColor(SPRUCE)
    a = over.alphaF()
    mixed = (round(x * a + y * (1 - a)) for x, y in zip(over.getRgb()[:3], ground.getRgb()[:3], strict=True))
    return QColor(*mixed)


@lru_cache(maxsize=16)
def faint(kind: Kind) -> QColor:
    """The colour of a passage between the rails."""
    colour = QColor(PASSAGES[kind])
    colour.setAlpha(120)
    return colour


def _band(c: Canvas, band: Band) -> None:
    r, p = c.rows, c.p
    x0, x1 = c.axis.x(band.start), c.axis.x(band.end)
    colour = QColor(PASSAGES[band.kind])
    if band.top is not None:
        t0, t1 = c.axis.x(band.top[0]), c.axis.x(band.top[1])
        middle = (r.mat_foot + r.rail_top) / 2
        shape = QPainterPath(QPointF(t0, r.mat_foot))
        shape.cubicTo(t0, middle, x0, middle, x0, r.rail_top)
        shape.lineTo(x1, r.rail_top)
        shape.cubicTo(x1, middle, t1, middle, t1, r.mat_foot)
        shape.closeSubpath()
        edge = QColor(colour)
        edge.setAlpha(230)
        p.setPen(QPen(edge, 1))
        p.setBrush(faint(band.kind))
        p.drawPath(shape)
        if band.kind in HATCHED:
            p.setBrush(QBrush(colour, HATCHED[band.kind]))
            p.drawPath(shape)
    elif band.kind is Kind.CUTAWAY:
        _elsewhere(c, band, x0, x1, colour)
    block = QRectF(x0 + 0.5, r.rail_top, max(x1 - x0 - 1, 1), r.rail_foot - r.rail_top)
    p.setPen(Qt.PenStyle.NoPen)
    p.setBrush(colour)
    p.drawRect(block)
    if band.kind in HATCHED:
        p.setBrush(QBrush(see_through(WHITE, 70), HATCHED[band.kind]))
        p.drawRect(block)
    c.text(block.adjusted(5, 0, -3, 0), _says(band, block.width()), text_font(12, 600), readable_on(colour.name()))


def _elsewhere(c: Canvas, band: Band, x0: float, x1: float, colour: QColor) -> None:
    """Footage from elsewhere hangs on a slip of its own."""
    r, p = c.rows, c.p
    slip = QRectF(x0 + 2, r.mat_foot + 12, max(x1 - x0 - 4, 8), 22)
    p.setPen(Qt.PenStyle.NoPen)
    p.setBrush(faint(band.kind))
    p.drawRect(QRectF(x0, slip.bottom(), x1 - x0, r.rail_top - slip.bottom()))
    p.setBrush(colour)
    p.drawRoundedRect(slip, 3, 3)
    if slip.width() >= 40:
        c.text(slip.adjusted(6, 0, -4, 0), clock_text(band.mat_in), number_font(13, 500), INK)


def _says(band: Band, width: float) -> str:
    """What a passage does, as long as there is room: word, or word with its number. Beside the pointer it is always
    said."""
    seconds = band.end - band.start
    number = f"{abs(band.rate):g}×" if band.kind in MOVES else f"{seconds:.1f} s"
    if width >= 84:
        return f"{band.kind.value} {number}"
    return band.kind.value if width >= 44 else ""
