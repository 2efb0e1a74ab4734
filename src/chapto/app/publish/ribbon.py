"""The finished programme as one ribbon: chapters over passages, with the playhead."""

from __future__ import annotations

from PyQt6.QtCore import QLineF, QRectF, Qt
from PyQt6.QtGui import QBrush, QColor, QMouseEvent, QPainter, QPaintEvent, QPen
from PyQt6.QtWidgets import QWidget

from chapto.app.axis import MARGIN
from chapto.app.screen.player import Player
from chapto.app.still_layer import StillLayer
from chapto.app.studio import Studio
from chapto.app.theme import text_font
from chapto.clock.passage import Kind
from chapto.paint.colours import FIRST, INK, PAPER, PAPER_DEEP, PASSAGES, TIES, WHITE, see_through
from chapto.paint.lettering import write
from chapto.paint.plates import plate
from chapto.programme.programme import TieState


class Ribbon(QWidget):
    """A press or drag moves the playhead in the programme."""

    def __init__(self, studio: Studio, player: Player) -> None:
        super().__init__()
        self._studio, self._player = studio, player
        self.setFixedHeight(70)
        self.setAccessibleName("The finished programme")
        self._ready: list[tuple[int, int]] = []
        self._still = StillLayer()
        studio.compiled.connect(self._compiled)
        player.moved.connect(self.update)

    def paintEvent(self, event: QPaintEvent | None) -> None:
        """Chapters as slips of paper, passages beneath in their colours."""
        p, programme = QPainter(self), self._studio.programme
        p.setRenderHint(QPainter.RenderHint.Antialiasing)
        self._still.paint(p, self, self._paint_programme)
        if programme.frames:
            unit = (self.width() - 2 * MARGIN) / programme.frames
            for start, stop in self._ready:
                p.fillRect(
                    QRectF(MARGIN + start * unit, 59, (stop - start) * unit + 0.5, 4), QColor(TIES[TieState.MET])
                )
            x = MARGIN + self._player.head.frame * (self.width() - 2 * MARGIN) / programme.frames
            p.setPen(QPen(QColor(FIRST), 2))
            p.drawLine(QLineF(x, 5, x, 62))
        p.end()

    def _paint_programme(self, p: QPainter) -> None:
        programme = self._studio.programme
        p.fillRect(self.rect(), QColor(PAPER))
        unit = (self.width() - 2 * MARGIN) / max(programme.frames, 1)
        p.setFont(text_font(12, 500))
        for chapter, end in programme.chapter_spans():
            box = QRectF(MARGIN + chapter.start * unit + 1, 10, (end - chapter.start) * unit - 2, 24)
            plate(p, box, 3, PAPER_DEEP)
            write(p, box.adjusted(7, 0, -5, 0), chapter.title, INK)
        p.setPen(Qt.PenStyle.NoPen)
        for passage in programme.passages:
            box = QRectF(MARGIN + passage.watch_in * unit, 40, passage.frames * unit, 16)
            p.fillRect(box, QColor(PASSAGES[passage.kind]))
            if passage.kind in (Kind.AGAIN, Kind.LOOP):
                p.fillRect(box, QBrush(see_through(WHITE, 90), Qt.BrushStyle.BDiagPattern))

    def show_ready(self, spans: tuple[tuple[int, int], ...]) -> None:
        """Frames that are encoded stand under the passages; none begin anew."""
        self._ready = [*self._ready, *spans] if spans else []
        self.update()

    def _compiled(self) -> None:
        self._still.forget()
        self._ready = []
        self.update()

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        """Go there."""
        assert event is not None
        unit = (self.width() - 2 * MARGIN) / max(self._studio.programme.frames, 1)
        self._player.show_frame(int((event.position().x() - MARGIN) / unit))

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        """Drag along the programme."""
        self.mousePressEvent(event)
