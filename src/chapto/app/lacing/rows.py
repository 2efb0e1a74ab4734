"""The rows of the lacing. Free of Qt."""

from __future__ import annotations

from dataclasses import dataclass


@dataclass(frozen=True)
class Rows:
    """Heights of the lacing's rows, from the top, in pixels."""

    mat_top: float
    mat_foot: float
    rail_top: float
    rail_foot: float
    words_top: float
    words_foot: float
    chapters_foot: float
    height: float


def rows_for(height: float) -> Rows:
    """Rows for a widget of that height: rails keep their size, the bands take what is left."""
    rail_top = height - 110
    return Rows(22, 48, rail_top, rail_top + 22, rail_top + 38, height - 36, height - 18, height)
