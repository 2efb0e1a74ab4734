"""The finished programme as one ribbon: chapters over passages, with the playhead."""

from __future__ import annotations

from PyQt6.QtCore import QLineF, QRectF, Qt
from PyQt6.QtGui import QBrush, QColor, QFontMetricsF, QMouseEvent, QPainter, QPaintEvent, QPen
from PyQt6.QtWidgets import QWidget

from chapto.app.screen.player import Player
from chapto.app.studio import Studio
from chapto.app.theme import text_font
from chapto.clock.passage import Kind
from chapto.paint.colours import FIRST, INK, PAPER, PAPER_DEEP, PAPER_LINE, PASSAGES

SIDE = 12.0


class Ribbon(QWidget):
    """A press or drag moves the playhead in the programme."""

    def __init__(self, studio: Studio, player: Player) -> None:
        super().__init__()
        self._studio, self._player = studio, player
        self.setFixedHeight(70)
        self.setAccessibleName("The finished programme")
        studio.compiled.connect(self.update)
        player.moved.connect(self.update)

    def paintEvent(self, event: QPaintEvent | None) -> None:
        """Chapters as slips of paper, passages beneath in their colours."""
        p, programme = QPainter(self), self._studio.programme
        p.setRenderHint(QPainter.RenderHint.Antialiasing)
        p.fillRect(self.rect(), QColor(PAPER))
        if programme.frames:
            unit = (self.width() - 2 * SIDE) / programme.frames
            p.setFont(text_font(12, 500))
            for chapter, end in programme.chapter_spans():
                box = QRectF(SIDE + chapter.start * unit + 1, 10, (end - chapter.start) * unit - 2, 24)
                p.setPen(QPen(QColor(PAPER_LINE), 1))
                p.setBrush(QColor(PAPER_DEEP))
                p.drawRoundedRect(box, 3, 3)
                p.setPen(QColor(INK))
                metrics = QFontMetricsF(p.font())
                text = metrics.elidedText(chapter.title, Qt.TextElideMode.ElideRight, box.width() - 12)
                p.drawText(box.adjusted(7, 0, 0, 0), Qt.AlignmentFlag.AlignVCenter, text)
            p.setPen(Qt.PenStyle.NoPen)
            for passage in programme.passages:
                box = QRectF(SIDE + passage.watch_in * unit, 40, passage.frames * unit, 16)
                p.fillRect(box, QColor(PASSAGES[passage.kind]))
                if passage.kind is Kind.AGAIN:
                    p.fillRect(box, QBrush(QColor(255, 255, 255, 90), Qt.BrushStyle.BDiagPattern))
            x = SIDE + self._player.head.frame * unit
            p.setPen(QPen(QColor(FIRST), 2))
            p.drawLine(QLineF(x, 5, x, 62))
        p.end()

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        """Go there."""
        assert event is not None
        unit = (self.width() - 2 * SIDE) / max(self._studio.programme.frames, 1)
        self._player.show_frame(int((event.position().x() - SIDE) / unit))

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        """Drag along the programme."""
        self.mousePressEvent(event)
