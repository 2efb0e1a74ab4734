"""What a widget paints that does not change while it plays, kept as one picture."""

from __future__ import annotations

from collections.abc import Callable

from PyQt6.QtCore import Qt
from PyQt6.QtGui import QPainter, QPixmap
from PyQt6.QtWidgets import QWidget


class StillLayer:
    """Painted once, then laid down again for every picture of the playhead, until `forget` or another size."""

    def __init__(self) -> None:
        self._kept: QPixmap | None = None

    def forget(self) -> None:
        """Paint anew the next time."""
        self._kept = None

    def paint(self, p: QPainter, widget: QWidget, draw: Callable[[QPainter], object]) -> None:
        """Lay the picture over the whole widget; `draw` paints it where there is none yet."""
        ratio = widget.devicePixelRatioF()
        size = widget.size() * ratio
        if self._kept is None or self._kept.size() != size:
            kept = QPixmap(size)
            kept.setDevicePixelRatio(ratio)
            kept.fill(Qt.GlobalColor.transparent)
            inner = QPainter(kept)
            inner.setRenderHints(QPainter.RenderHint.Antialiasing | QPainter.RenderHint.SmoothPixmapTransform)
            draw(inner)
            inner.end()
            self._kept = kept
        p.drawPixmap(0, 0, self._kept)
