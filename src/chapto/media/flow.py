"""From one picture to the next: where points have gone, by pyramidal Lucas-Kanade.

A point is followed by the median of a cluster of places round it, and once more alone; both are given.
"""

from __future__ import annotations

from dataclasses import dataclass

import cv2
import numpy as np
from numpy.typing import NDArray

Grey = NDArray[np.uint8]
Points = NDArray[np.float32]
WINDOW, LEVELS = 21, 3
RING, PLACES = 9.0, 8
"""A cluster is the point itself and so many places in a ring of that radius in pixels."""
GOOD = 1.0
"""Pixels by which a place may miss itself, followed there and back, and count."""
LOST = 20.0
"""Pixels: an error is at most that large."""
FEWEST = 4
"""Places of a cluster that have to be good; with fewer all of them count."""
ROUND = 140
"""Pixels round the points that are looked at: farther nothing goes from one picture to the next."""


def _cluster() -> Points:
    turns = np.arange(PLACES) * 2 * np.pi / PLACES
    ring = np.stack([np.cos(turns), np.sin(turns)], axis=1) * RING
    return np.concatenate([np.zeros((1, 2)), ring]).astype(np.float32)


CLUSTER = _cluster()
"""Places round a point, (m, 2) pixels; the first is the point itself."""


@dataclass(frozen=True)
class Step:
    """Where (n, 2) points are in the next picture: by their clusters, and `alone` from where each of those was. `error`
    is the median distance in pixels by which a cluster's places miss themselves, followed there and back."""

    points: Points
    alone: Points
    error: NDArray[np.float32]


def step(before: Grey, after: Grey, points: Points, alone: Points) -> Step:
    """Follow points from one picture to another."""
    n, m = len(points), len(CLUSTER)
    places = np.concatenate([(points[:, None] + CLUSTER[None]).reshape(-1, 2), alone]).astype(np.float32)
    left, top, right, bottom = _round(places, before.shape)
    corner = np.array([left, top], np.float32)
    one, other = before[top:bottom, left:right], after[top:bottom, left:right]
    moved, back = _there_and_back(one, other, places - corner)
    missed = np.minimum(np.linalg.norm(back - (places - corner), axis=1), LOST)
    went = moved - (places - corner)
    by_place, errors = went[: n * m].reshape(n, m, 2), missed[: n * m].reshape(n, m)
    good = errors < GOOD
    good[good.sum(1) < FEWEST] = True
    ordered = np.sort(np.where(good[..., None], by_place, np.inf), axis=1)
    counts = good.sum(1)
    lower, upper = ordered[np.arange(n), (counts - 1) // 2], ordered[np.arange(n), counts // 2]
    by = ((lower + upper) / 2).astype(np.float32)
    return Step(points + by, alone + went[n * m :], np.sort(errors, axis=1)[:, m // 2])


def _there_and_back(one: Grey, other: Grey, places: Points) -> tuple[Points, Points]:
    shaped = np.ascontiguousarray(places[:, None])
    criteria = (cv2.TERM_CRITERIA_COUNT | cv2.TERM_CRITERIA_EPS, 20, 0.02)
    options = {"winSize": (WINDOW, WINDOW), "maxLevel": LEVELS, "criteria": criteria}
    moved, found, _ = cv2.calcOpticalFlowPyrLK(one, other, shaped, None, **options)  # type: ignore[call-overload]
    back, again, _ = cv2.calcOpticalFlowPyrLK(other, one, moved, None, **options)  # type: ignore[call-overload]
    lost = ((found == 0) | (again == 0)).ravel() | ~np.isfinite(moved[:, 0]).all(1) | ~np.isfinite(back[:, 0]).all(1)
    moved, back = moved[:, 0], back[:, 0]
    moved[lost] = places[lost]
    back[lost] = places[lost] + LOST
    return moved, back


def _round(places: Points, shape: tuple[int, ...]) -> tuple[int, int, int, int]:
    """The part of a picture that holds the places and what lies round them: left, top, right, bottom."""
    height, width = shape[:2]
    low, high = places.min(0), places.max(0)
    left = int(np.clip(low[0] - ROUND, 0, max(width - 2 * ROUND, 0)))
    top = int(np.clip(low[1] - ROUND, 0, max(height - 2 * ROUND, 0)))
    right = int(np.clip(high[0] + ROUND, min(2 * ROUND, width), width))
    bottom = int(np.clip(high[1] + ROUND, min(2 * ROUND, height), height))
    return left, top, right, bottom


def likeness(one: Grey, place: NDArray[np.float32], patch: Grey) -> float:
    """How alike the picture round a place is to a `patch`, −1…1 (normalised cross-correlation)."""
    found = patch_at(one, place, patch.shape[0])
    return float(cv2.matchTemplate(found, patch, cv2.TM_CCOEFF_NORMED)[0, 0])


def patch_at(picture: Grey, place: NDArray[np.float32], side: int) -> Grey:
    """The square of `side` pixels round a place; beyond the edge the edge goes on."""
    found = cv2.getRectSubPix(picture, (side, side), (float(place[0]), float(place[1])))
    return np.asarray(found, dtype=np.uint8)
