"""The hall round the mat: zones, wall, onlookers, clock board and the shadows on the floor."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from PyQt6.QtCore import QPointF, QRectF, Qt
from PyQt6.QtGui import QBrush, QColor, QFont, QImage, QLinearGradient, QPainter, QPolygonF, QRadialGradient

from chapto.demo.body import Joints
from chapto.demo.raster import Camera, Picture

MAT_HALF, ZONE_HALF = 4.0, 2.9


@dataclass(frozen=True)
class Hall:
    """Colours and furniture of one place."""

    mat: str
    zone: str
    floor: str
    wall_top: str
    wall_foot: str
    banner: str
    board: bool
    onlookers: int


OPEN = Hall("#3E6B8A", "#B8543F", "#6F6659", "#D9D3C4", "#A79F8E", "SALTMARSH WINTER OPEN   ·   MAT 2", True, 9)
CLUB = Hall("#4A4E58", "#6C7A58", "#7A5C3E", "#E4E0D6", "#B9B2A2", "TIDEWRACK GRAPPLING", False, 3)


def _polygon(camera: Camera, points: list[tuple[float, float, float]]) -> QPolygonF:
    return QPolygonF([QPointF(x, y) for x, y, _ in camera.project(np.array(points, dtype=float))])


def _square(camera: Camera, half: float) -> QPolygonF:
    return _polygon(camera, [(-half, -half, 0), (half, -half, 0), (half, half, 0), (-half, half, 0)])


def background(hall: Hall, camera: Camera, *, seed: int) -> QImage:
    """The empty hall as `camera` sees it, RGB888."""
    image = QImage(camera.width, camera.height, QImage.Format.Format_RGB888)
    rng = np.random.default_rng(seed)
    painter = QPainter(image)
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    facing = camera.axes[2]
    far = np.array([facing[0], facing[1], 0.0]) / np.hypot(facing[0], facing[1]) * 7.0
    foot = float(camera.project(far[None, :])[0, 1])
    wall = QLinearGradient(0, 0, 0, foot)
    wall.setColorAt(0, QColor(hall.wall_top))
    wall.setColorAt(1, QColor(hall.wall_foot))
    painter.fillRect(image.rect(), QColor(hall.floor))
    painter.fillRect(QRectF(0, 0, camera.width, foot), QBrush(wall))
    painter.fillRect(QRectF(0, foot - 5, camera.width, 6), QColor(hall.wall_foot).darker(135))
    if hall.onlookers:
        painter.drawImage(0, 0, _onlookers(camera, foot, hall.onlookers, rng))
    if hall.banner:
        painter.setFont(_font(26, 600))
        painter.setPen(QColor(60, 66, 64, 190))
        painter.drawText(QRectF(60, 26, camera.width - 120, 40), Qt.AlignmentFlag.AlignLeft, hall.banner)
    painter.setPen(Qt.PenStyle.NoPen)
    painter.setBrush(QColor(hall.zone))
    painter.drawPolygon(_square(camera, MAT_HALF))
    painter.setBrush(QColor(hall.mat))
    painter.drawPolygon(_square(camera, ZONE_HALF))
    painter.setPen(QColor(0, 0, 0, 36))
    for k in range(-4, 5):
        for a, b in (((k, -4, 0), (k, 4, 0)), ((-4, k, 0), (4, k, 0))):
            ends = camera.project(np.array([a, b], dtype=float))
            painter.drawLine(QPointF(*ends[0, :2]), QPointF(*ends[1, :2]))
    painter.end()
    return image


def _onlookers(camera: Camera, foot: float, count: int, rng: np.random.Generator) -> QImage:
    """A few people sitting along the wall, out of focus."""
    small = QImage(camera.width // 8, camera.height // 8, QImage.Format.Format_ARGB32_Premultiplied)
    small.fill(0)
    painter = QPainter(small)
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    painter.setPen(Qt.PenStyle.NoPen)
    for i in range(count):
        x = (i + 0.5 + rng.uniform(-0.3, 0.3)) * small.width() / count
        y = foot / 8 + rng.uniform(0, 1.2)
        hue = QColor.fromHsv(int(rng.integers(0, 360)), int(rng.integers(30, 110)), int(rng.integers(80, 170)))
        painter.setBrush(hue)
        painter.drawRoundedRect(QRectF(x - 2.8, y - 12, 5.6, 9), 2, 2)
        painter.setBrush(QColor("#3A3A44"))
        painter.drawRoundedRect(QRectF(x - 3.4, y - 4.5, 6.8, 5), 2, 2)
        painter.setBrush(QColor.fromHsv(24, int(rng.integers(70, 150)), int(rng.integers(110, 220))))
        painter.drawEllipse(QPointF(x, y - 14), 1.9, 2.2)
    painter.end()
    smooth = Qt.TransformationMode.SmoothTransformation
    return small.scaled(camera.width, camera.height, transformMode=smooth)


def _font(pixels: int, weight: int) -> QFont:
    font = QFont("Barlow Condensed")
    font.setPixelSize(pixels)
    font.setWeight(QFont.Weight(weight))
    return font


def draw_board(painter: QPainter, box: QRectF, *, clock: float, points: tuple[int, int]) -> None:
    """The clock board: time left of the bout in `clock` seconds and the referee's points."""
    painter.setPen(Qt.PenStyle.NoPen)
    painter.setBrush(QColor("#14181A"))
    painter.drawRoundedRect(box, 6, 6)
    left = max(int(np.ceil(clock - 1e-6)), 0)
    painter.setPen(QColor("#F2EBD8"))
    painter.setFont(_font(46, 600))
    top = QRectF(box.x(), box.y() + 4, box.width(), 50)
    painter.drawText(top, Qt.AlignmentFlag.AlignCenter, f"{left // 60}:{left % 60:02d}")
    painter.setFont(_font(30, 600))
    for k, (value, colour) in enumerate(zip(points, ("#E3A33A", "#3AA6B5"), strict=True)):
        cell = QRectF(box.x() + 12 + k * (box.width() / 2 - 4), box.y() + 56, box.width() / 2 - 20, 36)
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(QColor(colour))
        painter.drawRoundedRect(cell, 4, 4)
        painter.setPen(QColor("#14181A"))
        painter.drawText(cell, Qt.AlignmentFlag.AlignCenter, str(value))


SHADOW_SCALE = 4
"""Shadows are soft: they are drawn at a quarter of the size and enlarged."""


def draw_shadows(painter: QPainter, people: list[Joints], camera: Camera) -> None:
    """Soft contact shadows: every joint darkens the mat beneath it, the more the lower it is."""
    spots = []
    for j in people:
        spots += [j.pelvis, j.chest, j.head, (j.pelvis + j.chest) / 2, *j.knees, *j.ankles, *j.wrists, *j.elbows]
        spots += [(h + k) / 2 for h, k in zip(j.hips, j.knees, strict=True)]
        spots += [(h + k) / 2 for h, k in zip(j.knees, j.ankles, strict=True)]
    points = np.array(spots)
    heights = points[:, 2].copy()
    points[:, 0] += 0.12 * heights
    points[:, 1] += 0.1 * heights
    points[:, 2] = 0
    ground = camera.project(points)
    wide = camera.focal * (0.16 + 0.12 * heights) / ground[:, 2]
    flat = wide * max(0.25, float(-camera.axes[2][2]) + 0.12)
    small = QImage(
        camera.width // SHADOW_SCALE, camera.height // SHADOW_SCALE, QImage.Format.Format_ARGB32_Premultiplied
    )
    small.fill(0)
    soft = QPainter(small)
    soft.scale(1 / SHADOW_SCALE, 1 / SHADOW_SCALE)
    soft.setPen(Qt.PenStyle.NoPen)
    for (x, y, _), w, f, height in zip(ground, wide, flat, heights, strict=True):
        strength = int(70 / (1 + 3.2 * height))
        fade = QRadialGradient(QPointF(0, 0), 1.0)
        fade.setColorAt(0, QColor(10, 14, 18, strength))
        fade.setColorAt(0.55, QColor(10, 14, 18, strength // 2))
        fade.setColorAt(1, QColor(10, 14, 18, 0))
        soft.save()
        soft.translate(x, y)
        soft.scale(w, f)
        soft.setBrush(fade)
        soft.drawEllipse(QPointF(0, 0), 1.0, 1.0)
        soft.restore()
    soft.end()
    painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
    painter.drawImage(QRectF(0, 0, camera.width, camera.height), small)


def to_bytes(image: QImage) -> Picture:
    """RGB888 picture as its own (height, width, 3) uint8 array."""
    bits = image.constBits()
    assert bits is not None
    flat = np.frombuffer(bits.asstring(image.sizeInBytes()), dtype=np.uint8)
    rows = flat.reshape(image.height(), image.bytesPerLine())[:, : image.width() * 3]
    return rows.reshape(image.height(), image.width(), 3).copy()
