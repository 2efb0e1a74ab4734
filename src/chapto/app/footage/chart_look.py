"""How wide and high the parts of the coverage chart are. Free of Qt."""

from __future__ import annotations

from dataclasses import dataclass


@dataclass(frozen=True)
class ChartLook:
    """Pixels: the `gutter` with the cameras' names; from the top the rows of ruler, log and angle track; in each lane
    the room of names, the pictures (`film`) and the curves under them."""

    gutter: float = 142.0
    ruler: float = 22.0
    log: float = 15.0
    angles: float = 30.0
    lane: float = 80.0
    gap: float = 6.0
    name: float = 18.0
    film: float = 38.0
    curve: float = 23.0

    @property
    def lanes_top(self) -> float:
        """Where the first lane begins."""
        return self.ruler + self.log + self.angles + self.gap

    def lane_top(self, number: int) -> float:
        """Top of lane `number`, counted from 0."""
        return self.lanes_top + number * (self.lane + self.gap)

    def film_box(self, number: int) -> tuple[float, float]:
        """Top and height of the pictures of lane `number`."""
        return self.lane_top(number) + self.name, self.film

    def height(self, lanes: int) -> float:
        """All of a chart with so many lanes; an empty one has room for one."""
        return self.lane_top(max(lanes, 1))


LOOK = ChartLook()
