"""Following the joints of the demo's footage, and the distance to where they really are."""

from __future__ import annotations

from dataclasses import dataclass, field

import cv2
import numpy as np
from numpy.typing import NDArray

from chapto.demo.generate import FOOTAGE
from chapto.demo.shots import Shot
from chapto.demo.truth import truth_at
from chapto.media.following import Followed, Piece, follow
from chapto.media.reader import FrameReader
from chapto.media.track_pictures import TrackPictures

SIZE = (1280, 720)
EDGE = 12
"""Pixels beside somebody who passes in which a point is half covered."""
CLICK = 3.0
"""Pixels of error of whoever puts points down."""


@dataclass
class Result:
    """Pixels of a 960 pixel picture from the truth where a point is in sight; how often it was called hidden."""

    errors: list[NDArray[np.float64]] = field(default_factory=list)
    called_hidden_seen: list[NDArray[np.bool_]] = field(default_factory=list)
    called_hidden_behind: list[NDArray[np.bool_]] = field(default_factory=list)
    on_keys: list[float] = field(default_factory=list)

    def percentile(self, share: float) -> float:
        return float(np.percentile(np.concatenate(self.errors), share))


def truth(shot: Shot, first: int, count: int) -> tuple[NDArray[np.float64], NDArray[np.bool_]]:
    """Places (count, 2, 14, 2) in pixels of a 960 pixel picture, and which are in sight."""
    found = [truth_at(shot, k / shot.fps) for k in range(first, first + count)]
    return np.array([t.places for t in found]) * 960 / SIZE[0], np.array([t.seen for t in found])


def followed(
    shot: Shot, second: float, seconds: float, keys: int, *, seed: int, every: int = 1, seen_all_along: bool = False
) -> Result:
    """Follow every joint that is in sight at its keys, evenly spread over a stretch; one key stands at its start."""
    first, count = round(second * shot.fps), round(seconds * shot.fps) + 1
    places, seen = truth(shot, first, count)
    at = [round(i * (count - 1) / max(keys - 1, 1)) for i in range(keys)]
    rng, pieces, meant = np.random.default_rng(seed), [], []
    for who in (0, 1):
        for joint in range(seed % every, 14, every):
            mine = seen[:, who, joint]
            clicks = [places[k, who, joint] + rng.normal(0, CLICK, 2) for k in at]
            if not mine[at].all() or (seen_all_along and not mine.all()):
                continue
            if keys == 1:
                pieces.append(Piece(first, first + count - 1, start=tuple(clicks[0])))
                meant.append((who, joint, 0, clicks[0] - places[0, who, joint]))
            for a, z, one, other in zip(at, at[1:], clicks, clicks[1:], strict=False):
                pieces.append(Piece(first + a, first + z, tuple(one), tuple(other)))
                meant.append((who, joint, a, np.zeros(2)))
    reader = FrameReader(FOOTAGE / f"{shot.name}.mp4")
    found = follow(TrackPictures(reader, SIZE), pieces)
    reader.close()
    result = Result()
    for piece, one, (who, joint, a, off) in zip(pieces, found, meant, strict=True):
        n = len(one.places)
        mine = seen[a : a + n, who, joint]
        # A single key's own error is not the follower's.
        result.errors.append(np.linalg.norm(one.places - places[a : a + n, who, joint] - off, axis=1)[mine])
        result.called_hidden_seen.append(one.hidden[mine])
        result.on_keys.append(_off_its_keys(piece, one))
    return result


def _off_its_keys(piece: Piece, found: Followed) -> float:
    ends = [(piece.start, 0), (piece.end, -1)]
    return max(float(np.abs(found.places[row] - place).max()) for place, row in ends if place is not None)


class Passing(TrackPictures):
    """Somebody in dark trousers who goes past in front of the camera, from left to right."""

    wide = 90

    def goes(self, first: int, count: int, middle: float) -> None:
        self._walk = first, count, middle - 420, middle + 420

    def hides(self, number: int, x: float, margin: float = 0.0) -> bool:
        return abs(x - self._middle(number)) < self.wide / 2 + margin

    def _middle(self, number: int) -> float:
        first, count, start, end = self._walk
        return start + (end - start) * (number - first) / (count - 1)

    def _planes(self, number: int) -> NDArray[np.uint8]:
        if number not in self._kept:
            planes = super()._planes(number)
            width, height = self.size
            left = self._middle(number) - self.wide / 2
            a, z = int(np.clip(left, 0, width)), int(np.clip(left + self.wide, 0, width))
            cloth = np.random.default_rng(5).normal(0, 18, (height, self.wide + 2)).astype(np.float32)
            cloth = cv2.GaussianBlur(cloth, (0, 0), 6) * 3 + 60
            if z > a:
                begin = int(a - left)
                planes[:height, a:z] = np.clip(cloth[:, begin : begin + z - a], 16, 235)
                blue, red = planes[height:].reshape(2, height // 2, -1)
                blue[:, a // 2 : z // 2], red[:, a // 2 : z // 2] = 124, 132
        return super()._planes(number)


def passed(shot: Shot, second: float, seconds: float, *, seed: int, every: int = 1) -> Result:
    """Follow what is in sight all along but for somebody who passes before the camera."""
    first, count = round(second * shot.fps), round(seconds * shot.fps) + 1
    places, seen = truth(shot, first, count)
    reader = FrameReader(FOOTAGE / f"{shot.name}.mp4")
    pictures = Passing(reader, SIZE)
    pictures.goes(first, count, float(places[..., 0].mean()))
    rng, pieces, meant = np.random.default_rng(seed), [], []
    for who in (0, 1):
        for joint in range(seed % every, 14, every):
            path, mine = places[:, who, joint], seen[:, who, joint]
            ends = [pictures.hides(first + k, path[k, 0]) for k in (0, count - 1)]
            if mine.all() and not any(ends):
                clicks = path[[0, -1]] + rng.normal(0, CLICK, (2, 2))
                pieces.append(Piece(first, first + count - 1, tuple(clicks[0]), tuple(clicks[1])))
                meant.append((path, mine))
    result = Result()
    for one, (path, mine) in zip(follow(pictures, pieces), meant, strict=True):
        behind = np.array([pictures.hides(first + k, path[k, 0]) for k in range(count)])
        # What is half covered is neither.
        near = np.array([pictures.hides(first + k, path[k, 0], EDGE) for k in range(count)])
        result.errors.append(np.linalg.norm(one.places - path, axis=1)[mine & ~behind])
        result.called_hidden_behind.append(one.hidden[behind])
        result.called_hidden_seen.append(one.hidden[mine & ~near])
    reader.close()
    return result


class Shaken(TrackPictures):
    """The same pictures from a hand that shakes: turned, shifted, nearer and farther, a little askew."""

    def matrix(self, number: int) -> NDArray[np.float64]:
        """Where a place of the steady picture is in this one: a homography in pixels."""
        t, (width, height) = number / 30, self.size
        turn = 0.012 * np.sin(5.7 * t) + 0.006 * np.sin(14.5 * t + 1)
        size = 1 + 0.02 * np.sin(1.9 * t)
        right = 14 * np.sin(4.4 * t) + 5 * np.sin(19.5 * t) + 40 * np.sin(0.44 * t)
        down = 9 * np.sin(3.3 * t + 0.5) + 4 * np.sin(17 * t)
        c, s = np.cos(turn) * size, np.sin(turn) * size
        x, y = width / 2, height / 2
        askew = (1e-5 * np.sin(5 * t), 8e-6 * np.sin(3.8 * t), 1)
        moved = np.array([[c, -s, right + x - c * x + s * y], [s, c, down + y - s * x - c * y], askew])
        return np.array([[1.16, 0, -0.08 * width], [0, 1.16, -0.08 * height], [0, 0, 1]]) @ moved

    def _planes(self, number: int) -> NDArray[np.uint8]:
        if number not in self._kept:
            planes = super()._planes(number)
            (width, height), whole = self.size, self.matrix(number)
            half = np.diag([0.5, 0.5, 1]) @ whole @ np.diag([2, 2, 1])
            planes[:height] = cv2.warpPerspective(planes[:height], whole, (width, height))
            for colour in planes[height:].reshape(2, height // 2, -1):
                colour[:] = cv2.warpPerspective(colour.copy(), half, (width // 2, height // 2))
        return super()._planes(number)
