"""A small depth-buffered rasteriser for shaded, tapered, round-ended limbs.

Each limb is a screen-space tapered capsule. Its depth and normal are worked out per pixel, so tangled limbs hide one
another where they really do.
"""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property
from typing import Any

import numpy as np
from numpy.typing import NDArray

Image = NDArray[np.float32]
Picture = NDArray[np.uint8]
Plane = NDArray[np.floating[Any]]


@dataclass(frozen=True)
class Camera:
    """A pinhole camera: position and target in metres, focal length in pixels, picture size in pixels."""

    position: tuple[float, float, float]
    target: tuple[float, float, float]
    focal: float
    width: int = 1280
    height: int = 720

    @cached_property
    def axes(self) -> NDArray[np.float64]:
        """Right, down and forward unit vectors, shaped (3, 3), one a row."""
        forward = np.array(self.target) - np.array(self.position)
        forward /= np.linalg.norm(forward)
        right = np.cross(forward, (0.0, 0.0, 1.0))
        right /= np.linalg.norm(right)
        return np.array([right, np.cross(forward, right), forward])

    def project(self, points: NDArray[np.float64]) -> NDArray[np.float64]:
        """World points (n, 3) to (n, 3): x and y in pixels, depth in metres."""
        cam = (points - np.array(self.position)) @ self.axes.T
        depth = np.maximum(cam[:, 2], 0.05)
        x = self.width / 2 + self.focal * cam[:, 0] / depth
        y = self.height / 2 + self.focal * cam[:, 1] / depth
        return np.stack([x, y, depth], axis=1)


@dataclass(frozen=True)
class Limb:
    """A tapered capsule from `a` to `b` (world, metres) with radii in metres and an RGB colour in 0…1."""

    a: NDArray[np.float64]
    b: NDArray[np.float64]
    radius_a: float
    radius_b: float
    colour: tuple[float, float, float]


LIGHT = np.array([-0.22, -0.16, 0.96])
"""Towards the hall's lamps, almost overhead, so that no camera sees only the shaded side."""


def draw_limbs(picture: Picture, limbs: list[Limb], camera: Camera, *, light: NDArray[np.float64] = LIGHT) -> None:
    """Draw `limbs` over `picture` (height, width, 3), 8-bit RGB, in place, nearest in front."""
    ends = camera.project(np.array([p for limb in limbs for p in (limb.a, limb.b)]))
    heights = np.array([[limb.a[2], limb.b[2]] for limb in limbs])
    sun = (camera.axes @ (light / np.linalg.norm(light))).astype(np.float32)
    reach = np.array([camera.focal * max(limb.radius_a, limb.radius_b) for limb in limbs]).repeat(2) / ends[:, 2]
    x0, y0 = np.maximum(np.floor((ends[:, :2] - reach[:, None]).min(axis=0)) - 3, 0).astype(int)
    x1, y1 = np.maximum(np.ceil((ends[:, :2] + reach[:, None]).max(axis=0)) + 4, 0).astype(int)
    box = picture[y0:y1, x0:x1]
    if box.size == 0:
        return
    canvas: Image = box.astype(np.float32) / np.float32(255)
    ends[:, :2] -= (x0, y0)
    nearest = np.full(canvas.shape[:2], np.inf, dtype=np.float32)
    order = np.argsort(-(ends[0::2, 2] + ends[1::2, 2]))
    for i in order:
        limb = limbs[i]
        _draw(canvas, nearest, ends[2 * i], ends[2 * i + 1], limb, heights[i], camera, sun)
    box[:] = (np.clip(canvas, 0, 1) * 255 + 0.5).astype(np.uint8)


def _draw(
    canvas: Image,
    nearest: Image,
    a: NDArray[np.float64],
    b: NDArray[np.float64],
    limb: Limb,
    heights: NDArray[np.float64],
    camera: Camera,
    sun: Image,
) -> None:
    ra, rb = camera.focal * limb.radius_a / a[2], camera.focal * limb.radius_b / b[2]
    x0 = max(int(min(a[0] - ra, b[0] - rb)) - 2, 0)
    x1 = min(int(max(a[0] + ra, b[0] + rb)) + 3, canvas.shape[1])
    y0 = max(int(min(a[1] - ra, b[1] - rb)) - 2, 0)
    y1 = min(int(max(a[1] + ra, b[1] + rb)) + 3, canvas.shape[0])
    if x0 >= x1 or y0 >= y1:
        return
    px = np.arange(x0, x1, dtype=np.float32)[None, :] - np.float32(a[0])
    py = np.arange(y0, y1, dtype=np.float32)[:, None] - np.float32(a[1])
    dx, dy = np.float32(b[0] - a[0]), np.float32(b[1] - a[1])
    length2 = dx * dx + dy * dy
    t = np.clip((px * dx + py * dy) / max(length2, np.float32(1e-3)), 0, 1)
    ox, oy = px - t * dx, py - t * dy
    r = np.float32(ra) + t * np.float32(rb - ra)
    d = np.sqrt(ox * ox + oy * oy)
    cover = np.clip(r - d + np.float32(0.5), 0, 1)
    nx, ny = ox / r, oy / r
    nz = np.sqrt(np.maximum(1 - nx * nx - ny * ny, 0))
    radius = np.float32(limb.radius_a) + t * np.float32(limb.radius_b - limb.radius_a)
    depth = np.float32(a[2]) + t * np.float32(b[2] - a[2]) - radius * nz
    if length2 < 4 * r.max() ** 2:
        _round_the_near_end(px, py, dx, dy, (ra, rb), (a[2], b[2]), limb, nx, ny, nz, depth)
    near = nearest[y0:y1, x0:x1]
    front = (depth < near) & (cover > 0)
    if not front.any():
        return
    lit = np.maximum(nx * sun[0] + ny * sun[1] - nz * sun[2], 0)
    edge = 1 - nz
    rim = edge * edge * edge
    height = np.float32(heights[0]) + t * np.float32(heights[1] - heights[0])
    shade = (0.46 + 0.6 * lit + 0.12 * nz) * (0.74 + 0.26 * np.clip(height / 0.5, 0, 1)) * (1 - 0.35 * rim)
    gloss = lit * lit * lit
    gloss = 0.10 * gloss * gloss * gloss * gloss
    alpha = np.where(front, cover, 0)[..., None]
    colour = np.array(limb.colour, dtype=np.float32)
    region = canvas[y0:y1, x0:x1]
    region += alpha * (np.clip(colour * shade[..., None] + gloss[..., None], 0, 1) - region)
    near[front & (cover > 0.5)] = depth[front & (cover > 0.5)]


def _round_the_near_end(
    px: Plane,
    py: Plane,
    dx: np.float32,
    dy: np.float32,
    radii: tuple[float, float],
    depths: tuple[float, float],
    limb: Limb,
    nx: Plane,
    ny: Plane,
    nz: Plane,
    depth: Plane,
) -> None:
    """A limb seen end on shows the ball of its nearer end: put its depth and normals in where it is in front."""
    end = int(depths[1] < depths[0])
    sx, sy = (px - dx, py - dy) if end else (px, py)
    sx, sy = sx / np.float32(radii[end]), sy / np.float32(radii[end])
    inside = 1 - sx * sx - sy * sy
    ball = np.float32(depths[end]) - np.float32((limb.radius_a, limb.radius_b)[end]) * np.sqrt(np.maximum(inside, 0))
    front = (inside > 0) & (ball < depth)
    depth[front] = ball[front]
    nx[front], ny[front] = np.broadcast_to(sx, front.shape)[front], np.broadcast_to(sy, front.shape)[front]
    nz[front] = np.sqrt(inside[front])
