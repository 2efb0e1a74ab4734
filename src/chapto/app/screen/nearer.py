"""How near the picture is looked at: zoom and what lies in the middle. Free of Qt."""

from __future__ import annotations

from dataclasses import dataclass

NEAREST = 8.0
STEP = 1.25
"""Times nearer with one press."""


@dataclass(frozen=True)
class Nearer:
    """`zoom` times the whole picture; `x`, `y` is the place of the picture, 0…1, in the middle of its frame."""

    zoom: float = 1.0
    x: float = 0.5
    y: float = 0.5

    @property
    def is_whole(self) -> bool:
        """Whether the whole picture is seen."""
        return self.zoom <= 1.0

    def zoomed(self, factor: float, at: tuple[float, float] = (0.5, 0.5)) -> Nearer:
        """Nearer by `factor`, so that what lies at a place of the frame (0…1) stays there."""
        zoom = min(max(self.zoom * factor, 1.0), NEAREST)
        # The picture's place under the pointer is kept.
        x, y = self.x + (at[0] - 0.5) / self.zoom, self.y + (at[1] - 0.5) / self.zoom
        return Nearer(zoom, x - (at[0] - 0.5) / zoom, y - (at[1] - 0.5) / zoom)._inside()

    def panned(self, dx: float, dy: float) -> Nearer:
        """Looked at farther right and down by shares of the frame."""
        return Nearer(self.zoom, self.x + dx / self.zoom, self.y + dy / self.zoom)._inside()

    def area(self, left: float, top: float, width: float, height: float) -> tuple[float, float, float, float]:
        """Where the whole picture lies when its frame lies there: left, top, width, height."""
        w, h = width * self.zoom, height * self.zoom
        return left + width / 2 - self.x * w, top + height / 2 - self.y * h, w, h

    def _inside(self) -> Nearer:
        """Never past the picture's edge."""
        half = 0.5 / self.zoom
        return Nearer(self.zoom, min(max(self.x, half), 1 - half), min(max(self.y, half), 1 - half))
