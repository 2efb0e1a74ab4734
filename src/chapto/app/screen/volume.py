"""How loud it plays: a press mutes, the wheel turns it."""

from __future__ import annotations

from PyQt6.QtCore import QRectF, QSize, Qt
from PyQt6.QtGui import QColor, QPainter, QPainterPath, QPaintEvent, QPen, QWheelEvent
from PyQt6.QtWidgets import QPushButton

from chapto.app.screen.player import Player
from chapto.paint.colours import FIRST, ON_DARK, ON_DARK_OFF

STEP = 0.1


class Volume(QPushButton):
    """A loudspeaker with as many bars as it is loud."""

    def __init__(self, player: Player) -> None:
        super().__init__()
        self._player = player
        self.setFixedSize(QSize(44, 29))
        self.setCursor(Qt.CursorShape.PointingHandCursor)
        self.clicked.connect(lambda: player.mute())
        player.playing_changed.connect(self._follow)
        self._follow()

    def wheelEvent(self, event: QWheelEvent | None) -> None:
        """Louder or quieter."""
        assert event is not None
        self._player.set_volume(self._player.volume + (STEP if event.angleDelta().y() > 0 else -STEP))

    def paintEvent(self, event: QPaintEvent | None) -> None:
        """The sign on the button's own ground."""
        super().paintEvent(event)
        p = QPainter(self)
        p.setRenderHint(QPainter.RenderHint.Antialiasing)
        volume = self._player.volume
        p.setPen(QPen(QColor(ON_DARK), 1.6))
        horn = QPainterPath()
        for i, (x, y) in enumerate(((10, 12), (14, 12), (19, 8), (19, 21), (14, 17), (10, 17))):
            horn.moveTo(x, y) if i == 0 else horn.lineTo(x, y)
        horn.closeSubpath()
        p.drawPath(horn)
        for i in range(4):
            p.fillRect(
                QRectF(23 + i * 4, 18 - i * 3, 2.4, 3 + i * 3), QColor(ON_DARK if volume > i / 4 else ON_DARK_OFF)
            )
        if volume == 0:
            p.setPen(QPen(QColor(FIRST), 1.8))
            p.drawLine(9, 23, 36, 6)
        p.end()

    def _follow(self) -> None:
        volume = self._player.volume
        said = "Muted" if volume == 0 else f"Volume {volume:.0%}"
        self.setToolTip(f"{said}: press to mute or hear again (Ctrl+Alt+M), the wheel turns it")
        self.setAccessibleName(said)
        self.update()
