"""The zoom and place of a time axis on the screen. Free of Qt."""

from __future__ import annotations

from dataclasses import dataclass

CLOSEST = 400.0
"""Pixels a second at the closest: at 30 frames a second, 13 pixels a frame."""
MARGIN = 14.0


@dataclass
class Axis:
    """Maps seconds to pixels: `x = (seconds − left) · scale`."""

    width: float = 1.0
    seconds: float = 1.0
    scale: float = 10.0
    left: float = 0.0
    whole: bool = True

    def x(self, seconds: float) -> float:
        """Pixel of a time."""
        return (seconds - self.left) * self.scale

    def at(self, x: float) -> float:
        """Time at a pixel."""
        return x / self.scale + self.left

    def resize(self, width: float, seconds: float) -> None:
        """Another width or length; the whole stays whole, otherwise the scale stays."""
        self.width, self.seconds = max(width, 1.0), max(seconds, 0.1)
        if self.whole:
            self.show_all()
        self._keep_inside()

    def show_all(self) -> None:
        """The whole in the width there is."""
        self.scale = self._smallest()
        self.left = -MARGIN / self.scale
        self.whole = True

    def zoom(self, factor: float, about: float) -> None:
        """Zoom by `factor` so that the time under pixel `about` stays there."""
        fixed = self.at(about)
        self.scale = min(max(self.scale * factor, self._smallest()), CLOSEST)
        self.whole = self.scale <= self._smallest() * 1.001
        self.left = fixed - about / self.scale
        self._keep_inside()

    def pan(self, pixels: float) -> None:
        """Move the view by pixels."""
        self.left += pixels / self.scale
        self._keep_inside()

    def reveal(self, seconds: float) -> None:
        """Move the view, if needed, so that a time is well inside."""
        x = self.x(seconds)
        if not 0.06 * self.width <= x <= 0.9 * self.width:
            self.left = seconds - 0.3 * self.width / self.scale
            self._keep_inside()

    def _smallest(self) -> float:
        return max(self.width - 2 * MARGIN, 1.0) / self.seconds

    def _keep_inside(self) -> None:
        margin = MARGIN / self.scale
        self.left = max(min(self.left, self.seconds + margin - self.width / self.scale), -margin)
