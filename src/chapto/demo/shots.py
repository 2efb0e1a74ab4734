"""The demo's cameras: where each stands, when it runs, and how its clock and microphone differ.

`mat = mat_in + (1 + drift) · t` gives the mat time of a file's second `t`; later stages are checked against it.
"""

from __future__ import annotations

from dataclasses import dataclass

from chapto.demo.raster import Camera
from chapto.demo.scene import CLUB, OPEN, Hall


@dataclass(frozen=True)
class Shot:
    """One demo file: camera, hall, span on its world's clock, frame rate, clock drift, microphone."""

    name: str
    camera: Camera
    hall: Hall
    mat_in: float
    seconds: float
    fps: int
    drift: float
    sound_delay: float
    sound_noise: float
    sound_gain: float
    seed: int
    crf: int
    board: tuple[float, float] | None = None
    fog: tuple[float, float] | None = None

    def mat_at(self, t: float) -> float:
        """World time in seconds at the file's second `t`."""
        return self.mat_in + (1 + self.drift) * t


TABLE = Camera((0.0, -5.6, 1.35), (0.0, 0.0, 0.62), 1500)
WALL = Camera((4.5, 3.7, 2.3), (0.0, 0.0, 0.5), 1480)
CORNER = Camera((-2.2, -4.6, 1.6), (0.1, 0.0, 0.4), 1500)

BOUT = (
    Shot("table-side-1", TABLE, OPEN, 0.0, 118.0, 30, 0.0, 0.016, 0.0030, 0.9, 1, 27, board=(1080, 84)),
    Shot("table-side-2", TABLE, OPEN, 148.4, 91.6, 30, 0.0, 0.016, 0.0030, 0.9, 1, 27, board=(1080, 84)),
    Shot(
        "far-wall", WALL, OPEN, 20.37, 219.0, 30, 18e-6, 0.045, 0.0050, 0.7, 2, 34,
        board=(60, 84), fog=(62.0, 74.0),
    ),
)  # fmt: skip
SPARRING = (Shot("tuesday-round", CORNER, CLUB, 0.0, 40.0, 60, 0.0, 0.014, 0.0040, 0.8, 3, 24),)
SHOTS = BOUT + SPARRING
