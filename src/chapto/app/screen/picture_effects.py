"""What marks do to the picture, carried out on the screen."""

from __future__ import annotations

from collections.abc import Iterable

import numpy as np
from PyQt6.QtCore import QRect, QRectF, Qt
from PyQt6.QtGui import QColor, QImage, QPainter, QPainterPath

from chapto.paint.colours import SPRUCE
from chapto.paint.effects import CELLS, EDGE, Blur, Effect, Magnified, Veil

_SMOOTH = Qt.TransformationMode.SmoothTransformation
_IGNORE = Qt.AspectRatioMode.IgnoreAspectRatio


def carry_out(image: QImage, size: tuple[int, int], effects: Iterable[Effect], windows: Iterable[Magnified]) -> None:
    """Cover, magnify and dim in `image`, the composed picture; `size` is that of the programme, in whose pixels the
    effects are told."""
    sx, sy = image.width() / size[0], image.height() / size[1]
    effects = tuple(effects)
    for effect in effects:
        if isinstance(effect, Blur):
            _blur(image, effect, sx, sy)
    shown = [(w, image.copy(_scaled(w.source, sx, sy))) for w in windows]
    painter = QPainter(image)
    painter.setRenderHints(QPainter.RenderHint.SmoothPixmapTransform | QPainter.RenderHint.Antialiasing)
    for effect in effects:
        if isinstance(effect, Veil):
            painter.drawImage(image.rect(), _veil(effect))
    for w, part in shown:
        painter.drawImage(_scaled(w.target, sx, sy), part)
    painter.end()


def _blur(image: QImage, blur: Blur, sx: float, sy: float) -> None:
    r = blur.radius * EDGE
    box = _scaled(QRectF(blur.x - r, blur.y - r, 2 * r, 2 * r), sx, sy).intersected(image.rect())
    if box.width() < 2 or box.height() < 2:
        return
    few = image.copy(box).scaled(CELLS, CELLS, _IGNORE, _SMOOTH)
    painter = QPainter(image)
    painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
    spot = QPainterPath()
    spot.addEllipse(QRectF((blur.x - r) * sx, (blur.y - r) * sy, 2 * r * sx, 2 * r * sy))
    painter.setClipPath(spot)
    painter.drawImage(box, few.scaled(box.width(), box.height(), _IGNORE, _SMOOTH))
    painter.end()


def _veil(effect: Veil) -> QImage:
    colour = QColor(SPRUCE)
    height, width = effect.mask.shape
    share = effect.mask.astype(np.float32) / 255
    parts = [np.asarray(c * share, np.float32) for c in (colour.blue(), colour.green(), colour.red())]
    parts.append(effect.mask.astype(np.float32))
    data = np.ascontiguousarray(np.stack(parts, axis=2).round().astype(np.uint8))
    made = QImage(data.tobytes(), width, height, width * 4, QImage.Format.Format_ARGB32_Premultiplied)
    return made.copy()


def _scaled(box: QRectF, sx: float, sy: float) -> QRect:
    return QRect(round(box.x() * sx), round(box.y() * sy), round(box.width() * sx), round(box.height() * sy))
