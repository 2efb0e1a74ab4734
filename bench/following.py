"""How well points are followed through the demo's footage, and how fast: `python -m bench.following`.

Everything is measured against where the generator's joints really are, in pixels of a picture 960 wide, with clicks
that err by three. Speed is told as a ratio to the length of the footage and to decoding it alone.
"""

from __future__ import annotations

import sys
import time

import cv2
import numpy as np
from tests.media.followed import SIZE, Result, Shaken, followed, passed, truth

from chapto.demo.generate import FOOTAGE
from chapto.demo.shots import SHOTS
from chapto.media.camera_path import follow_on_mat
from chapto.media.following import Piece, follow
from chapto.media.reader import FrameReader
from chapto.media.track_pictures import TrackPictures

TABLE = next(s for s in SHOTS if s.name == "table-side-1")
STRETCHES = (8, 20, 32, 44, 50, 61, 70, 85, 95, 103, 110)


def told(name: str, results: list[Result]) -> None:
    errors = np.concatenate([e for r in results for e in r.errors])
    seen = np.concatenate([h for r in results for h in r.called_hidden_seen])
    behind = [h for r in results for h in r.called_hidden_behind]
    found = f", hidden found {np.concatenate(behind).mean():.2f}" if behind else ""
    levels = "  ".join(f"{p} % {np.percentile(errors, p):.2f}" for p in (50, 90, 95, 99))
    print(f"{name}: {levels}, under 20: {(errors < 20).mean():.3f}, called hidden in sight {seen.mean():.3f}{found}")


def mat() -> None:
    for name in ("table-side-1", "far-wall"):
        for second in (10, 32, 50, 70, 85, 100):
            reader = FrameReader(FOOTAGE / f"{name}.mp4")
            pictures, first = Shaken(reader, SIZE), second * 30
            steady = np.array([[(200, 420), (480, 480), (700, 430), (300, 330), (620, 350)]], float)
            begun = cv2.perspectiveTransform(steady, pictures.matrix(first))[0]
            found = follow_on_mat(pictures, [Piece(first, first + 150, start=tuple(p)) for p in begun])
            off = []
            for after in (60, 150):
                true = cv2.perspectiveTransform(steady, pictures.matrix(first + after))[0]
                off.append(np.mean([np.linalg.norm(f.places[after] - t) for f, t in zip(found, true, strict=True)]))
            lost = "" if found[0].lost is None else f", given up after {found[0].lost} pictures"
            print(f"mat, {name} at {second} s, shaken: {off[0]:.2f} at 2 s, {off[1]:.2f} at 5 s{lost}")
            reader.close()


def speed() -> None:
    places, _ = truth(TABLE, 960, 151)
    ends = [(tuple(places[0, w, j]), tuple(places[-1, w, j])) for w in (0, 1) for j in (0, 2, 4, 6)]
    pieces = [Piece(960, 1110, *pair) for pair in ends]
    reader = FrameReader(FOOTAGE / "table-side-1.mp4")
    pictures = TrackPictures(reader, SIZE)
    begun = time.perf_counter()
    for k in range(960, 1111):
        reader.picture(k, *pictures.size, "yuv420p")
    decoding = time.perf_counter() - begun
    begun = time.perf_counter()
    follow(pictures, pieces)
    took = time.perf_counter() - begun
    print(f"eight points both ways: {5 / took:.1f}× real time, {took / decoding:.1f}× what decoding alone takes")


def main() -> int:
    told("one key, 1 s", [followed(TABLE, t, 1.0, 1, seed=t, seen_all_along=True) for t in STRETCHES])
    told("two keys, 5 s", [followed(TABLE, t, 5.0, 2, seed=t) for t in STRETCHES])
    told("three keys, 5 s", [followed(TABLE, t, 5.0, 3, seed=t) for t in STRETCHES])
    told("somebody passes, 4 s", [passed(TABLE, t, 4.0, seed=t) for t in (20, 44, 50, 61, 70, 95, 104)])
    mat()
    speed()
    return 0


if __name__ == "__main__":
    sys.exit(main())
