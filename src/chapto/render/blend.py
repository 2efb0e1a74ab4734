"""Laying small painted boxes over YUV frames without touching the rest of the picture."""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache

import av
import cv2
import numpy as np
from numpy.typing import NDArray
from PyQt6.QtGui import QImage

from chapto.media.frame_converter import GROUND

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


def yuv_planes(rgb: NDArray[np.uint8]) -> tuple[NDArray[np.float32], ...]:
    """(height, width, 3) RGB to Y, Cb, Cr in video range at full resolution (ITU-R BT.709)."""
    made = cv2.transform(np.ascontiguousarray(rgb, np.float32), _TO_YUV)
    return tuple(np.asarray(made[..., i], dtype=np.float32) for i in range(3))


def _to_yuv() -> NDArray[np.float32]:
    """Rows of Y, Cb, Cr over red, green, blue (0…255) and one: video range, ITU-R BT.709."""
    luma = np.array([0.2126, 0.7152, 0.0722])
    blue, red = np.array([0, 0, 1.0]) - luma, np.array([1.0, 0, 0]) - luma
    rows = [np.append(219 * luma / 255, 16), np.append(224 * blue / 1.8556 / 255, 128)]
    return np.array([*rows, np.append(224 * red / 1.5748 / 255, 128)], np.float32)


_TO_YUV = _to_yuv()


def yuv_box(image: QImage) -> YuvBox:
    """`image` (even sides) ready for blending. Its colours are multiplied by how much they cover already, which keeps
    everything linear: the offsets of the video range are multiplied too, in the fourth column of one matrix."""
    # Four channels into four is what OpenCV does quickest: light, both colours, and how much is covered.
    made = cv2.transform(premultiplied(image).astype(np.float32), _BOX)
    small = cv2.resize(made, (image.width() // 2, image.height() // 2), interpolation=cv2.INTER_AREA)
    y, u, v = ((np.asarray(p) + 0.5).astype(np.uint16) for p in (made[..., 0], small[..., 1], small[..., 2]))
    keep = [(256.5 - np.asarray(p)).astype(np.uint16) for p in (made[..., 3], small[..., 3])]
    return YuvBox((y, u, v), (keep[0], keep[1]))


def _box_matrix() -> NDArray[np.float32]:
    """Rows of Y, Cb, Cr and what is covered, in 256ths, over premultiplied red, green, blue and alpha (0…255)."""
    rows = [np.append(row[:3], row[3] / 255) for row in _TO_YUV]
    return np.array([*rows, [0, 0, 0, 1 / 255]], np.float32) * np.float32(256)


_BOX = _box_matrix()


def premultiplied(image: QImage) -> NDArray[np.uint8]:
    """A picture as (height, width, 4) RGBA with its colours multiplied by how much they cover."""
    plain = image.convertToFormat(QImage.Format.Format_RGBA8888_Premultiplied)
    bits = plain.constBits()
    assert bits is not None
    flat = np.frombuffer(bits.asstring(plain.sizeInBytes()), dtype=np.uint8)
    rows = flat.reshape(plain.height(), plain.bytesPerLine())[:, : plain.width() * 4]
    return rows.reshape(plain.height(), plain.width(), 4)


def _halved(plane: NDArray[np.float32]) -> NDArray[np.float32]:
    h, w = plane.shape
    return np.asarray(cv2.resize(plane, (w // 2, h // 2), interpolation=cv2.INTER_AREA), dtype=np.float32)


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


def frame_of_ground(width: int, height: int) -> av.VideoFrame:
    """A yuv420p frame of the ground that lies round pictures."""
    frame = av.VideoFrame(width, height, "yuv420p")
    for plane, value in zip(planes_of(frame), _ground(), strict=True):
        plane[:] = value
    return frame


@lru_cache(maxsize=1)
def _ground() -> tuple[int, int, int]:
    luma, cb, cr = (round(float(plane[0, 0])) for plane in yuv_planes(np.array([[GROUND]], np.uint8)))
    return luma, cb, cr


def put(frame: av.VideoFrame, picture: av.VideoFrame, x: int, y: int) -> None:
    """Copy `picture` into `frame` (both yuv420p, `frame` its own buffer) with its corner at the even place (x, y)."""
    for i, (target, source) in enumerate(zip(planes_of(frame), planes_of(picture), strict=True)):
        px, py = (x, y) if i == 0 else (x // 2, y // 2)
        h, w = source.shape
        target[py : py + h, px : px + w] = source
