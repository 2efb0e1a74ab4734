"""How high the rows of the mat clock are. Free of Qt."""

from __future__ import annotations

from dataclasses import dataclass


@dataclass(frozen=True)
class StripLook:
    """Heights of the rows from top to bottom, in pixels. `slip` is the room above and below the control strip for slips
    with points."""

    ruler: float = 20.0
    film: float = 42.0
    control: float = 92.0
    rounds: float = 17.0
    exchanges: float = 28.0
    moments: float = 14.0
    foot: float = 6.0
    slip: float = 14.0

    @property
    def control_top(self) -> float:
        """Where the control strip begins."""
        return self.ruler + self.film

    @property
    def rounds_top(self) -> float:
        """Where the rounds begin."""
        return self.control_top + self.control

    @property
    def exchanges_top(self) -> float:
        """Where the exchanges begin."""
        return self.rounds_top + self.rounds

    @property
    def moments_top(self) -> float:
        """Where the moments begin."""
        return self.exchanges_top + self.exchanges

    @property
    def height(self) -> float:
        """All rows."""
        return self.moments_top + self.moments + self.foot


LOOK = StripLook()
