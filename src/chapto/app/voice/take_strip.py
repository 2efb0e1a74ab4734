"""The take that is looked at: its curve on dark, its words on paper under it, laces of its ties above."""

from __future__ import annotations

from PyQt6.QtCore import QLineF, QPointF, QRectF, Qt, pyqtSignal
from PyQt6.QtGui import QBrush, QColor, QFontMetricsF, QMouseEvent, QPainter, QPaintEvent, QPen, QPolygonF
from PyQt6.QtWidgets import QWidget

from chapto.app.axis import MARGIN
from chapto.app.theme import number_font, text_font
from chapto.app.voice.strip_model import Strip, StripWord, word_at
from chapto.app.voice.word_rows import in_rows, squeezed
from chapto.paint.colours import (
    AMBER,
    CHOSEN,
    FIRST,
    HEARD,
    INK,
    INK_SOFT,
    ON_DARK,
    ON_DARK_SOFT,
    PAPER,
    PAPER_LINE,
    SPRUCE,
    SPRUCE_LINE,
    TIES,
    see_through,
)
from chapto.paint.signs import dot
from chapto.voice.finding.comparing import Said

LACES, CURVE, WORDS = 34.0, 62.0, 44.0
"""Pixels of height: of the laces, the curve, and the rows of words."""
MOST_ROWS = 3
REACH = 5.0
"""Pixels from an edge of the chosen word within which it is taken hold of."""
EMPTY = "There is nothing to hear of this line."
WAITING = "Looking at the recordings of this line…"
GUIDE = "the guide voice"


class TakeStrip(QWidget):
    """`word_chosen` carries a word's number, `pulled` a word with where its edges were put, in seconds of the take."""

    word_chosen = pyqtSignal(int)
    pulled = pyqtSignal(int, float, float)

    def __init__(self) -> None:
        super().__init__()
        self.strip: Strip | None = None
        self._waiting = True
        self.chosen = -1
        self.heard_at: float | None = None
        self._held = ""
        self._edges = (0.0, 0.0)
        self.setFixedHeight(int(LACES + CURVE + WORDS))
        self.setMouseTracking(True)
        self.setAccessibleName("The recording and its words")

    def show_strip(self, strip: Strip | None, *, waiting: bool = False) -> None:
        """Show another take, or none, `waiting` for one or not."""
        self._waiting = waiting
        if strip is None or self.strip is None or strip.beat != self.strip.beat:
            self.chosen = -1
        self.strip = strip
        self._held = ""
        self.update()

    def choose(self, number: int) -> None:
        """Choose a word."""
        if self.strip is not None and self.strip.words:
            self.chosen = min(max(number, 0), len(self.strip.words) - 1)
            self.word_chosen.emit(self.chosen)
            self.update()

    def hear_at(self, second: float | None) -> None:
        """Where the recording is heard just now, in seconds of the take."""
        if second != self.heard_at:
            self.heard_at = second
            self.update()

    # ── pointer ──────────────────────────────────────────────────────────────────────────────────────────
    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        """Take hold of an edge of the chosen word, or choose the word under the pointer."""
        assert event is not None
        if self.strip is None:
            return
        x = event.position().x()
        word = self._word()
        if word is not None:
            self._held = self._edge_at(word, x)
            self._edges = (word.start, word.end)
        if not self._held:
            self.choose(word_at(self.strip.words, self._second(x)))

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        """Pull the edge that is held."""
        assert event is not None
        x, word = event.position().x(), self._word()
        if not self._held or word is None:
            over = word is not None and bool(self._edge_at(word, x))
            self.setCursor(Qt.CursorShape.SizeHorCursor if over else Qt.CursorShape.ArrowCursor)
            return
        second = self._second(x)
        start, end = self._edges
        self._edges = (min(second, end - 0.02), end) if self._held == "start" else (start, max(second, start + 0.02))
        self.update()

    def mouseReleaseEvent(self, event: QMouseEvent | None) -> None:
        """Let go of it."""
        if self._held:
            self._held = ""
            self.pulled.emit(self.chosen, *self._edges)

    def _edge_at(self, word: StripWord, x: float) -> str:
        for name, second in (("start", word.start), ("end", word.end)):
            if abs(self._x(second) - x) <= REACH:
                return name
        return ""

    def _word(self) -> StripWord | None:
        if self.strip is None or not 0 <= self.chosen < len(self.strip.words):
            return None
        return self.strip.words[self.chosen]

    def _x(self, second: float) -> float:
        assert self.strip is not None
        return MARGIN + (second - self.strip.start) * self._scale()

    def _second(self, x: float) -> float:
        assert self.strip is not None
        return self.strip.start + (x - MARGIN) / self._scale()

    def _scale(self) -> float:
        assert self.strip is not None
        return (self.width() - 2 * MARGIN) / max(self.strip.end - self.strip.start, 0.1)

    # ── painting ─────────────────────────────────────────────────────────────────────────────────────────
    def paintEvent(self, event: QPaintEvent | None) -> None:
        """Laces, curve, words."""
        p = QPainter(self)
        p.setRenderHint(QPainter.RenderHint.Antialiasing)
        p.fillRect(QRectF(0, 0, self.width(), LACES + CURVE), QColor(SPRUCE))
        p.fillRect(QRectF(0, LACES + CURVE, self.width(), WORDS), QColor(PAPER))
        if self.strip is None:
            p.setFont(text_font(13))
            p.setPen(QColor(ON_DARK_SOFT))
            box = QRectF(MARGIN, 0, self.width(), LACES + CURVE)
            p.drawText(box, Qt.AlignmentFlag.AlignVCenter, WAITING if self._waiting else EMPTY)
        else:
            self._paint_curve(p, self.strip)
            self._paint_words(p, self.strip)
            self._paint_ties(p, self.strip)
            if self.strip.is_guide:
                p.setFont(text_font(12))
                p.setPen(QColor(ON_DARK_SOFT))
                right = QRectF(0, LACES + CURVE - 18, self.width() - MARGIN, 16)
                p.drawText(right, Qt.AlignmentFlag.AlignRight, GUIDE)
            if self.heard_at is not None:
                p.setPen(QPen(QColor(FIRST), 2))
                p.drawLine(QLineF(self._x(self.heard_at), LACES, self._x(self.heard_at), LACES + CURVE))
        p.end()

    def _paint_curve(self, p: QPainter, strip: Strip) -> None:
        middle, half = LACES + CURVE / 2, CURVE / 2 - 3
        loudest = max(float(abs(strip.curve).max(initial=0.0)), 0.05)
        step = (self.width() - 2 * MARGIN) / len(strip.curve)
        xs = [MARGIN + (i + 0.5) * step for i in range(len(strip.curve))]
        top = [QPointF(x, middle - float(high) / loudest * half) for x, (_, high) in zip(xs, strip.curve, strict=True)]
        foot = [QPointF(x, middle - float(low) / loudest * half) for x, (low, _) in zip(xs, strip.curve, strict=True)]
        curve = QPolygonF([*top, *reversed(foot)])
        word = self._word()
        if word is not None:
            start, end = self._edges if self._held else (word.start, word.end)
            box = QRectF(self._x(start), LACES, (end - start) * self._scale(), CURVE)
            p.fillRect(box, see_through(CHOSEN, 46))
        p.setPen(Qt.PenStyle.NoPen)
        p.setBrush(QColor(SPRUCE_LINE))
        p.drawPolygon(curve)
        for start, end in strip.kept:
            p.save()
            p.setClipRect(QRectF(self._x(start), LACES, (end - start) * self._scale(), CURVE))
            p.setBrush(QColor(HEARD if strip.is_guide else ON_DARK_SOFT))
            p.drawPolygon(curve)
            p.restore()
        for (_, end), (start, _) in zip(strip.kept, strip.kept[1:], strict=False):
            box = QRectF(self._x(end), LACES + 4, (start - end) * self._scale(), CURVE - 8)
            p.fillRect(box, QBrush(QColor(HEARD), Qt.BrushStyle.BDiagPattern))
        if word is not None:
            start, end = self._edges if self._held else (word.start, word.end)
            p.setPen(QPen(QColor(FIRST), 1.5))
            for second in (start, end):
                p.drawLine(QLineF(self._x(second), LACES, self._x(second), LACES + CURVE))

    def _paint_words(self, p: QPainter, strip: Strip) -> None:
        things: list[tuple[float, StripWord | None, str]] = [((w.start + w.end) / 2, w, w.text) for w in strip.words]
        things += [((x.span[0] + x.span[1]) / 2, None, f"+{x.heard}") for x in strip.added]
        things.sort(key=lambda t: t[0])
        fonts = [
            text_font(size, 600 if word is None or word.said is not Said.AS_WRITTEN else 500)
            for size in (13, 12)
            for _, word, _ in things
        ]
        for rows, part in ((2, fonts[: len(things)]), (3, fonts[len(things) :])):
            wides = [QFontMetricsF(f).horizontalAdvance(text) for f, (_, _, text) in zip(part, things, strict=True)]
            centres = [self._x(second) for second, _, _ in things]
            places = in_rows(centres, wides, self.width(), rows)
            if places is not None or rows == MOST_ROWS:
                break
        top, high = LACES + CURVE, WORDS / rows
        for (second, word, text), font, wide, (x, row) in zip(
            things, part, wides, places or squeezed(centres, wides, self.width(), rows), strict=True
        ):
            box = QRectF(x, top + 1 + row * (high - 1), wide, high - 1)
            if word is not None and word.number == self.chosen:
                p.fillRect(box.adjusted(-3, 1, 3, -1), QColor(CHOSEN))
            p.setFont(font)
            p.setPen(QColor(INK_SOFT if word is not None and word.said is Said.LEFT_OUT else INK))
            p.drawText(box, Qt.AlignmentFlag.AlignVCenter, text)
            if word is None or word.said is not Said.AS_WRITTEN:
                p.setPen(QPen(QColor(AMBER), 2))
                y = box.center().y() if word is not None and word.said is Said.LEFT_OUT else box.bottom() - 1
                p.drawLine(QLineF(box.left(), y, box.right(), y))
            p.setPen(QPen(QColor(PAPER_LINE), 1))
            p.drawLine(QLineF(self._x(second), top, self._x(second), top + 3))

    def _paint_ties(self, p: QPainter, strip: Strip) -> None:
        """A lace from each tied word up to its moment: straight where they meet, leaning by what they miss."""
        p.setPen(QPen(QColor(SPRUCE_LINE), 1))
        p.drawLine(QLineF(MARGIN, 20, self.width() - MARGIN, 20))
        free = 0.0
        for tie in sorted(strip.ties, key=lambda t: t.at):
            x, top = self._x(tie.at), self._x(tie.at - tie.lag)
            p.setPen(QPen(QColor(TIES[tie.state]), 2.6, Qt.PenStyle.SolidLine, Qt.PenCapStyle.RoundCap))
            p.drawLine(QLineF(top, 20, x, LACES + CURVE - 2))
            dot(p, QPointF(x, LACES + CURVE - 2), 3.4, QColor(TIES[tie.state]))
            p.setFont(number_font(14))
            p.setPen(QColor(ON_DARK))
            wide = p.fontMetrics().horizontalAdvance(tie.moment)
            at = min(max(top - wide / 2, free, MARGIN), self.width() - wide - 4)
            p.drawText(QPointF(at, 14), tie.moment)
            free = at + wide + 10
