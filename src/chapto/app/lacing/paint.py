"""How the lacing is drawn."""

from __future__ import annotations

from dataclasses import dataclass

from PyQt6.QtCore import QLineF, QPointF, QRectF, Qt
from PyQt6.QtGui import QBrush, QColor, QFont, QFontMetricsF, QPainter, QPainterPath, QPen

from chapto.app.axis import Axis
from chapto.app.lacing.model import Band, Lace, LacingModel, Stretch
from chapto.app.theme import number_font, text_font
from chapto.clock.passage import Kind
from chapto.clock.timecode import clock_text
from chapto.paint.colours import (
    INK,
    INK_SOFT,
    ON_DARK,
    ON_DARK_SOFT,
    PAPER,
    PAPER_DEEP,
    PAPER_LINE,
    PASSAGES,
    SPRUCE,
    SPRUCE_LINE,
    TIES,
    readable_on,
)

EVERY_WORD, PHRASES = 85.0, 26.0
"""Pixels a second from which every word, or each phrase, has room."""


@dataclass(frozen=True)
class Rows:
    """Heights of the lacing's rows, from the top, in pixels."""

    mat_top: float
    mat_foot: float
    rail_top: float
    rail_foot: float
    words_top: float
    words_foot: float
    height: float


def rows_for(height: float) -> Rows:
    """Rows for a widget of that height: rails keep their size, the bands take what is left."""
    rail_top = height - 96
    return Rows(22, 48, rail_top, rail_top + 22, rail_top + 44, height - 20, height)


class LacingPainter:
    """Draws one model at one axis. `chosen` is the beat that is being written."""

    def __init__(self, painter: QPainter, model: LacingModel, axis: Axis, height: float, chosen: str) -> None:
        self.p, self.model, self.axis, self.chosen = painter, model, axis, chosen
        self.rows = rows_for(height)
        self.from_, self.to = axis.at(0), axis.at(axis.width)

    def draw(self) -> None:
        """Grounds, rails, bands, laces, words."""
        r, p = self.rows, self.p
        p.fillRect(QRectF(0, 0, self.axis.width, r.rail_top), QColor(SPRUCE))
        p.fillRect(QRectF(0, r.rail_top, self.axis.width, r.height - r.rail_top), QColor(PAPER))
        self._mat_rail()
        for band in self.model.bands:
            if band.end >= self.from_ and band.start <= self.to:
                self._band(band)
        self._watch_rail()
        self._words()
        for lace in self.model.laces:
            if self.from_ - 5 <= lace.said <= self.to + 5:
                self._lace(lace)
        self._pins()

    # ── mat time ─────────────────────────────────────────────────────────────────────────────────────────
    def _mat_rail(self) -> None:
        r, p = self.rows, self.p
        line = QRectF(0, r.mat_top + 10, self.axis.width, 6)
        p.setPen(Qt.PenStyle.NoPen)
        p.setBrush(QColor(SPRUCE_LINE))
        p.drawRect(line)
        for stretch in self.model.stretches:
            if stretch.end >= self.from_ and stretch.start <= self.to:
                self._stretch(stretch)
        for card in self.model.cards:
            box = self._between(card.start / self.model.fps, card.end / self.model.fps, r.mat_top + 4, r.mat_foot - 4)
            p.setPen(Qt.PenStyle.NoPen)
            p.setBrush(QColor(PAPER_LINE))
            p.drawRoundedRect(box, 3, 3)
            self._text(box.adjusted(8, 0, -6, 0), card.title or "title card", text_font(13, 500), INK)

    def _stretch(self, s: Stretch) -> None:
        r, p = self.rows, self.p
        box = self._between(s.start, s.end, r.mat_top, r.mat_foot)
        p.setPen(QPen(QColor(SPRUCE_LINE), 1))
        p.setBrush(QColor("#2A3B35"))
        p.drawRoundedRect(box, 3, 3)
        inner = box.adjusted(8, 0, -8, 0)
        self._text(inner, s.technique, text_font(13, 500), ON_DARK)
        ends = self._between(s.start, s.end, 3, r.mat_top - 2).adjusted(2, 0, -2, 0)
        low, high = clock_text(max(s.mat_in, 0)), clock_text(s.mat_out)
        width = self._text(ends, low, number_font(13), ON_DARK_SOFT)
        if width and min(ends.right(), self.axis.width) - max(ends.left(), 0) > width * 2 + 26:
            self._text(ends, high, number_font(13), ON_DARK_SOFT, right=True)

    def _pins(self) -> None:
        y = self.rows.mat_foot
        for pin in self.model.pins:
            if self.from_ <= pin.place <= self.to:
                x = self.axis.x(pin.place)
                head = QPainterPath(QPointF(x, y + 1))
                head.lineTo(x - 5, y - 8)
                head.lineTo(x + 5, y - 8)
                head.closeSubpath()
                self.p.setPen(QPen(QColor(SPRUCE), 1))
                self.p.setBrush(QColor(ON_DARK))
                self.p.drawPath(head)

    # ── bands ────────────────────────────────────────────────────────────────────────────────────────────
    def _band(self, band: Band) -> None:
        r, p = self.rows, self.p
        x0, x1 = self.axis.x(band.start), self.axis.x(band.end)
        colour = QColor(PASSAGES[band.kind])
        if band.top is not None:
            t0, t1 = self.axis.x(band.top[0]), self.axis.x(band.top[1])
            middle = (r.mat_foot + r.rail_top) / 2
            shape = QPainterPath(QPointF(t0, r.mat_foot))
            shape.cubicTo(t0, middle, x0, middle, x0, r.rail_top)
            shape.lineTo(x1, r.rail_top)
            shape.cubicTo(x1, middle, t1, middle, t1, r.mat_foot)
            shape.closeSubpath()
            faint = QColor(colour)
            faint.setAlpha(120)
            edge = QColor(colour)
            edge.setAlpha(230)
            p.setPen(QPen(edge, 1))
            p.setBrush(faint)
            p.drawPath(shape)
            if band.kind is Kind.AGAIN:
                p.setBrush(QBrush(colour, Qt.BrushStyle.BDiagPattern))
                p.drawPath(shape)
        elif band.kind is Kind.CUTAWAY:
            self._elsewhere(band, x0, x1, colour)
        block = QRectF(x0 + 0.5, r.rail_top, max(x1 - x0 - 1, 1), r.rail_foot - r.rail_top)
        p.setPen(Qt.PenStyle.NoPen)
        p.setBrush(colour)
        p.drawRect(block)
        if band.kind is Kind.AGAIN:
            p.setBrush(QBrush(QColor(255, 255, 255, 70), Qt.BrushStyle.BDiagPattern))
            p.drawRect(block)
        self._text(
            block.adjusted(5, 0, -3, 0), _band_text(band, block.width()), text_font(12, 600), readable_on(colour.name())
        )

    def _elsewhere(self, band: Band, x0: float, x1: float, colour: QColor) -> None:
        """Footage from elsewhere hangs on a slip of its own."""
        r, p = self.rows, self.p
        top = r.mat_foot + 14
        slip = QRectF(x0 + 2, top, max(x1 - x0 - 4, 8), 22)
        faint = QColor(colour)
        faint.setAlpha(120)
        p.setPen(Qt.PenStyle.NoPen)
        p.setBrush(faint)
        p.drawRect(QRectF(x0, slip.bottom(), x1 - x0, r.rail_top - slip.bottom()))
        p.setBrush(colour)
        p.drawRoundedRect(slip, 3, 3)
        self._text(slip.adjusted(6, 0, -4, 0), f"mat {clock_text(band.mat_in)}", number_font(13, 500), INK)

    # ── watch time ───────────────────────────────────────────────────────────────────────────────────────
    def _watch_rail(self) -> None:
        r, p = self.rows, self.p
        p.fillRect(QRectF(0, r.words_foot, self.axis.width, r.height - r.words_foot), QColor(PAPER_DEEP))
        step = next((s for s in (0.5, 1, 2, 5, 10, 15, 30, 60, 120, 300, 600) if s * self.axis.scale >= 64), 1200)
        p.setFont(number_font(13))
        k = max(int(self.from_ / step), 0)
        while k * step <= min(self.to, self.model.seconds):
            x = self.axis.x(k * step)
            p.setPen(QPen(QColor(PAPER_LINE), 1))
            p.drawLine(QLineF(x, r.words_foot, x, r.words_foot + 5))
            p.setPen(QColor(INK_SOFT))
            p.drawText(
                QRectF(x + 4, r.words_foot, 60, 19),
                Qt.AlignmentFlag.AlignVCenter,
                clock_text(k * step, tenths=step < 1),
            )
            k += 1
        for section in self.model.sections:
            x = self.axis.x(section.start / self.model.fps)
            if section.start and -2 <= x <= self.axis.width:
                p.setPen(QPen(QColor(INK_SOFT), 1, Qt.PenStyle.DotLine))
                p.drawLine(QLineF(x, r.rail_foot, x, r.words_foot))

    def _words(self) -> None:
        if self.axis.scale >= EVERY_WORD:
            self._single_words()
        elif self.axis.scale >= PHRASES:
            self._lines_of_words()
        else:
            self._bars()
            self._tied_words()

    def _single_words(self) -> None:
        r, font = self.rows, text_font(15)
        metrics = QFontMetricsF(font)
        until = -1e9
        row = 0
        for w in self.model.words:
            if w.end < self.from_ or w.start > self.to:
                continue
            x = self.axis.x(w.start)
            row = (row + 1) % 2 if x < until + 4 else 0
            y = r.words_top + row * 12
            self.p.setFont(font)
            self.p.setPen(QColor(INK if w.beat == self.chosen or not self.chosen else INK_SOFT))
            self.p.drawText(QPointF(x, y + 14), w.text)
            until = x + metrics.horizontalAdvance(w.text)

    def _lines_of_words(self) -> None:
        """Each beat's words as one line, cut where it runs out of room."""
        r = self.rows
        runs = self._runs()
        for i, (beat, start, end, text) in enumerate(runs):
            limit = runs[i + 1][1] if i + 1 < len(runs) else end + 2
            width = min(end - start + 2, limit - start) * self.axis.scale - 8
            box = QRectF(self.axis.x(start), r.words_top, width, 18)
            chosen = beat == self.chosen
            if chosen:
                self.p.fillRect(box.adjusted(-3, 0, 0, 1), QColor("#F3E2BC"))
            self._text(box, text, text_font(14, 500 if chosen else 400), INK if chosen else INK_SOFT)

    def _bars(self) -> None:
        y = self.rows.words_top + 22
        for beat, start, end, _ in self._runs():
            chosen = beat == self.chosen
            self.p.setPen(Qt.PenStyle.NoPen)
            self.p.setBrush(QColor(INK if chosen else PAPER_LINE))
            width = max((end - start) * self.axis.scale - 2, 1)
            self.p.drawRoundedRect(QRectF(self.axis.x(start), y, width, 5), 2, 2)

    def _tied_words(self) -> None:
        font = text_font(13, 500)
        metrics = QFontMetricsF(font)
        until = -1e9
        for lace in self.model.laces:
            x = self.axis.x(lace.said)
            text = lace.text.strip(".,;:!?")
            if x > until + 6:
                self.p.setFont(font)
                self.p.setPen(QColor(INK))
                self.p.drawText(QPointF(x - 3, self.rows.words_top + 14), text)
                until = x + metrics.horizontalAdvance(text)

    def _runs(self) -> list[tuple[str, float, float, str]]:
        """(beat, start, end, text) of words said without a long pause."""
        found: list[tuple[str, float, float, list[str]]] = []
        for w in self.model.words:
            if w.end < self.from_ or w.start > self.to:
                continue
            if found and found[-1][0] == w.beat and w.start - found[-1][2] < 0.8:
                beat, start, _, texts = found[-1]
                found[-1] = (beat, start, w.end, [*texts, w.text])
            else:
                found.append((w.beat, w.start, w.end, [w.text]))
        return [(beat, start, end, " ".join(texts)) for beat, start, end, texts in found]

    # ── laces ────────────────────────────────────────────────────────────────────────────────────────────
    def _lace(self, lace: Lace) -> None:
        """From the word up to where its moment is shown, and on, thin, to the moment itself."""
        r, p = self.rows, self.p
        colour = QColor(TIES[lace.state])
        x = self.axis.x(lace.said)
        if lace.shown is None:
            p.setPen(QPen(colour, 2.4, Qt.PenStyle.DashLine))
            p.drawLine(QLineF(x, r.words_top, x - 14, r.rail_foot + 3))
            return
        shown = self.axis.x(lace.shown)
        if lace.pin is not None:
            top, middle = self.axis.x(lace.pin), (r.mat_foot + r.rail_top) / 2
            thread = QPainterPath(QPointF(shown, r.rail_top))
            thread.cubicTo(shown, middle, top, middle, top, r.mat_foot)
            p.setPen(QPen(QColor(SPRUCE), 3.6))
            p.setBrush(Qt.BrushStyle.NoBrush)
            p.drawPath(thread)
            p.setPen(QPen(QColor(PAPER), 1.5))
            p.drawPath(thread)
            p.setPen(QPen(QColor(INK), 1.6))
            p.drawLine(QLineF(shown, r.rail_top, shown, r.rail_foot))
        p.setPen(QPen(colour, 3, Qt.PenStyle.SolidLine, Qt.PenCapStyle.RoundCap))
        p.drawLine(QLineF(x, r.words_top, shown, r.rail_foot + 1))
        p.setPen(Qt.PenStyle.NoPen)
        p.setBrush(colour)
        p.drawEllipse(QPointF(x, r.words_top + 1), 3.4, 3.4)

    # ── pieces ───────────────────────────────────────────────────────────────────────────────────────────
    def _between(self, start: float, end: float, top: float, foot: float) -> QRectF:
        x0 = self.axis.x(start) + 1.5
        return QRectF(x0, top, max(self.axis.x(end) - 1.5 - x0, 1), foot - top)

    def _text(self, box: QRectF, text: str, font: QFont, colour: str, *, right: bool = False) -> float:
        """Text cut to its box, kept in sight when the box begins left of the window; its width."""
        box = QRectF(max(box.left(), 6.0), box.top(), box.right() - max(box.left(), 6.0), box.height())
        self.p.setFont(font)
        metrics = QFontMetricsF(self.p.font())
        if box.width() < 4 or (
            box.width() < metrics.horizontalAdvance("m…") and metrics.horizontalAdvance(text) > box.width()
        ):
            return 0.0
        shown = metrics.elidedText(text, Qt.TextElideMode.ElideRight, box.width())
        self.p.setPen(QColor(colour))
        side = Qt.AlignmentFlag.AlignRight if right else Qt.AlignmentFlag.AlignLeft
        self.p.drawText(box, Qt.AlignmentFlag.AlignVCenter | side, shown)
        return metrics.horizontalAdvance(shown)


def _band_text(band: Band, width: float) -> str:
    """What a passage does, as long as there is room: letter, word, or word with its number."""
    seconds = band.end - band.start
    number = f"{band.rate:g}×" if band.kind in (Kind.SLOW, Kind.AGAIN, Kind.CUTAWAY) else f"{seconds:.1f} s"
    if width >= 84:
        return f"{band.kind.value} {number}"
    return band.kind.value if width >= 44 else (band.kind.value[0] if width >= 12 else "")
