"""The road, painted: what was done above, what became of it below, laces between; a press on a cut brings it back."""

from __future__ import annotations

from PyQt6.QtCore import QEvent, QLineF, QRectF, Qt, pyqtSignal
from PyQt6.QtGui import QBrush, QColor, QHelpEvent, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen
from PyQt6.QtWidgets import QToolTip, QWidget

from chapto.app.still_layer import StillLayer
from chapto.app.voice.talking.road_model import CutMark, Did, Road
from chapto.clock.passage import Kind
from chapto.paint.colours import (
    CHOSEN,
    INK,
    INK_SOFT,
    PAPER,
    PAPER_DEEP,
    PAPER_LINE,
    PASSAGES,
    TIES,
    see_through,
)
from chapto.programme.programme import TieState

HIGH = 92
MARGIN = 20.0
HEAD = 6.0
BAND = 14.0
DONE = {
    Did.RAN: PASSAGES[Kind.RUN],
    Did.SLOWED: PASSAGES[Kind.SLOW],
    Did.STOOD: PASSAGES[Kind.HOLD],
    Did.HUNTED: PAPER_LINE,
}
SLACK = 5.0
"""Pixels beside a cut that a press may miss it by."""


class TalkRoad(QWidget):
    """Shows a road; `brought_back` carries the cut that is to come back."""

    brought_back = pyqtSignal(object)

    def __init__(self) -> None:
        super().__init__()
        self.road: Road | None = None
        self.chosen = -1
        self._still = StillLayer()
        self.setFixedHeight(HIGH)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName("The talk, and what became of it")

    def show_road(self, road: Road | None) -> None:
        """Show another road; without one nothing is painted."""
        if road != self.road:
            self.road, self.chosen = road, -1
            self._still.forget()
            self.setAccessibleDescription(road.sentence if road is not None else "")
            self.update()

    # ── hands ────────────────────────────────────────────────────────────────────────────────────────────
    def mouseReleaseEvent(self, event: QMouseEvent | None) -> None:
        """A press on a cut brings it back."""
        assert event is not None
        cut = self._cut_at(event.position().x(), event.position().y())
        if cut is not None:
            self.brought_back.emit(cut)

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        """Left and right go from cut to cut, Return brings the chosen one back."""
        assert event is not None
        cuts = self.road.cuts if self.road is not None else ()
        if event.key() in (Qt.Key.Key_Left, Qt.Key.Key_Right) and cuts:
            by = 1 if event.key() == Qt.Key.Key_Right else -1
            self.chosen = min(max(self.chosen + by, 0), len(cuts) - 1)
            self.setAccessibleDescription(cuts[self.chosen].sentence)
            self._still.forget()
            self.update()
        elif event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter) and 0 <= self.chosen < len(cuts):
            self.brought_back.emit(cuts[self.chosen])
        else:
            super().keyPressEvent(event)

    def event(self, event: QEvent | None) -> bool:
        """The reason of a cut stands beside the pointer."""
        if isinstance(event, QHelpEvent):
            cut = self._cut_at(event.pos().x(), event.pos().y())
            QToolTip.showText(event.globalPos(), cut.sentence if cut is not None else "", self)
            return True
        return super().event(event)

    def _cut_at(self, x: float, y: float) -> CutMark | None:
        if self.road is None or not HEAD <= y <= HEAD + BAND + 14:
            return None
        unit = (self.width() - 2 * MARGIN) / self.road.seconds
        return self.road.cut_at((x - MARGIN) / unit, SLACK / unit)

    # ── painting ─────────────────────────────────────────────────────────────────────────────────────────
    def paintEvent(self, event: QPaintEvent | None) -> None:
        """The road."""
        p = QPainter(self)
        self._still.paint(p, self, self._paint)
        p.end()

    def _paint(self, p: QPainter) -> None:
        p.fillRect(self.rect(), QColor(PAPER))
        road = self.road
        if road is None:
            return
        wide = self.width() - 2 * MARGIN
        take, watch = wide / road.seconds, wide / max(road.last - road.first, 1.0)
        top, foot = HEAD, HIGH - BAND - 6
        for s in road.stretches:
            p.fillRect(QRectF(MARGIN + s.start * take, top, (s.end - s.start) * take, BAND), QColor(DONE[s.did]))
        for start, end in road.words:
            box = QRectF(MARGIN + start * take, top + BAND + 2, max((end - start) * take - 0.6, 0.8), 5)
            p.fillRect(box, QColor(INK))
        for i, cut in enumerate(road.cuts):
            self._paint_cut(p, cut, take, top, chosen=i == self.chosen)
        for kind, start, end in road.shown:
            box = QRectF(MARGIN + (start - road.first) * watch, foot, (end - start) * watch, BAND)
            p.fillRect(box, QColor(PASSAGES[kind]))
        p.setPen(QPen(QColor(TIES[TieState.MET]), 1.2))
        for link in road.links:
            x, y = MARGIN + link.take * take, MARGIN + (link.watch - road.first) * watch
            p.drawLine(QLineF(x, top + BAND + 8, y, foot - 1))

    def _paint_cut(self, p: QPainter, cut: CutMark, take: float, top: float, *, chosen: bool) -> None:
        box = QRectF(MARGIN + cut.start * take, top - 2, max((cut.end - cut.start) * take, 2.0), BAND + 10)
        p.fillRect(box, see_through(PAPER_DEEP, 205))
        colour = TIES[TieState.BROKEN] if cut.said else INK_SOFT
        p.fillRect(box, QBrush(see_through(colour, 120), Qt.BrushStyle.BDiagPattern))
        if chosen:
            p.setPen(QPen(QColor(CHOSEN), 2))
            p.drawRect(box)
