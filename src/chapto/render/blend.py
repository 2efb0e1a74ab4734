"""Laying small painted boxes over YUV frames without touching the rest of the picture."""

from __future__ import annotations

from dataclasses import dataclass

import av
import numpy as np
from numpy.typing import NDArray
from PyQt6.QtGui import QImage

Plane = NDArray[np.uint8]


@dataclass(frozen=True)
class YuvBox:
    """A box as the three planes of 4:2:0 with premultiplied values; `keep` planes say how much stays, 0…256."""

    planes: tuple[NDArray[np.uint16], NDArray[np.uint16], NDArray[np.uint16]]
    keep: tuple[NDArray[np.uint16], NDArray[np.uint16]]


def rgba_of(image: QImage) -> NDArray[np.uint8]:
    """A picture as (height, width, 4) RGBA, not premultiplied."""
    plain = image.convertToFormat(QImage.Format.Format_RGBA8888)
    bits = plain.constBits()
    assert bits is not None
    flat = np.frombuffer(bits.asstring(plain.sizeInBytes()), dtype=np.uint8)
    rows = flat.reshape(plain.height(), plain.bytesPerLine())[:, : plain.width() * 4]
    return rows.reshape(plain.height(), plain.width(), 4).copy()


def yuv_planes(rgb: NDArray[np.uint8]) -> tuple[NDArray[np.float64], ...]:
    """(height, width, 3) RGB to Y, Cb, Cr in video range at full resolution (ITU-R BT.709)."""
    r, g, b = (rgb[..., i].astype(np.float64) / 255 for i in range(3))
    y = 0.2126 * r + 0.7152 * g + 0.0722 * b
    return 16 + 219 * y, 128 + 224 * (b - y) / 1.8556, 128 + 224 * (r - y) / 1.5748


def yuv_box(image: QImage) -> YuvBox:
    """`image` (even sides) ready for blending."""
    rgba = rgba_of(image)
    alpha = rgba[..., 3].astype(np.float64) / 255
    small_alpha = _halved(alpha)
    luma, cb, cr = yuv_planes(rgba[..., :3])
    chroma = [_halved(c * alpha) for c in (cb, cr)]
    planes = (luma * alpha, chroma[0], chroma[1])
    y, u, v = (np.round(p * 256).astype(np.uint16) for p in planes)
    keep = tuple(np.round(256 * (1 - a)).astype(np.uint16) for a in (alpha, small_alpha))
    return YuvBox((y, u, v), (keep[0], keep[1]))


def _halved(plane: NDArray[np.float64]) -> NDArray[np.float64]:
    h, w = plane.shape
    return np.asarray(plane.reshape(h // 2, 2, w // 2, 2).mean(axis=(1, 3)))


def planes_of(frame: av.VideoFrame) -> list[Plane]:
    """The planes of a yuv420p frame as writable views, (rows, columns) each."""
    views = []
    for plane in frame.planes:
        rows = np.frombuffer(memoryview(plane), np.uint8)[: plane.line_size * plane.height].reshape(
            plane.height, plane.line_size
        )
        views.append(rows[:, : plane.width])
    return views


def blend(frame: av.VideoFrame, box: YuvBox, x: int, y: int) -> None:
    """Lay `box` over `frame` (yuv420p, its own buffer) with its corner at the even place (x, y)."""
    for i, plane in enumerate(planes_of(frame)):
        px, py = (x, y) if i == 0 else (x // 2, y // 2)
        values, keep = box.planes[i], box.keep[min(i, 1)]
        h, w = values.shape
        region = plane[py : py + h, px : px + w]
        values, keep = values[: region.shape[0], : region.shape[1]], keep[: region.shape[0], : region.shape[1]]
        region[:] = ((region.astype(np.uint32) * keep + values + 128) >> 8).astype(np.uint8)


def frame_from_rgb(image: QImage) -> av.VideoFrame:
    """An opaque picture (even sides) as a yuv420p frame."""
    luma, cb, cr = yuv_planes(rgba_of(image)[..., :3])
    frame = av.VideoFrame(image.width(), image.height(), "yuv420p")
    for view, plane in zip(planes_of(frame), (luma, _halved(cb), _halved(cr)), strict=True):
        view[:] = np.round(plane).astype(np.uint8)
    return frame


def frame_of_black(width: int, height: int) -> av.VideoFrame:
    """A black yuv420p frame in video range."""
    frame = av.VideoFrame(width, height, "yuv420p")
    for plane, value in zip(planes_of(frame), (16, 128, 128), strict=True):
        plane[:] = value
    return frame


def put(frame: av.VideoFrame, picture: av.VideoFrame, x: int, y: int) -> None:
    """Copy `picture` into `frame` (both yuv420p, `frame` its own buffer) with its corner at the even place (x, y)."""
    for i, (target, source) in enumerate(zip(planes_of(frame), planes_of(picture), strict=True)):
        px, py = (x, y) if i == 0 else (x // 2, y // 2)
        h, w = source.shape
        target[py : py + h, px : px + w] = source
