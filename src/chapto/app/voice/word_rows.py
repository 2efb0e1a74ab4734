"""Where words stand under a curve: as near to where they are said as their neighbours allow. Free of Qt."""

from __future__ import annotations

from collections.abc import Sequence

GAP, EDGE = 4.0, 4.0
Place = tuple[float, int]
"""Left edge in pixels, and row."""


def in_rows(centres: Sequence[float], wides: Sequence[float], width: float, rows: int) -> list[Place] | None:
    """A place for each word that is said at `centres` (pixels, rising) and takes `wides`; None where `rows` rows of a
    strip `width` pixels wide do not hold them without touching."""
    places = _from_the_left(centres, wides, rows)
    limits = [width - EDGE] * rows
    for i in range(len(places) - 1, -1, -1):
        x, row = places[i]
        x = min(x, limits[row] - wides[i])
        places[i] = x, row
        limits[row] = x - GAP
        if x < EDGE:
            return None
    return places


def squeezed(centres: Sequence[float], wides: Sequence[float], width: float, rows: int) -> list[Place]:
    """Places that touch, for more words than the strip holds: each over where it is said."""
    return [
        (min(max(c - w / 2, EDGE), max(width - w - EDGE, EDGE)), i % rows)
        for i, (c, w) in enumerate(zip(centres, wides, strict=True))
    ]


def _from_the_left(centres: Sequence[float], wides: Sequence[float], rows: int) -> list[Place]:
    ends = [EDGE - GAP] * rows
    places: list[Place] = []
    for centre, wide in zip(centres, wides, strict=True):
        x = centre - wide / 2
        free = [row for row in range(rows) if ends[row] + GAP <= x]
        row = free[0] if free else min(range(rows), key=lambda r: ends[r])
        x = max(x, ends[row] + GAP)
        places.append((x, row))
        ends[row] = x + wide
    return places
