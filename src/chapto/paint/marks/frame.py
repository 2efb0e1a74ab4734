"""A frame: a laced strut between two plates, which folds when it breaks."""

from __future__ import annotations

from PyQt6.QtCore import QPointF
from PyQt6.QtGui import QPainter, QPolygonF

from chapto.document.mark_kinds import MarkState
from chapto.paint.colours import PAPER
from chapto.paint.marks.drawn import Drawn
from chapto.paint.marks.strokes import across, along, away, between, cased, cord, line, paper, path_of, stroke

HALF = 9.0
"""Half the distance of the strut's two rails, in units."""
PLATE, THICK = 25.0, 5.0
STEP = 17.0
FOLD = 0.3
MARGIN = 36.0


def paint(p: QPainter, m: Drawn) -> None:
    """Two rails with their lacing, a plate at each end."""
    one, other = m.points[0], m.points[1]
    if m.state is MarkState.LOOSE:
        knee = between(one, other, 0.5) + across(along(one, other)) * (FOLD * away(one, other))
        _strut(p, m, one, knee)
        _strut(p, m, knee, other)
    else:
        _strut(p, m, one, other)
    for end, far in ((one, other), (other, one)):
        _plate(p, end, along(far, end), m.unit)


def _strut(p: QPainter, m: Drawn, one: QPointF, other: QPointF) -> None:
    u, ahead = m.unit, along(one, other)
    side = across(ahead) * (HALF * u)
    rails = [line(one + side, other + side), line(one - side, other - side)]
    count = max(round(away(one, other) / (STEP * u)), 2)
    lacing = [between(one, other, i / count) + side * (1 if i % 2 else -1) for i in range(count + 1)]
    cased(p, path_of(lacing), 2.0 * u, u)
    for rail in rails:
        cord(p, rail, m.colour, u, width=4.2, loose=m.loose)
    stroke(p, path_of(lacing), PAPER, 2.2 * u)


def _plate(p: QPainter, at: QPointF, out: QPointF, u: float) -> None:
    """A cut piece of paper across the end, bent a little round what it pushes against."""
    side = across(out)
    bent = out * (5 * u)
    corners = [
        at - side * (PLATE * u) + bent, at + out * (THICK * 0.2 * u), at + side * (PLATE * u) + bent,
        at + side * (PLATE * u) + bent + out * (THICK * u), at + out * (THICK * 1.7 * u),
        at - side * (PLATE * u) + bent + out * (THICK * u),
    ]  # fmt: skip
    paper(p, QPolygonF(corners), u)


def hang(m: Drawn) -> QPointF:
    """Where the slip's lace is tied."""
    return between(m.points[0], m.points[1], 0.5)
