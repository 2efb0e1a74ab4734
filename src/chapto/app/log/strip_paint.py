"""The mat clock painted: ruler, film, control, rounds, exchanges, moments."""

from __future__ import annotations

from dataclasses import dataclass
from fractions import Fraction
from itertools import groupby

from PyQt6.QtCore import QLineF, QPointF, QRectF, Qt
from PyQt6.QtGui import QBrush, QColor, QPainter, QPainterPath, QPen

from chapto.app.axis import Axis
from chapto.app.film_cells import paint_cell
from chapto.app.filmstrip import Filmstrip
from chapto.app.log.strip_look import LOOK
from chapto.app.ruler import marks, step_for
from chapto.app.theme import number_font, text_font
from chapto.clock.timecode import clock_text
from chapto.document.bout import Exchange, Outcome, Round
from chapto.document.bout_rules import CallKind
from chapto.document.breakdown import Breakdown
from chapto.document.people import Side
from chapto.matlog.jumps import Jump
from chapto.paint.colours import (
    DEEP,
    INK,
    NEUTRAL,
    ON_DARK,
    ON_DARK_SOFT,
    PAPER,
    SPRUCE,
    SPRUCE_LINE,
    readable_on,
)
from chapto.paint.control import ControlBlock, paint_control, paint_unsure
from chapto.paint.lettering import cut, write
from chapto.paint.plates import plate
from chapto.paint.signs import side_sign

MARKS_APART = 62.0
"""Pixels between two marks of the ruler, at least."""


CALL_LETTER = {
    CallKind.ADVANTAGE: "A", CallKind.PENALTY: "P", CallKind.NEAR_SUBMISSION: "N", CallKind.EDGE: "E",
}  # fmt: skip


@dataclass
class StripPainter:
    """Paints one stretch of mat time from `start` to `end` seconds; `axis` counts from `start`."""

    p: QPainter
    axis: Axis
    start: float
    end: float
    b: Breakdown
    film: Filmstrip
    blocks: tuple[ControlBlock, ...]
    jumps: tuple[Jump, ...]
    chosen: str

    def draw(self, width: float) -> None:
        """Everything but what moves."""
        self.p.fillRect(QRectF(0, 0, width, LOOK.height), QColor(SPRUCE))
        self._ruler(width)
        self._filmed(width)
        self._control()
        for r in self.b.rounds:
            self._round(r)
        for x in self.b.exchanges:
            self._exchange(x)
        for m in self.b.moments:
            if self._sees(float(m.at), float(m.at)):
                self._moment(self._x(float(m.at)))

    def _x(self, mat: float) -> float:
        return self.axis.x(mat - self.start)

    def _sees(self, start: float, end: float) -> bool:
        return end >= self.start and start <= self.end

    def _between(self, start: float, end: float, top: float, height: float) -> QRectF:
        """A box over the part of a stretch that is filmed."""
        left, right = self._x(max(start, self.start)), self._x(min(end, self.end))
        return QRectF(left, top, right - left, height)

    def _ruler(self, width: float) -> None:
        p = self.p
        p.setFont(number_font(13))
        for second in marks(self.start, self.end, step_for(self.axis.scale, apart=MARKS_APART)):
            x = self._x(second)
            p.setPen(QColor(SPRUCE_LINE))
            p.drawLine(QLineF(x, LOOK.ruler - 5, x, LOOK.ruler))
            if x + 40 <= width:
                write(p, QRectF(x + 4, 1, 60, LOOK.ruler - 2), clock_text(second), ON_DARK_SOFT)

    def _filmed(self, width: float) -> None:
        """Pictures at places that depend on the zoom alone, so that moving along asks for no new ones."""
        p, high = self.p, LOOK.film - 4
        whole = self._between(self.start, self.end, LOOK.ruler, high)
        p.fillRect(whole, QColor(DEEP))
        p.fillRect(whole, QBrush(QColor(SPRUCE_LINE), Qt.BrushStyle.BDiagPattern))
        count = max(int(whole.width() / (high * 16 / 9)), 1)
        each = whole.width() / count
        for i in range(count):
            cell = QRectF(whole.left() + i * each, whole.top(), each, high)
            if cell.right() < 0 or cell.left() > width:
                continue
            mat = self.start + (i + 0.5) * (self.end - self.start) / count
            image = self.film.at(Fraction(mat).limit_denominator(100))
            if image is not None:
                paint_cell(p, cell, image)
            if i:
                p.setPen(QPen(QColor(DEEP), 1))
                p.drawLine(QLineF(cell.left(), cell.top(), cell.left(), cell.bottom()))

    def _control(self) -> None:
        """Control of the first above the line, of the second below; unsure stretches hatched, odd changes asked."""
        p, b = self.p, self.b
        box = self._between(self.start, self.end, LOOK.control_top, LOOK.control - 4)
        p.fillRect(box, QColor(DEEP))
        known = sorted((float(x.start), float(x.end)) for x in b.positions)
        for r in b.rounds:
            at = float(r.start)
            for start, end in [*known, (float(r.end), float(r.end))]:
                if min(start, float(r.end)) - at > 0.05 and self.start <= at <= self.end:
                    paint_unsure(p, box, self._x(at), self._x(min(start, float(r.end))))
                at = max(at, end)
        p.save()
        p.setClipRect(box)
        inner = box.adjusted(0, LOOK.slip, 0, -LOOK.slip)
        for kits, blocks in groupby(self.blocks, key=lambda block: self._kits(Fraction(block.start))):
            paint_control(p, list(blocks), inner, self._x, kits)
        p.restore()
        for stop in b.ruling.stops:
            left, right = self._x(float(stop.start)), self._x(float(stop.end))
            stopped = QRectF(left, box.top(), right - left, box.height())
            p.fillRect(stopped, QBrush(QColor(ON_DARK_SOFT), Qt.BrushStyle.Dense6Pattern))
        for x in b.exchanges:
            if x.by is not None and self._sees(float(x.start), float(x.start)):
                y = inner.top() - 2 if x.by is Side.FIRST else inner.bottom() + 2
                p.setPen(QPen(QColor(ON_DARK_SOFT), 2))
                p.drawLine(QLineF(self._x(float(x.start)), y, self._x(float(x.end)), y))
        for g in b.ruling.points:
            text = CALL_LETTER.get(g.kind) or (f"{g.points:+d}" if g.points else "0").replace("-", "−")
            self._slip(box, float(g.at), text, at_top=g.side is Side.FIRST)
        for jump in self.jumps:
            self._slip(box, float(jump.at), "?", at_top=True)

    def _slip(self, box: QRectF, mat: float, text: str, *, at_top: bool) -> None:
        """A small slip of paper at the edge of the control strip."""
        if not self._sees(mat, mat):
            return
        slip = QRectF(self._x(mat) - 11, box.top() if at_top else box.bottom() - LOOK.slip, 22, LOOK.slip)
        plate(self.p, slip, 3, PAPER, "")
        self.p.setPen(QColor(INK))
        self.p.setFont(number_font(13, 600))
        self.p.drawText(slip, Qt.AlignmentFlag.AlignCenter, text)

    def _round(self, r: Round) -> None:
        if self._sees(float(r.start), float(r.end)):
            box = self._between(float(r.start), float(r.end), LOOK.rounds_top, LOOK.rounds - 5)
            plate(self.p, box, 3, SPRUCE_LINE, "")
            self.p.setFont(text_font(12, 500))
            write(self.p, _in_sight(box).adjusted(7, 0, 0, 0), r.name, ON_DARK)

    def _exchange(self, x: Exchange) -> None:
        if not self._sees(float(x.start), float(x.end)):
            return
        p, stopped = self.p, x.outcome is Outcome.STOPPED
        kit = self.b.athlete(x.by, x.start).kit_colour if x.by else NEUTRAL
        left, right = self._x(float(x.start)), self._x(float(x.end))
        box = QRectF(left, LOOK.exchanges_top, max(right - left, 4), LOOK.exchanges - 6)
        fill = QBrush(QColor(kit), Qt.BrushStyle.Dense4Pattern) if stopped else kit
        plate(p, box, 4, fill, ON_DARK if x.id == self.chosen else "", 2)
        ink = ON_DARK if stopped else readable_on(kit)
        shown = _in_sight(box)
        if shown.width() > 18 and x.by is not None:
            side_sign(p, QPointF(shown.left() + 10, box.center().y()), 4, x.by, ink)
        p.setFont(text_font(12, 600))
        words = shown.adjusted(19, 0, -3, 0)
        if len(cut(x.technique or "exchange", p.font(), words.width())) > 3:
            write(p, words, x.technique or "exchange", ink)

    def _moment(self, x: float) -> None:
        pin = QPainterPath(QPointF(x, LOOK.moments_top))
        pin.lineTo(x + 5, LOOK.moments_top + 11)
        pin.lineTo(x - 5, LOOK.moments_top + 11)
        pin.closeSubpath()
        self.p.fillPath(pin, QColor(ON_DARK))

    def _kits(self, mat: Fraction) -> tuple[str, str]:
        return self.b.athlete(Side.FIRST, mat).kit_colour, self.b.athlete(Side.SECOND, mat).kit_colour


def _in_sight(box: QRectF) -> QRectF:
    """A box whose words stay in sight when it begins left of the window."""
    return box.adjusted(max(-box.left(), 0.0), 0, 0, 0)
