"""The programme in one strip, with what was found at its second."""

from __future__ import annotations

from collections.abc import Callable

from PyQt6.QtCore import QLineF, QPointF, QRectF, QSize, Qt
from PyQt6.QtGui import QBrush, QColor, QMouseEvent, QPainter, QPaintEvent, QPen
from PyQt6.QtWidgets import QWidget

from chapto.app.axis import MARGIN
from chapto.app.review.rows import Row
from chapto.app.review.signs import COLOURS, weight_sign
from chapto.app.screen.player import Player
from chapto.app.still_layer import StillLayer
from chapto.app.studio import Studio
from chapto.app.theme import text_font
from chapto.clock.passage import Kind
from chapto.paint.colours import FIRST, INK, INK_SOFT, PAPER, PAPER_DEEP, PASSAGES, WHITE, see_through
from chapto.paint.lettering import write
from chapto.paint.plates import plate

HIGH = 104
CHAPTERS, PASSAGE, PINS = 8, 36, 66
"""Pixels from the top to the chapters, to the passages, and to the first row of signs."""
ROW, ROWS = 14, 3
"""Signs that would lie on one another hang below."""
NEAR = 9.0
"""Pixels within which a sign is pressed."""


class FindingsStrip(QWidget):
    """A press on a sign chooses what was found there, anywhere else it moves the playhead."""

    def __init__(self, studio: Studio, player: Player, choose: Callable[[Row], object]) -> None:
        super().__init__()
        self._studio, self._player, self._choose = studio, player, choose
        self._rows: tuple[Row, ...] = ()
        self._chosen: Row | None = None
        self._places: list[tuple[QPointF, Row]] = []
        self._still = StillLayer()
        self.setFixedHeight(HIGH)
        self.setAccessibleName("What was found, at its second")
        self.setMouseTracking(True)
        studio.compiled.connect(self._forget)
        player.moved.connect(self.update)

    def sizeHint(self) -> QSize:
        """As wide as there is room."""
        return QSize(600, HIGH)

    def show_rows(self, rows: tuple[Row, ...], chosen: Row | None) -> None:
        """Show other findings, with one of them chosen."""
        timed = tuple(r for r in rows if r.finding is not None and r.finding.at is not None)
        if timed != self._rows:
            self._rows = timed
            self._forget()
        self._chosen = chosen
        self.update()

    def paintEvent(self, event: QPaintEvent | None) -> None:
        """The programme and the signs, the chosen one's places, the playhead."""
        p, programme = QPainter(self), self._studio.programme
        p.setRenderHint(QPainter.RenderHint.Antialiasing)
        self._still.paint(p, self, self._paint_still)
        x = self._chosen.finding if self._chosen is not None else None
        if x is not None and programme.frames:
            p.setPen(QPen(QColor(COLOURS[x.weight]), 1.4))
            for at in (x.at, *(w.at for w in x.more)):
                if at is not None:
                    p.drawLine(QLineF(self._x(float(at)), PASSAGE - 4, self._x(float(at)), HIGH - 6))
            for at_pixel, row in self._places:
                if row.key == self._chosen.key if self._chosen else False:
                    p.setPen(QPen(QColor(INK), 1.6))
                    p.setBrush(Qt.BrushStyle.NoBrush)
                    p.drawEllipse(at_pixel, 9.0, 9.0)
        if programme.frames:
            head = self._x(float(self._player.head.frame / programme.fps))
            p.setPen(QPen(QColor(FIRST), 2))
            p.drawLine(QLineF(head, 4, head, HIGH - 4))
        p.end()

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        """Choose what was found there, or go there."""
        assert event is not None
        row = self._row_at(event.position())
        if row is not None:
            self._choose(row)
        else:
            self._go(event.position().x())

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        """Drag along the programme; a sign says what it is."""
        assert event is not None
        if event.buttons() & Qt.MouseButton.LeftButton:
            self._go(event.position().x())
            return
        row = self._row_at(event.position())
        self.setToolTip(row.text if row is not None else "")

    def _go(self, x: float) -> None:
        programme = self._studio.programme
        unit = (self.width() - 2 * MARGIN) / max(programme.frames, 1)
        self._player.show_frame(int((x - MARGIN) / unit))

    def _row_at(self, place: QPointF) -> Row | None:
        near = [(abs(at.x() - place.x()) + abs(at.y() - place.y()), i) for i, (at, _) in enumerate(self._places)]
        found = min(near, default=(NEAR + 1, 0))
        return self._places[found[1]][1] if found[0] <= NEAR else None

    def _x(self, seconds: float) -> float:
        whole = max(float(self._studio.programme.seconds), 0.1)
        return MARGIN + seconds * (self.width() - 2 * MARGIN) / whole

    def _paint_still(self, p: QPainter) -> None:
        programme = self._studio.programme
        p.fillRect(self.rect(), QColor(PAPER))
        self._places = []
        if not programme.frames:
            return
        unit = (self.width() - 2 * MARGIN) / programme.frames
        p.setFont(text_font(12, 500))
        for chapter, end in programme.chapter_spans():
            box = QRectF(MARGIN + chapter.start * unit + 1, CHAPTERS, (end - chapter.start) * unit - 2, 22)
            plate(p, box, 3, PAPER_DEEP)
            write(p, box.adjusted(6, 0, -4, 0), chapter.title, INK_SOFT)
        p.setPen(Qt.PenStyle.NoPen)
        for passage in programme.passages:
            box = QRectF(MARGIN + passage.watch_in * unit, PASSAGE, passage.frames * unit, 14)
            p.fillRect(box, QColor(PASSAGES[passage.kind]))
            if passage.kind in (Kind.AGAIN, Kind.LOOP):
                p.fillRect(box, QBrush(see_through(WHITE, 90), Qt.BrushStyle.BDiagPattern))
        ends = [-100.0] * ROWS
        # In the order of time, so that neighbours hang below one another.
        for row in sorted(self._rows, key=lambda r: float(r.finding.at or 0) if r.finding else 0.0):
            if row.finding is None or row.finding.at is None:
                continue
            x = self._x(float(row.finding.at))
            level = next((i for i, end in enumerate(ends) if x - end >= ROW), min(range(ROWS), key=lambda i: ends[i]))
            ends[level] = x
            at = QPointF(x, PINS + ROW * level)
            p.setPen(QPen(see_through(INK_SOFT, 110), 1))
            p.drawLine(QLineF(x, PASSAGE + 14, x, at.y() - 5))
            weight_sign(p, at, 4.5, row.finding.weight, left=row.waiver is not None)
            self._places.append((at, row))

    def _forget(self) -> None:
        self._still.forget()
        self.update()
