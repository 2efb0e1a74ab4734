"""A mark as its painter gets it: where its points lie in the programme's picture at one frame."""

from __future__ import annotations

from dataclasses import dataclass

from PyQt6.QtCore import QPointF, QRectF

from chapto.document.joints import Joint
from chapto.document.mark_kinds import MarkState
from chapto.document.people import Side


@dataclass(frozen=True)
class Drawn:
    """`points` are pixels, in the order of the kind's roles, and `sides` whose each is. `colour` is that of whose the
    mark is (`of`), `other` the opponent's; `colours` gives both by side.

    `unit` is a pixel of a picture 720 high. `figure` holds an athlete's joints where one stands behind the mark,
    `before` how they lay earlier, `trail` the way of the first point, oldest first. A mark whose points are only
    guessed is `loose`. `radius` is that of its spot and `box` where its window lies, in pixels; `centre` is where the
    weight is.
    """

    points: tuple[QPointF, ...]
    sides: tuple[Side | None, ...]
    of: Side | None
    colour: str
    other: str
    colours: dict[Side, str]
    unit: float
    state: MarkState | None = None
    figure: dict[Joint, QPointF] | None = None
    before: dict[Joint, QPointF] | None = None
    trail: tuple[QPointF, ...] = ()
    loose: bool = False
    radius: float = 0.0
    box: QRectF | None = None
    centre: QPointF | None = None

    def side_of(self, number: int) -> Side | None:
        """Whose point number `number` is: its own side, else the mark's."""
        return self.sides[number] or self.of

    def colour_of(self, side: Side | None) -> str:
        """The colour of a side; the mark's where nobody is meant."""
        return self.colours[side] if side is not None else self.colour
