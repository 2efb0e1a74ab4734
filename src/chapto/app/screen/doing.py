"""What the picture is doing right now, as a plate in the transport: never over the picture itself."""

from __future__ import annotations

from PyQt6.QtCore import QPointF, QRectF, QSize, Qt
from PyQt6.QtGui import QColor, QPainter, QPaintEvent
from PyQt6.QtWidgets import QSizePolicy, QWidget

from chapto.app.playhead import View
from chapto.app.screen.player import Player
from chapto.app.studio import Studio
from chapto.app.theme import number_font
from chapto.paint.colours import ON_DARK, PASSAGES
from chapto.paint.signs import dot

WIDTH = 98


class Doing(QWidget):
    """Runs, slows, holds, comes again, at which rate; in the footage how fast it is played."""

    def __init__(self, studio: Studio, player: Player) -> None:
        super().__init__()
        self._studio, self._player = studio, player
        self.text, self._colour = "", ON_DARK
        self.setSizePolicy(QSizePolicy.Policy.Fixed, QSizePolicy.Policy.Expanding)
        self.setToolTip("What the picture does")
        player.moved.connect(self._follow)
        player.playing_changed.connect(self._follow)
        studio.compiled.connect(self._follow)
        self._follow()

    def sizeHint(self) -> QSize:
        """Wide enough for the longest word and a rate."""
        return QSize(WIDTH, 26)

    def paintEvent(self, event: QPaintEvent | None) -> None:
        """A dot in the passage's colour, and its name."""
        if not self.text:
            return
        p = QPainter(self)
        p.setRenderHint(QPainter.RenderHint.Antialiasing)
        dot(p, QPointF(6, self.height() / 2), 4, self._colour)
        p.setPen(QColor(ON_DARK))
        p.setFont(number_font(15, 500))
        p.drawText(QRectF(16, 0, self.width() - 16, self.height()), Qt.AlignmentFlag.AlignVCenter, self.text)
        p.end()

    def _follow(self) -> None:
        head, programme = self._player.head, self._studio.programme
        text, colour = "", ON_DARK
        if head.view is View.WATCH and programme.frames:
            p = programme.time_map.passage_at(min(head.frame, programme.frames - 1))
            name = "photo" if p.photo else p.kind.value
            text, colour = name + (f" {float(abs(p.rate)):g}×" if p.rate not in (0, 1) else ""), PASSAGES[p.kind]
        if (text, colour) != (self.text, self._colour):
            self.text, self._colour = text, colour
            self.setAccessibleName(text or "What the picture does")
            self.update()
