"""A body's shape from its joints: limbs as thick strokes, in shares of the stature."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray
from PyQt6.QtCore import QPointF, Qt
from PyQt6.QtGui import QColor, QImage, QPainter, QPainterPath, QPen

from chapto.bodies.posture import Posture
from chapto.bodies.scale import scale_of
from chapto.document.joints import ROW, Joint
from chapto.paint.colours import WHITE

J = Joint
Figure = dict[Joint, QPointF]
LIMBS = (
    (J.LEFT_SHOULDER, J.LEFT_ELBOW, 0.078), (J.RIGHT_SHOULDER, J.RIGHT_ELBOW, 0.078),
    (J.LEFT_ELBOW, J.LEFT_WRIST, 0.062), (J.RIGHT_ELBOW, J.RIGHT_WRIST, 0.062),
    (J.LEFT_HIP, J.LEFT_KNEE, 0.108), (J.RIGHT_HIP, J.RIGHT_KNEE, 0.108),
    (J.LEFT_KNEE, J.LEFT_ANKLE, 0.076), (J.RIGHT_KNEE, J.RIGHT_ANKLE, 0.076),
    (J.LEFT_SHOULDER, J.RIGHT_SHOULDER, 0.1), (J.LEFT_HIP, J.RIGHT_HIP, 0.125), (J.NECK, J.HEAD, 0.07),
)  # fmt: skip
"""From joint to joint, and how thick, as a share of the stature (measured on the demo's figures)."""
TRUNK, HEAD, HAND, FOOT = 0.155, 0.15, 0.085, 0.115
"""Thickness of the trunk, and diameters of head, hand and foot."""
USUAL = 420.0
"""Stature in units where too few joints are there to tell."""


def stature(figure: Figure, unit: float) -> float:
    """The whole height of a figure in pixels."""
    points = np.full((len(ROW), 2), np.nan)
    for joint, at in figure.items():
        points[ROW[joint]] = at.x(), at.y()
    scale = scale_of([Posture(points)])
    return scale.stature if scale is not None else USUAL * unit


def draw_body(p: QPainter, figure: Figure, size: float, *, more: float = 0.0) -> None:
    """Draw a figure's shape in white, `size` pixels of stature, and `more` pixels wider all round."""

    def stroke(path: QPainterPath, share: float) -> None:
        round_cap, round_join = Qt.PenCapStyle.RoundCap, Qt.PenJoinStyle.RoundJoin
        p.setPen(QPen(QColor(WHITE), share * size + 2 * more, Qt.PenStyle.SolidLine, round_cap, round_join))
        p.drawPath(path)

    def dot(at: QPointF, share: float) -> None:
        p.setPen(Qt.PenStyle.NoPen)
        r = share * size / 2 + more
        p.drawEllipse(at, r, r)

    p.setBrush(Qt.BrushStyle.NoBrush)
    for one, other, share in LIMBS:
        if one in figure and other in figure:
            path = QPainterPath(figure[one])
            path.lineTo(figure[other])
            stroke(path, share)
    p.setBrush(QColor(WHITE))
    trunk = [figure[j] for j in (J.LEFT_SHOULDER, J.RIGHT_SHOULDER, J.RIGHT_HIP, J.LEFT_HIP) if j in figure]
    middle = [_middle(figure, J.LEFT_SHOULDER, J.RIGHT_SHOULDER), _middle(figure, J.LEFT_HIP, J.RIGHT_HIP)]
    if len(trunk) > 2:
        path = QPainterPath(trunk[0])
        for at in trunk[1:]:
            path.lineTo(at)
        path.closeSubpath()
        stroke(path, TRUNK * 0.5)
    if middle[0] is not None and middle[1] is not None:
        spine = QPainterPath(middle[0])
        spine.lineTo(middle[1])
        stroke(spine, TRUNK)
    if J.HEAD in figure:
        neck = figure.get(J.NECK, figure[J.HEAD])
        dot(figure[J.HEAD] + (figure[J.HEAD] - neck) * 0.22, HEAD)
    for joint, share in ((J.LEFT_WRIST, HAND), (J.RIGHT_WRIST, HAND), (J.LEFT_ANKLE, FOOT), (J.RIGHT_ANKLE, FOOT)):
        if joint in figure:
            dot(_beyond(figure, joint), share)


def _middle(figure: Figure, one: Joint, other: Joint) -> QPointF | None:
    known = [figure[j] for j in (one, other) if j in figure]
    return sum(known[1:], known[0]) / len(known) if known else None


_BEFORE = {
    J.LEFT_WRIST: J.LEFT_ELBOW, J.RIGHT_WRIST: J.RIGHT_ELBOW, J.LEFT_ANKLE: J.LEFT_KNEE, J.RIGHT_ANKLE: J.RIGHT_KNEE,
}  # fmt: skip


def _beyond(figure: Figure, joint: Joint) -> QPointF:
    """The middle of the hand or foot at a wrist or ankle."""
    before = figure.get(_BEFORE[joint])
    return figure[joint] if before is None else figure[joint] + (figure[joint] - before) * 0.16


def body_mask(figure: Figure, size: tuple[int, int], *, small: int, more: float, unit: float) -> NDArray[np.uint8]:
    """Where a figure is in a picture of `size`, 0…255, in a picture `small` times smaller."""
    image = QImage(-(-size[0] // small), -(-size[1] // small), QImage.Format.Format_Grayscale8)
    image.fill(0)
    p = QPainter(image)
    p.setRenderHint(QPainter.RenderHint.Antialiasing)
    p.scale(1 / small, 1 / small)
    draw_body(p, figure, stature(figure, unit), more=more)
    p.end()
    return grey_of(image)


def grey_of(image: QImage) -> NDArray[np.uint8]:
    """A grey picture as (height, width)."""
    bits = image.constBits()
    assert bits is not None
    flat = np.frombuffer(bits.asstring(image.sizeInBytes()), dtype=np.uint8)
    return flat.reshape(image.height(), image.bytesPerLine())[:, : image.width()].copy()


def outline(mask: NDArray[np.uint8], small: int, unit: float) -> QPainterPath:
    """The edge of what is in a mask, rounded, in pixels of the whole picture."""
    import cv2

    soft = cv2.GaussianBlur(mask, (0, 0), max(6 * unit / small, 0.8))
    found, _ = cv2.findContours((soft > 127).astype(np.uint8), cv2.RETR_EXTERNAL, cv2.CHAIN_APPROX_NONE)
    path = QPainterPath()
    for contour in found:
        points = contour[:, 0].astype(float)[::3]
        if len(points) < 6:
            continue
        around = np.concatenate([points[-2:], points, points[:2]])
        smooth = (around[:-4] + around[1:-3] + around[2:-2] + around[3:-1] + around[4:]) / 5 * small
        path.moveTo(*smooth[0])
        for x, y in smooth[1:]:
            path.lineTo(x, y)
        path.closeSubpath()
    return path
