"""What marks do to the picture, carried out on yuv420p frames."""

from __future__ import annotations

import av
import cv2
import numpy as np
from numpy.typing import NDArray
from PyQt6.QtGui import QColor

from chapto.paint.colours import SPRUCE
from chapto.paint.effects import CELLS, EDGE, Blur, Effect, Magnified, Veil
from chapto.paint.lens import Lens
from chapto.render.blend import frame_of_ground, planes_of, yuv_planes

Plane = NDArray[np.uint8]
BAND_CELLS, BAND_LIGHT = 24, 0.42
"""How coarse the picture is beside itself, and which share of its light and colour it keeps there."""


def apply(frame: av.VideoFrame, effect: Effect) -> None:
    """Carry one effect out on a frame (yuv420p, its own buffer)."""
    if isinstance(effect, Blur):
        _blur(frame, effect)
    elif isinstance(effect, Veil):
        _veil(frame, effect)
    else:
        magnify(frame, frame, effect, 1.0)


def magnify(frame: av.VideoFrame, source: av.VideoFrame, effect: Magnified, scale: float) -> None:
    """Show a spot of `source`, a picture `scale` times as large as `frame`, in its window."""
    t = effect.target
    x, y, w, h = (round(v / 2) * 2 for v in (t.x(), t.y(), t.width(), t.height()))
    for i, (into, of) in enumerate(zip(planes_of(frame), planes_of(source), strict=True)):
        by = 1 if i == 0 else 2
        s = effect.source
        matrix = np.array(
            [[s.width() * scale / w, 0, s.x() * scale / by], [0, s.height() * scale / h, s.y() * scale / by]],
            np.float64,
        )
        flags = cv2.INTER_CUBIC | cv2.WARP_INVERSE_MAP
        made = cv2.warpAffine(of, matrix, (w // by, h // by), flags=flags, borderMode=cv2.BORDER_REPLICATE)
        region = into[y // by : (y + h) // by, x // by : (x + w) // by]
        region[:] = made[: region.shape[0], : region.shape[1]]


def moved(picture: av.VideoFrame, lens: Lens, scale: int) -> av.VideoFrame:
    """A frame of the size of the lens's place, in which `picture` lies as the lens says on the ground. It is the
    footage's own, without bars, `scale` times as large as the whole is shown."""
    x, y, width, height = lens.place
    frame = frame_of_ground(width, height)
    # From shown pixels, counted from the place's corner, back to those of the file's picture.
    there, whole, box = np.vstack([lens.matrix(), [0, 0, 1]]), lens.picture(), lens.seen()
    corner = np.array([[1, 0, x], [0, 1, y], [0, 0, 1.0]])
    own = np.array([[scale, 0, -scale * whole.x()], [0, scale, -scale * whole.y()], [0, 0, 1.0]])
    back = own @ np.linalg.inv(there) @ corner
    for i, (into, of) in enumerate(zip(planes_of(frame), planes_of(picture), strict=True)):
        by = 1 if i == 0 else 2
        # Places lie between the middles of pixels.
        half = np.array([[1, 0, 0.5], [0, 1, 0.5], [0, 0, 1]])
        matrix = np.linalg.inv(half) @ np.diag([1 / by, 1 / by, 1]) @ back @ np.diag([by, by, 1]) @ half
        flags = (cv2.INTER_CUBIC if i == 0 else cv2.INTER_LINEAR) | cv2.WARP_INVERSE_MAP
        h, w = into.shape
        made = cv2.warpAffine(of, matrix[:2], (w, h), flags=flags, borderMode=cv2.BORDER_REPLICATE)
        left, top = round((box.left() - x) / by), round((box.top() - y) / by)
        right, foot = left + round(box.width() / by), top + round(box.height() / by)
        into[top:foot, left:right] = made[top:foot, left:right]
    return frame


def _blur(frame: av.VideoFrame, blur: Blur) -> None:
    """A round spot brought down to a few shades: nobody can be told from it, and nothing brings it back."""
    r = blur.radius * EDGE
    for i, plane in enumerate(planes_of(frame)):
        by = 1 if i == 0 else 2
        height, width = plane.shape
        left, right = int(np.clip((blur.x - r) / by, 0, width)), int(np.clip((blur.x + r) / by + 1, 0, width))
        top, foot = int(np.clip((blur.y - r) / by, 0, height)), int(np.clip((blur.y + r) / by + 1, 0, height))
        if right - left < 2 or foot - top < 2:
            continue
        region = plane[top:foot, left:right]
        few = cv2.resize(region, (CELLS, CELLS), interpolation=cv2.INTER_AREA)
        soft = cv2.resize(few, (right - left, foot - top), interpolation=cv2.INTER_CUBIC)
        x = np.arange(left, right, dtype=np.float32)[None] * by - blur.x
        y = np.arange(top, foot, dtype=np.float32)[:, None] * by - blur.y
        region[:] = np.where(x * x + y * y <= r * r, soft, region)


def _veil(frame: av.VideoFrame, effect: Veil) -> None:
    """Dim to spruce by a mask, in whole numbers."""
    colour = QColor(SPRUCE)
    rgb = np.array([[[colour.red(), colour.green(), colour.blue()]]], np.uint8)
    dark = [round(float(v[0, 0])) for v in yuv_planes(rgb)]
    levels = np.arange(256, dtype=np.float32) / 255
    masks: dict[tuple[int, int], tuple[Plane, Plane]] = {}
    for plane, value in zip(planes_of(frame), dark, strict=True):
        height, width = plane.shape
        if (width, height) not in masks:
            mask = np.asarray(cv2.resize(effect.mask, (width, height), interpolation=cv2.INTER_LINEAR), dtype=np.uint8)
            masks[width, height] = mask, np.asarray(cv2.bitwise_not(mask), dtype=np.uint8)
        mask, light = masks[width, height]
        kept = cv2.multiply(plane, light, scale=1 / 255)
        plane[:] = cv2.add(kept, cv2.LUT(mask, np.round(levels * value).astype(np.uint8)))


def fill_bands(frame: av.VideoFrame, lens: Lens) -> None:
    """Above and below a picture that is wider than its place, lay the picture itself, blurred and dimmed, in the place
    of ground."""
    box = lens.seen()
    for i, plane in enumerate(planes_of(frame)):
        by = 1 if i == 0 else 2
        top, foot = round(box.top() / by), round(box.bottom() / by)
        high, wide = plane.shape
        if top <= 0 and foot >= high:
            continue
        small = cv2.resize(plane[max(top, 0) : foot], (BAND_CELLS, BAND_CELLS * 2), interpolation=cv2.INTER_AREA)
        soft = cv2.resize(cv2.GaussianBlur(small, (0, 0), 2.0), (wide, high), interpolation=cv2.INTER_LINEAR)
        dark = 16 if i == 0 else 128
        soft = (dark + (soft.astype(np.float32) - dark) * BAND_LIGHT).astype(np.uint8)
        plane[: max(top, 0)], plane[foot:] = soft[: max(top, 0)], soft[foot:]
