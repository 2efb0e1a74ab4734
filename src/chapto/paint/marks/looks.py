"""Which painter draws which kind of mark: the one list a new kind is added to."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

from PyQt6.QtCore import QPointF
from PyQt6.QtGui import QPainter

from chapto.document.mark_kinds import MarkKind, MarkState
from chapto.paint.marks import (
    base,
    force,
    frame,
    gap,
    ghost,
    grip,
    knee_line,
    level,
    path,
    spotlight,
    step,
    weight,
    window,
)
from chapto.paint.marks.drawn import Drawn
from chapto.paint.marks.strokes import away


@dataclass(frozen=True)
class Look:
    """How a kind is painted, where its slip hangs, and how far (in units) it reaches beyond its points; `swing` is how
    much farther it does where it is loose or open, in shares of the way between its first two points."""

    paint: Callable[[QPainter, Drawn], None]
    hang: Callable[[Drawn], QPointF]
    margin: float
    swing: float = 0.0


def reach_of(kind: MarkKind, m: Drawn) -> float:
    """Pixels by which a mark may lie beyond its points, in every direction."""
    look = LOOKS[kind]
    swings = m.state in (MarkState.LOOSE, MarkState.OPEN) and len(m.points) > 1
    return look.margin * m.unit + (look.swing * away(m.points[0], m.points[1]) if swings else 0.0)


def _nothing(p: QPainter, m: Drawn) -> None:
    return


def _middle(m: Drawn) -> QPointF:
    return sum(m.points[1:], m.points[0]) / len(m.points)


K = MarkKind
LOOKS: dict[MarkKind, Look] = {
    K.GRIP: Look(grip.paint, grip.hang, grip.MARGIN),
    K.FRAME: Look(frame.paint, frame.hang, frame.MARGIN, 0.35),
    K.FORCE: Look(force.paint, force.hang, force.MARGIN),
    K.LEVEL: Look(level.paint, level.hang, level.MARGIN),
    K.KNEE_LINE: Look(knee_line.paint, knee_line.hang, knee_line.MARGIN, 1.0),
    K.BASE: Look(base.paint, base.hang, base.MARGIN),
    K.WEIGHT: Look(weight.paint, weight.hang, weight.MARGIN),
    K.STEP: Look(step.paint, step.hang, step.MARGIN),
    K.GAP: Look(gap.paint, gap.hang, gap.MARGIN),
    K.PATH: Look(path.paint, path.hang, path.MARGIN),
    K.SPOTLIGHT: Look(spotlight.paint, spotlight.hang, spotlight.MARGIN),
    K.WINDOW: Look(window.paint, window.hang, window.MARGIN),
    K.GHOST: Look(ghost.paint, ghost.hang, ghost.MARGIN),
    # These two change the picture itself.
    K.CLOSER: Look(_nothing, _middle, 0.0),
    K.COVER: Look(_nothing, _middle, 0.0),
}
