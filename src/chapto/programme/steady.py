"""How far each picture of a shaky file is moved so that it stands steady."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

Matrix = NDArray[np.float64]


@dataclass(frozen=True)
class Steady:
    """`at` are the seconds into the file at which its pictures begin, (n,); `matrices` (n, 2, 3) move them, in
    shares of the upright picture's height: x from 0 to its width by its height, y from 0 to 1. `crop` is the share of
    the picture's sides that is lost at its edges, so that no edge comes into sight."""

    at: NDArray[np.float64]
    matrices: NDArray[np.float64]
    crop: float

    def matrix(self, seconds: float) -> Matrix:
        """How the picture on show at a second of the file is moved, (2, 3)."""
        # A millionth of a second of slack keeps a time computed from a stamp on that stamp's picture.
        i = int(np.searchsorted(self.at, seconds + 1e-6, side="right")) - 1
        return np.asarray(self.matrices[min(max(i, 0), len(self.at) - 1)])
