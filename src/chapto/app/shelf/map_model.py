"""Where positions and the ways between them stand on the map. Free of Qt.

Groups of positions are columns, from standing to the back, as dominant as they are; in a column the positions that were
seen stand above those that were not.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from math import sqrt

from chapto.matlog.flow import GROUPS
from chapto.shelf.coverage import Coverage, Node, Way

SMALLEST, LARGEST = 5.0, 26.0
"""Radius of a position nobody was in, and of the one most were in."""
UNSEEN = 3
"""Positions of a column that nobody was in and that are shown: those from which most begins."""
MOST_WAYS = 40


@dataclass(frozen=True)
class Spot:
    """A position on the map: its middle and radius, in shares of the map's width and height and in pixels."""

    node: Node
    x: float
    y: float
    radius: float


@dataclass(frozen=True)
class Road:
    """A way on the map, `wide` pixels."""

    way: Way
    start: Spot
    end: Spot
    wide: float

    @property
    def name(self) -> str:
        """From where to where."""
        return f"{self.start.node.name} → {self.end.node.name}"


@dataclass(frozen=True)
class Map:
    """All of it; `heads` are the columns by name with their place across."""

    spots: tuple[Spot, ...]
    roads: tuple[Road, ...]
    heads: tuple[tuple[str, float], ...]


def map_of(found: Coverage) -> Map:
    """The map of what is covered. Columns without any position are left out."""
    most = max((n.seen for n in found.nodes), default=0)
    columns = [(g, _column([n for n in found.nodes if n.group == g])) for g in GROUPS]
    columns = [(g, nodes) for g, nodes in columns if nodes]
    spots: list[Spot] = []
    heads = []
    for i, (group, nodes) in enumerate(columns):
        x = (i + 0.5) / len(columns)
        heads.append((group, x))
        weights = [_radius(n.seen, most) + 11 for n in nodes]
        at = 0.0
        for n, weight in zip(nodes, weights, strict=True):
            spots.append(Spot(n, x, (at + weight / 2) / sum(weights), _radius(n.seen, most)))
            at += weight
    there: Mapping[str, Spot] = {s.node.id: s for s in spots}
    ways = [w for w in found.ways if w.start in there and w.end in there][:MOST_WAYS]
    busiest = max((w.seen for w in ways), default=1)
    roads = tuple(Road(w, there[w.start], there[w.end], 1.2 + 6 * w.seen / busiest) for w in ways)
    return Map(tuple(spots), roads, tuple(heads))


def _column(nodes: list[Node]) -> list[Node]:
    seen = sorted((n for n in nodes if n.seen), key=lambda n: -n.seen)
    unseen = sorted((n for n in nodes if not n.seen and n.techniques), key=lambda n: -n.techniques)
    return [*seen, *unseen[:UNSEEN]]


def _radius(seen: int, most: int) -> float:
    """Areas tell how often."""
    return SMALLEST + (LARGEST - SMALLEST) * sqrt(seen / most) if most else SMALLEST
