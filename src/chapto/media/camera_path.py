"""How the camera itself moved: where a place on the mat, put down in one picture, is in the others.

Features of the surroundings are held to the key picture, which is laid over each later one as it is guessed to lie: so
nothing adds up. A homography that most features agree on carries places over, so whoever moves does not count.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass, field

import cv2
import numpy as np
from numpy.typing import NDArray

from chapto.errors import Cancelled
from chapto.media.following import Followed, Piece
from chapto.media.track_pictures import TrackPictures

Matrix = NDArray[np.float64]
Points = NDArray[np.float32]
Grey = NDArray[np.uint8]
Flags = NDArray[np.bool_]
WIDE = 640
"""Pixels of the long side of the pictures that are compared."""
FEWEST, ENOUGH = 14, 0.25
"""With fewer features that agree the path is lost; with a smaller share of those there were, new ones are taken."""
CELL, A_CELL, WEAKEST = 40, 2, 2e-5
"""Pixels of the side of a cell, the most features in one, and the weakest corner (minimal eigenvalue) that is one. Few
a cell: somebody near has many corners, and the wall behind few."""
NEAR, EXACT, AGREES = 3.0, 0.4, 1.0
"""Pixels by which a feature may miss what is similar to the guess, the homography while it is looked for, and then."""
TIMES, MOST = 2, 0.6
"""The key picture is laid over a picture so often until this share of the features agrees."""
PATIENCE = 8
"""Pictures in which a feature may disagree before it goes, and so many with too few before new ones are taken."""


@dataclass
class CameraPath:
    """From a key picture to each that follows it (or comes before it): homographies in pixels of the key picture and
    whether each can be believed."""

    matrices: list[Matrix] = field(default_factory=list)
    sound: list[bool] = field(default_factory=list)


def camera_path(
    pictures: TrackPictures, key: int, last: int, *, cancelled: Callable[[], bool] = lambda: False
) -> CameraPath:
    """Homographies from picture `key` to each up to `last` (which may be before it), itself first, in pixels of
    `pictures`. Raises `Cancelled` when stopped."""
    scale = min(WIDE / max(pictures.size), 1.0)
    size = round(pictures.size[0] * scale), round(pictures.size[1] * scale)
    walk = _Walk(pictures.contrast(key, size))
    path = CameraPath([np.eye(3)], [True])
    up, down = np.diag([1 / scale, 1 / scale, 1.0]), np.diag([scale, scale, 1.0])
    for number in range(key + 1, last + 1) if last > key else range(key - 1, last - 1, -1):
        if cancelled():
            raise Cancelled
        if last < key:
            pictures.going_back(number, last)
        path.sound.append(walk.go(pictures.contrast(number, size)))
        path.matrices.append(up @ walk.matrix @ down)
    return path


def follow_on_mat(
    pictures: TrackPictures,
    pieces: Sequence[Piece],
    *,
    progress: Callable[[float], None] = lambda share: None,
    cancelled: Callable[[], bool] = lambda: False,
) -> list[Followed]:
    """Follow places on the mat through their pieces: by the path from each key, blended evenly between two."""
    paths: dict[tuple[int, int], CameraPath] = {}

    def path(key: int, last: int) -> CameraPath:
        if (key, last) not in paths:
            paths[key, last] = camera_path(pictures, key, last, cancelled=cancelled)
        return paths[key, last]

    found = []
    for i, piece in enumerate(pieces):
        ahead = _carried(path(piece.first, piece.last), piece.start) if piece.start else None
        back = _carried(path(piece.last, piece.first), piece.end) if piece.end else None
        found.append(_joined(piece, ahead, back))
        progress((i + 1) / len(pieces))
    return found


def _carried(path: CameraPath, place: tuple[float, float]) -> tuple[Points, NDArray[np.bool_]]:
    at = np.array([[place]], np.float64)
    places = [cv2.perspectiveTransform(at, m)[0, 0] for m in path.matrices]
    # What was lost once is not believed again.
    return np.array(places, np.float32), np.logical_and.accumulate(np.array(path.sound))


def _joined(
    piece: Piece,
    ahead: tuple[Points, NDArray[np.bool_]] | None,
    back: tuple[Points, NDArray[np.bool_]] | None,
) -> Followed:
    n = piece.last - piece.first + 1
    one = ahead if ahead is not None else None
    other = (back[0][::-1], back[1][::-1]) if back is not None else None
    if one is not None and other is not None:
        weight = np.where(one[1] & other[1], np.linspace(0, 1, n), np.where(other[1], 1.0, 0.0))
        weight[0], weight[-1] = 0.0, 1.0
        places = one[0] * (1 - weight[:, None]) + other[0] * weight[:, None]
        apart = np.linalg.norm(one[0] - other[0], axis=1) / 6
        doubt = np.where(one[1] | other[1], np.where(one[1] & other[1], apart, 0.5), 1.0)
        return Followed(places.astype(np.float32), doubt.astype(np.float32), np.zeros(n, np.bool_))
    way = one if one is not None else other
    assert way is not None
    doubt = np.where(way[1], 0.0, 1.0).astype(np.float32)
    away = np.flatnonzero(~way[1] if one is not None else ~way[1][::-1])
    lost = None if not len(away) else int(away[0]) if one is not None else n - 1 - int(away[0])
    return Followed(way[0].astype(np.float32), doubt, ~way[1], lost)


class _Walk:
    """Features held to a key picture while pictures go by. Where too little of it is left in sight, the picture of that
    moment takes its place."""

    def __init__(self, key: Grey) -> None:
        self.matrix: Matrix = np.eye(3)
        self._few = 0
        self._last = key
        self._hold_to(key, np.eye(3))

    def go(self, picture: Grey) -> bool:
        """On to the next picture; whether enough features agree on where it lies."""
        # First roughly, from the picture before, then exactly, against the key picture laid over this one.
        seen = _through(self.matrix @ self._inverse, self._points)
        there, kept = _moved(self._last, picture, seen)
        self._last = picture
        rough = _similarity(seen[kept], there[kept])
        if rough is None:
            return False
        guess = rough @ self.matrix @ self._inverse
        for _ in range(TIMES):
            # Laid over a second time where the first guess lay too far off for most.
            fit = self._fit(picture, guess)
            if fit is None:
                return False
            guess, agree, in_sight = fit
            if int(agree.sum()) > MOST * int(in_sight.sum()):
                break
        self.matrix = guess @ self._of_key
        few = int(agree.sum()) < ENOUGH * self._at_first
        self._judge(agree, in_sight)
        self._few = self._few + 1 if few else 0
        if self._few >= PATIENCE or int(in_sight.sum()) < ENOUGH * self._at_first or len(self._points) < FEWEST * 2:
            self._hold_to(picture, self.matrix)
        return True

    def _fit(self, picture: Grey, guess: Matrix) -> tuple[Matrix, Flags, Flags] | None:
        """From the key picture to this one, starting from a guess; which features agree, and which are in sight."""
        size = picture.shape[1], picture.shape[0]
        laid = np.asarray(cv2.warpPerspective(self._key, guess, size), dtype=np.uint8)
        expected = _through(guess, self._points)
        there, kept = _moved(laid, picture, expected)
        kept &= _inside(expected, picture.shape) & _inside(there, picture.shape)
        found = _homography(self._points[kept], there[kept], guess)
        if found is None:
            return None
        agree = np.zeros(len(kept), np.bool_)
        agree[np.flatnonzero(kept)] = np.linalg.norm(_through(found, self._points[kept]) - there[kept], axis=1) < AGREES
        return (found, agree, kept) if int(agree.sum()) >= FEWEST else None

    def _hold_to(self, picture: Grey, matrix: Matrix) -> None:
        """Hold to the features of a picture from now on; `matrix` leads to it from the very first."""
        self._key, self._of_key, self._inverse = picture, matrix, np.linalg.inv(matrix)
        self._points = _features(picture)
        self._votes = np.zeros(len(self._points))
        self._at_first, self._few = float(len(self._points)), 0

    def _judge(self, agree: Flags, seen: Flags) -> None:
        """Features that disagree again and again lie on somebody who moves: they go."""
        self._votes += np.where(agree, -0.5, np.where(seen, 1.0, 0.0))
        self._votes = np.maximum(self._votes, -6)
        stays = self._votes < PATIENCE
        self._points, self._votes = self._points[stays], self._votes[stays]


def _similarity(one: Points, other: Points) -> Matrix | None:
    """Shift, turn and size that most points agree on."""
    if len(one) < FEWEST:
        return None
    found, agree = cv2.estimateAffinePartial2D(one, other, method=cv2.RANSAC, ransacReprojThreshold=2.0)
    if found is None or int(agree.sum()) < FEWEST:
        return None
    return np.vstack([found, [0, 0, 1]]).astype(np.float64)


def _homography(one: Points, other: Points, guess: Matrix) -> Matrix | None:
    """What most points agree on, in two steps: what lies far off shift, turn and size is on somebody who moves, and so
    many freedoms would be bent to it."""
    laid = _through(guess, one)
    similar = _similarity(laid, other)
    if similar is None:
        return None
    near = np.linalg.norm(_through(similar, laid) - other, axis=1) < NEAR
    if int(near.sum()) < FEWEST:
        return None
    one, other = one[near], other[near]
    found, _ = cv2.findHomography(one, other, cv2.RANSAC, EXACT, maxIters=3000, confidence=0.9999)
    # What it gives is near; those that agree say it exactly.
    for within in (AGREES, AGREES / 2):
        if found is None or not _is_sane(np.asarray(found, np.float64)):
            return None
        agree = np.linalg.norm(_through(np.asarray(found, np.float64), one) - other, axis=1) < within
        if int(agree.sum()) < FEWEST:
            return None
        found, _ = cv2.findHomography(one[agree], other[agree], 0)
    exact = None if found is None else np.asarray(found, dtype=np.float64)
    return exact if exact is not None and _is_sane(exact) else None


def _inside(points: Points, shape: tuple[int, ...]) -> NDArray[np.bool_]:
    height, width = shape[:2]
    return np.asarray((points >= 8).all(1) & (points[:, 0] < width - 8) & (points[:, 1] < height - 8))


def _features(picture: Grey) -> Points:
    """Corners that can be found again, spread over the whole picture, (n, 2)."""
    strength = cv2.cornerMinEigenVal(picture, 5)
    peaks = (strength == cv2.dilate(strength, np.ones((9, 9), np.uint8))) & (strength > WEAKEST)
    rows, columns = np.nonzero(peaks)
    order = np.argsort(-strength[rows, columns])
    rows, columns = rows[order], columns[order]
    taken: dict[int, int] = {}
    kept = []
    for k, cell in enumerate(rows // CELL * 1000 + columns // CELL):
        taken[cell] = taken.get(cell, 0) + 1
        if taken[cell] <= A_CELL and 8 < columns[k] < picture.shape[1] - 8 and 8 < rows[k] < picture.shape[0] - 8:
            kept.append(k)
    return np.stack([columns[kept], rows[kept]], axis=1).astype(np.float32)


def _moved(before: Grey, after: Grey, points: Points) -> tuple[Points, NDArray[np.bool_]]:
    """Where points are in the next picture, and which of them come back to where they were."""
    if not len(points):
        return points, np.zeros(0, np.bool_)
    shaped = np.ascontiguousarray(points[:, None])
    there, one, _ = cv2.calcOpticalFlowPyrLK(before, after, shaped, None, winSize=(21, 21), maxLevel=3)  # type: ignore[call-overload]
    back, other, _ = cv2.calcOpticalFlowPyrLK(after, before, there, None, winSize=(21, 21), maxLevel=3)  # type: ignore[call-overload]
    kept = (one.ravel() == 1) & (other.ravel() == 1) & (np.linalg.norm(back - shaped, axis=2).ravel() < 0.7)
    return np.asarray(there[:, 0], dtype=np.float32), np.asarray(kept)


def _through(matrix: Matrix, points: Points) -> Points:
    if not len(points):
        return points
    return np.asarray(
        cv2.perspectiveTransform(points[None].astype(np.float64), np.asarray(matrix, np.float64))[0], np.float32
    )


def _is_sane(matrix: Matrix) -> bool:
    """Whether it is a camera that moved, and no picture turned inside out."""
    size = float(np.linalg.det(np.asarray(matrix, np.float64)[:2, :2]))
    return bool(np.isfinite(matrix).all() and 0.2 < size < 5 and np.abs(matrix[2, :2]).max() < 2e-3)
