"""The mat rail: exchanges with who controls and what was scored, moments, cards."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Sequence

from PyQt6.QtCore import QPointF, QRectF, Qt
from PyQt6.QtGui import QBrush, QColor, QPainterPath, QPen

from chapto.app.lacing.canvas import Canvas, width_of
from chapto.app.lacing.detail import touching
from chapto.app.lacing.model import Control, Pin, Scored, Stretch
from chapto.app.theme import number_font, text_font
from chapto.clock.timecode import clock_text
from chapto.paint.colours import INK, ON_DARK, ON_DARK_SOFT, PAPER_LINE, SPRUCE, SPRUCE_LIGHT, SPRUCE_LINE
from chapto.paint.plates import plate
from chapto.paint.signs import side_sign

CONTROL = 5.0
"""Height of the line of who controls."""
NAMED, APART = 24.0, 7.0
"""Pixels from which a stretch is drawn by itself; pixels between two points or two moments."""
POSITION = 64.0
"""Pixels from which a position is named."""
ENDS = 14.0
"""Pixels that are left free before the next stretch begins."""
NUMBERED = 12.0
"""Pixels a second from which points carry their number."""


def draw_mat_rail(c: Canvas, control: Sequence[Control], scored: Sequence[Scored]) -> None:
    """Boxes over the rail, the line of control along their foot, points on their upper edge."""
    r, p = c.rows, c.p
    p.setPen(Qt.PenStyle.NoPen)
    p.setBrush(QColor(SPRUCE_LINE))
    p.drawRect(QRectF(0, r.mat_top + 10, c.axis.width, 6))
    taken: list[tuple[float, float]] = []
    for start, end, stretch in _apart(c, ((x.start, x.end, x) for x in c.model.stretches)):
        if stretch is not None:
            _stretch(c, stretch)
            taken += _times(c, stretch)
        else:
            c.plain(start, end - 1, r.mat_top, r.mat_foot, QColor(SPRUCE_LIGHT))
    for kit in sorted({x.kit for x in control} - {""}):
        colour = QColor(kit)
        for start, end in touching(((x.start, x.end) for x in control if x.kit == kit), 1 / c.axis.scale):
            if c.sees(start, end):
                c.plain(c.axis.x(start), c.axis.x(end), r.mat_foot - CONTROL, r.mat_foot, colour)
    for one in control:
        _position(c, one)
    last = -1e9
    for mark in scored:
        if c.sees(mark.place, mark.place) and c.axis.x(mark.place) - last >= APART:
            _points(c, mark, taken)
            last = c.axis.x(mark.place)
    for card in c.model.cards:
        if c.sees(card.start, card.end):
            box = c.between(card.start, card.end, r.mat_top + 4, r.mat_foot - 4)
            plate(p, box, 3, PAPER_LINE, "")
            c.text(box.adjusted(8, 0, -6, 0), card.text, text_font(13, 500), INK)


def _apart(
    c: Canvas, boxes: Iterable[tuple[float, float, Stretch]]
) -> Iterator[tuple[float, float, Stretch | None]]:  # fmt: skip
    """Boxes in view, each wide enough by itself, or several narrow ones in a row as one; ends in pixels."""
    row: list[float] = []
    for start, end, stretch in boxes:
        if not c.sees(start, end):
            continue
        x0, x1 = c.axis.x(start), c.axis.x(end)
        narrow = x1 - x0 < NAMED
        if row and (not narrow or x0 - row[1] > 2):
            yield row[0], row[1], None
            row = []
        if narrow:
            row = [row[0] if row else x0, x1]
        else:
            yield x0, x1, stretch
    if row:
        yield row[0], row[1], None


def _stretch(c: Canvas, s: Stretch) -> None:
    r, p = c.rows, c.p
    box = c.between(s.start, s.end, r.mat_top, r.mat_foot)
    plate(p, box, 3, SPRUCE_LIGHT, SPRUCE_LINE)
    for start, end in s.skips:
        left_out = s.place(max(start, s.mat_in)), s.place(min(end, s.mat_out))
        gone = c.between(*left_out, r.mat_foot - CONTROL - 6, r.mat_foot - CONTROL)
        p.setPen(Qt.PenStyle.NoPen)
        p.setBrush(QBrush(QColor(ON_DARK_SOFT), Qt.BrushStyle.BDiagPattern))
        p.drawRect(gone)
    c.text(box.adjusted(8, 0, -8, -CONTROL), s.technique, text_font(13, 500), ON_DARK)


def _times(c: Canvas, s: Stretch) -> list[tuple[float, float]]:
    """When a stretch begins, and ends where that is well apart from what begins next; the pixels these take."""
    ends = c.between(s.start, s.end, 3, c.rows.mat_top - 2).adjusted(2, 0, -ENDS, 0)
    font, left = number_font(13), max(ends.left(), 6.0)
    begin = clock_text(max(s.mat_in, 0))
    if min(ends.right(), c.axis.width) - left < width_of(font, begin):
        return []
    width = c.text(ends, begin, font, ON_DARK_SOFT)
    found, room = [(left, left + width)], min(ends.right(), c.axis.width) - left - width
    if room > width + 26:
        c.text(ends, clock_text(s.mat_out), font, ON_DARK_SOFT, right=True)
        right = min(ends.right(), c.axis.width)
        found.append((right - width_of(font, clock_text(s.mat_out)), right))
    if s.round and room > width + 26 + 90:
        named = QRectF(left + width + 10, ends.top(), 80, ends.height())
        found.append((named.left(), named.left() + c.text(named, s.round, text_font(12), ON_DARK_SOFT)))
    return found


def _position(c: Canvas, one: Control) -> None:
    """The name of a position, where it has room beside the technique of its exchange."""
    x0, x1 = max(c.axis.x(one.start), 0.0), c.axis.x(one.end)
    if x1 - x0 < POSITION or not c.sees(one.start, one.end):
        return
    stretch = c.model.stretch_at(one.start + 1e-6)
    if stretch is not None:
        named = max(c.axis.x(stretch.start), 0.0) + width_of(text_font(13, 500), stretch.technique) + 26
        x0 = max(x0 + 6, named)
    box = QRectF(x0, c.rows.mat_top, x1 - x0 - 4, c.rows.mat_foot - CONTROL - c.rows.mat_top)
    c.text(box, one.position, text_font(12), ON_DARK_SOFT)


def _points(c: Canvas, mark: Scored, taken: Sequence[tuple[float, float]]) -> None:
    """A disc for the first, a square for the second, with the points beside it where nothing else stands."""
    p, x, y = c.p, c.axis.x(mark.place), c.rows.mat_top
    side_sign(p, QPointF(x, y), 5, mark.side, mark.kit, edge=SPRUCE)
    from_, to = x + 6, x + 8 + width_of(number_font(14, 600), "+4")
    if c.axis.scale >= NUMBERED and not any(a < to and z > from_ for a, z in taken):
        box = QRectF(x + 8, 3, 40, y - 5)
        c.text(box, f"{mark.points:+d}".replace("-", "−"), number_font(14, 600), ON_DARK)


def draw_pins(c: Canvas, pins: Sequence[Pin]) -> None:
    """A head on the mat rail for every moment."""
    y = c.rows.mat_foot
    c.p.setPen(QPen(QColor(SPRUCE), 1))
    c.p.setBrush(QColor(ON_DARK))
    last = -1e9
    for pin in pins:
        x = c.axis.x(pin.place)
        if x - last >= APART:
            head = QPainterPath(QPointF(x, y + 1))
            head.lineTo(x - 5, y - 8)
            head.lineTo(x + 5, y - 8)
            head.closeSubpath()
            c.p.drawPath(head)
            last = x
