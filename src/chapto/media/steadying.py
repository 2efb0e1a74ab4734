"""Taking the shaking of a hand out of a file: its own path, smoothed, and what is between the two.

The path is how the surroundings move from picture to picture: shift, turn and size that most features agree on. Its
sum is smoothed by a Gaussian over centre, turn and size.
"""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path

import numpy as np
from numpy.typing import NDArray

from chapto.errors import Cancelled
from chapto.media.cache import cache_file, is_whole
from chapto.media.kept_arrays import keep_arrays, kept_arrays
from chapto.media.proxy import proxy_path
from chapto.media.reader import FrameReader
from chapto.programme.steady import Steady

VERSION = 1
WIDE = 480
"""Pixels of the long side of the pictures that are compared."""
FEATURES, FEWEST = 220, 12
CALM = 0.7
"""Seconds (standard deviation) over which the path is smoothed: slower movement was meant."""
MOST_CROP = 0.12
"""Of each side: a file that shakes more is steadied as far as this allows."""
_read: dict[str, Steady] = {}


def known_steady(fingerprint: str) -> Steady | None:
    """What was found in a file before; None where nobody looked yet."""
    if fingerprint not in _read:
        kept = kept_arrays(_place(fingerprint), "at", "matrices", "crop")
        if kept is None:
            return None
        found = Steady(kept["at"], kept["matrices"], float(kept["crop"]))
        if not len(found.at) or found.matrices.shape != (len(found.at), 2, 3):
            return None
        _read[fingerprint] = found
    return _read[fingerprint]


def steadied(
    path: Path,
    fingerprint: str,
    *,
    progress: Callable[[float], None] = lambda share: None,
    cancelled: Callable[[], bool] = lambda: False,
) -> Steady:
    """How each picture of a file is moved so that it stands steady; kept in the cache. Raises `Cancelled` when stopped
    and `MediaError` when the file can't be read."""
    known = known_steady(fingerprint)
    if known is not None:
        return known
    file = FrameReader(path)
    quick = None
    try:
        if is_whole(proxy_path(fingerprint)):
            quick = FrameReader(proxy_path(fingerprint), threads=False)
        reader = quick if quick is not None and quick.frames == file.frames else file
        frame = file.frame(0)
        turned = round(frame.rotation / 90) % 2
        width, height = round(frame.width * file.aspect), frame.height
        shape = (height, width) if turned else (width, height)
        steps = _steps(reader, shape, progress, cancelled)
        at = np.array([float(file.seconds_at(i)) for i in range(file.frames)])
    finally:
        file.close()
        if quick is not None:
            quick.close()
    rate = (len(at) - 1) / max(float(at[-1] - at[0]), 1e-6) if len(at) > 1 else 30.0
    found = smoothed(at, steps, shape[0] / shape[1], CALM * rate)
    _read[fingerprint] = found
    keep_arrays(_place(fingerprint), {"at": found.at, "matrices": found.matrices, "crop": np.array(found.crop)})
    return found


def smoothed(at: NDArray[np.float64], steps: NDArray[np.float64], aspect: float, pictures: float) -> Steady:
    """From the steps between pictures, (n − 1, 4): shift right and down (shares of the height), turn (radians) and the
    logarithm of the size, to how each picture is moved. `pictures` is the standard deviation of the Gaussian."""
    from scipy.ndimage import gaussian_filter1d

    path = np.concatenate([np.zeros((1, 4)), np.cumsum(steps, axis=0)])
    calm = gaussian_filter1d(path, pictures, axis=0, mode="nearest")
    by = calm - path
    # As much of it as the crop allows, the same share everywhere.
    for share in np.linspace(1, 0, 21):
        matrices = np.array([_moved(row * share, aspect) for row in by])
        zoom = max((_zoom(m, aspect) for m in matrices), default=1.0)
        if 1 - 1 / zoom <= MOST_CROP:
            break
    middle = np.array([aspect / 2, 0.5])
    larger = matrices * zoom
    larger[:, :, 2] += (1 - zoom) * middle
    return Steady(at, larger, float(1 - 1 / zoom))


def _moved(by: NDArray[np.float64], aspect: float) -> NDArray[np.float64]:
    """A shift, turn and size about the picture's middle as a matrix, (2, 3)."""
    middle = np.array([aspect / 2, 0.5])
    size = np.exp(by[3])
    c, s = np.cos(by[2]) * size, np.sin(by[2]) * size
    turn = np.array([[c, -s], [s, c]])
    return np.column_stack([turn, middle + by[:2] - turn @ middle])


def _zoom(matrix: NDArray[np.float64], aspect: float) -> float:
    """How much larger a moved picture has to be so that it fills its place: its place's corners lie inside it then."""
    middle = np.array([aspect / 2, 0.5])
    back = np.linalg.inv(matrix[:, :2])
    off = np.abs(back @ (middle - matrix[:, 2]) - middle)
    corners = np.array([(-1, -1), (1, -1), (1, 1), (-1, 1)]) * middle
    reach = np.abs(corners @ back.T)
    return float(max((reach / np.maximum(middle - off, 1e-3)).max(), 1.0))


def _steps(
    reader: FrameReader,
    shape: tuple[int, int],
    progress: Callable[[float], None],
    cancelled: Callable[[], bool],
) -> NDArray[np.float64]:
    scale = min(WIDE / max(shape), 1.0)
    width, height = (max(round(v * scale / 2) * 2, 16) for v in shape)
    found = np.zeros((max(reader.frames - 1, 0), 4))
    before = _grey(reader, 0, width, height)
    for i in range(1, reader.frames):
        if cancelled():
            raise Cancelled
        after = _grey(reader, i, width, height)
        found[i - 1] = _step(before, after)
        before = after
        if i % 30 == 0:
            progress(i / reader.frames)
    return found


def _grey(reader: FrameReader, number: int, width: int, height: int) -> NDArray[np.uint8]:
    made = reader.picture(number, width, height, "gray").to_ndarray()
    return np.ascontiguousarray(made[:height, :width], dtype=np.uint8)


def _step(before: NDArray[np.uint8], after: NDArray[np.uint8]) -> NDArray[np.float64]:
    """How the surroundings moved from one picture to the next, seen from the picture's middle."""
    import cv2

    height, width = before.shape
    points = cv2.goodFeaturesToTrack(before, FEATURES, 0.005, 9)
    if points is None or len(points) < FEWEST:
        return np.zeros(4)
    there, ok, _ = cv2.calcOpticalFlowPyrLK(before, after, points, None, winSize=(17, 17), maxLevel=3)  # type: ignore[call-overload]
    kept = ok.ravel() == 1
    if int(kept.sum()) < FEWEST:
        return np.zeros(4)
    middle = np.array([width / 2, height / 2], np.float32)
    one, other = points[kept, 0] - middle, there[kept, 0] - middle
    matrix, agree = cv2.estimateAffinePartial2D(one, other, method=cv2.RANSAC, ransacReprojThreshold=1.0)
    if matrix is None or int(agree.sum()) < FEWEST:
        return np.zeros(4)
    size = float(np.hypot(matrix[0, 0], matrix[1, 0]))
    turn = float(np.arctan2(matrix[1, 0], matrix[0, 0]))
    return np.array([matrix[0, 2] / height, matrix[1, 2] / height, turn, np.log(size)])


def _place(fingerprint: str) -> Path:
    return cache_file("tracks", f"{fingerprint}-steady-{VERSION}", ".npz")
